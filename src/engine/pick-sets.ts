import { LRUCache } from 'lru-cache'
import type { Knex } from 'knex'

/** Sets of picked people. They never change, so those that were asked for are kept, the latest some hundred. */
export class PickSets {
  private readonly kept = new LRUCache<number, readonly number[]>({ max: 200 })

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
      }
    }
    return wanted
  }
}
