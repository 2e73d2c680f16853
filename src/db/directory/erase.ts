import type { Channel } from '@/core/records/channels'
import type { Knex } from '@/db/connection'

/** What an erasure touched. */
export interface Erased {
  records: number
  rows: number
  files: { round: number; channel: Channel }[]
  uploads: number
}

/** Erases a person and the records merged into them, by the one function of the database that may. */
export async function eraseRows(trx: Knex, person: number): Promise<Erased> {
  const { rows } = await trx.raw('select erase_person(?) as said', [person])
  return rows[0].said
}
