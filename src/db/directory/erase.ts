import type { Reading } from '@/core/match/reading'
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
export async function eraseRows(trx: Knex, person: number, alsoUploads: readonly number[]): Promise<Erased> {
  // Their words are known only until they are erased.
  await trx.raw('select erase_besides(?, person_words(?))', [person, person])
  const { rows } = await trx.raw('select erase_person(?, ?::bigint[]) as said', [person, [...alsoUploads]])
  return rows[0].said
}

/** What tells of a person: their full names, and addresses and numbers that nobody else in the directory has. */
export async function wordsOf(trx: Knex, person: number): Promise<string[]> {
  const { rows } = await trx.raw('select person_words(?) as words', [person])
  return rows[0].words
}

/** Uploads that wait and whose bytes are packed, so that only reading them tells who is in them. */
export async function packedUploads(trx: Knex): Promise<{ id: number; reading: Reading; header: string[] }[]> {
  return await trx('batch as b')
    .join('batch_file as f', 'f.batch_id', 'b.id')
    .whereNotIn('b.state', ['done', 'undone'])
    .whereNull('f.withdrawn_at')
    .whereRaw(`(b.reading ->> 'format' = 'xlsx' or b.reading ->> 'entry' is not null)`)
    .orderBy('b.id')
    .select('b.id', 'b.reading', 'b.header')
}
