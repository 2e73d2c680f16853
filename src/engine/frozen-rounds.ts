import { LRUCache } from 'lru-cache'
import type { Knex } from 'knex'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { type FrozenRound, type FrozenSets, frozenSets } from '@/core/rounds/requalify'

/** A released round as the core wants it. Throws when the round was never released. */
export async function readFrozenRound(db: Knex, round: number): Promise<FrozenRound> {
  const standing = await db('round_standing').where({ round_id: round }).first('ids', 'codes')
  if (!standing) throw new Error(`round ${round} was never released`)
  const members = await db('round_member').where({ round_id: round }).orderBy('person_id').select('person_id as id', 'held_by as rule')
  const { rules }: { rules: { id: string }[] } = await db('round').where({ id: round }).first('rules')
  const ids: Buffer = standing.ids
  return {
    standing: {
      ids: new Int32Array(ids.buffer.slice(ids.byteOffset, ids.byteOffset + ids.byteLength)),
      codes: Uint8Array.from(standing.codes),
    },
    clear: members.filter((m) => m.rule === null).map((m) => m.id),
    heldBack: new Map(members.filter((m) => m.rule !== null).map((m) => [m.id, m.rule])),
    rules: rules.map(({ id }) => id),
  }
}

/** A frozen round, and the sets it makes over the columns that are in use. */
export class Frozen {
  private made: { columns: PeopleColumns; size: number; sets: FrozenSets } | null = null

  constructor(private readonly round: FrozenRound) {}

  /** Made once for as long as the columns are the same; again when somebody who had no record number may have got one. */
  over(columns: PeopleColumns): FrozenSets {
    const { made } = this
    if (made?.columns === columns && (made.size === columns.size || made.sets.complete)) return made.sets
    const sets = frozenSets(this.round, columns)
    this.made = { columns, size: columns.size, sets }
    return sets
  }
}

/** Frozen rounds never change, so the last few that were asked for are kept. */
export class FrozenRounds {
  private readonly kept = new LRUCache<number, Promise<Frozen>>({ max: 8 })

  constructor(private readonly db: Knex) {}

  get(round: number): Promise<Frozen> {
    let found = this.kept.get(round)
    if (!found) {
      found = readFrozenRound(this.db, round).then((frozen) => new Frozen(frozen))
      found.catch(() => this.kept.delete(round))
      this.kept.set(round, found)
    }
    return found
  }
}
