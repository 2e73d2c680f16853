import type { Knex } from 'knex'

/** Sets of picked people. They never change, so those that were asked for are kept, the latest some hundred. */
export class PickSets {
  private readonly kept = new Map<number, readonly number[]>()

  constructor(private readonly db: Knex) {}

  /** The ids of each of some sets. Throws where a set does not exist. */
  async get(ids: readonly number[]): Promise<ReadonlyMap<number, readonly number[]>> {
    const wanted = new Map<number, readonly number[]>()
    const missing = [...new Set(ids)].filter((id) => {
      const known = this.kept.get(id)
      if (known) wanted.set(id, known)
      return !known
    })
    if (missing.length > 0) {
      for (const { id, people } of await this.db('pick_set').whereIn('id', missing).select('id', 'people')) {
        wanted.set(id, people)
        this.kept.set(id, people)
        if (this.kept.size > 200) this.kept.delete(this.kept.keys().next().value as number)
      }
    }
    return wanted
  }
}
