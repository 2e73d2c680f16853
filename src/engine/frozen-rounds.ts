import type { Knex } from 'knex'
import type { FrozenRound } from '@/core/rounds/requalify'

/** A released round as the core wants it. Throws when the round was never released. */
export async function readFrozenRound(db: Knex, round: number): Promise<FrozenRound> {
  const standing = await db('round_standing').where({ round_id: round }).first('ids', 'codes')
  if (!standing) throw new Error(`round ${round} was never released`)
  const members = await db('round_member').where({ round_id: round }).orderBy('person_id').select('person_id as id', 'held_by as rule')
  const ids: Buffer = standing.ids
  return {
    standing: { ids: new Int32Array(ids.buffer.slice(ids.byteOffset, ids.byteOffset + ids.byteLength)), codes: Uint8Array.from(standing.codes) },
    clear: members.filter((m) => m.rule === null).map((m) => m.id),
    heldBack: new Map(members.filter((m) => m.rule !== null).map((m) => [m.id, m.rule])),
  }
}

/** Frozen rounds never change, so the last few that were asked for are kept. */
export class FrozenRounds {
  private readonly kept = new Map<number, Promise<FrozenRound>>()

  constructor(private readonly db: Knex) {}

  get(round: number): Promise<FrozenRound> {
    let found = this.kept.get(round)
    if (!found) {
      found = readFrozenRound(this.db, round)
      found.catch(() => this.kept.delete(round))
      this.kept.set(round, found)
      if (this.kept.size > 8) this.kept.delete(this.kept.keys().next().value as number)
    }
    return found
  }
}
