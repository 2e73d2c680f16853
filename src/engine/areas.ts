import type { Knex } from 'knex'
import type { AreaShape } from '@/core/areas/shape'

/** Shapes of areas, which never change, so the last ones asked for are kept. */
export class Areas {
  private readonly kept = new Map<number, AreaShape>()

  constructor(private readonly db: Knex) {}

  /** The shapes by the number of their area; those that do not exist are not among them. */
  async get(ids: number[]): Promise<Map<number, AreaShape>> {
    const missing = [...new Set(ids)].filter((id) => !this.kept.has(id))
    if (missing.length > 0) {
      for (const { id, shape } of await this.db('area').whereIn('id', missing).select('id', 'shape')) {
        this.kept.set(id, shape)
        if (this.kept.size > 500) this.kept.delete(this.kept.keys().next().value as number)
      }
    }
    return new Map(ids.flatMap((id) => (this.kept.has(id) ? [[id, this.kept.get(id) as AreaShape]] : [])))
  }
}
