import { LRUCache } from 'lru-cache'
import type { Knex } from 'knex'
import type { AreaShape } from '@/core/areas/shape'

/** Shapes of areas, which never change, so the last ones asked for are kept. */
export class Areas {
  private readonly kept = new LRUCache<number, AreaShape>({ max: 500 })

  constructor(private readonly db: Knex) {}

  /** The shapes by the number of their area; those that do not exist are not among them. */
  async get(ids: number[]): Promise<Map<number, AreaShape>> {
    const wanted = new Map<number, AreaShape>()
    const missing = [...new Set(ids)].filter((id) => {
      const known = this.kept.get(id)
      if (known) wanted.set(id, known)
      return !known
    })
    if (missing.length > 0) {
      for (const { id, shape } of await this.db('area').whereIn('id', missing).select('id', 'shape')) {
        wanted.set(id, shape)
        this.kept.set(id, shape)
      }
    }
    return wanted
  }
}
