import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Line } from '@/core/lists/line'

/** The lines of an edition of a list, of its latest where no number is given. */
export async function latestLines(trx: Knex, list: number, number: number | null) {
  const editions = trx('edition').where({ list_id: list }).orderBy('number', 'desc').first('lines', 'number')
  return await (number === null ? editions : editions.where({ number }))
}

/** Returns the lines of the latest edition of each list. */
export async function latestLinesOf(trx: Knex, lists: number[]) {
  const { rows } = await trx.raw(
    'select distinct on (list_id) list_id, lines from edition where list_id = any(?::bigint[]) order by list_id, number desc',
    [lists],
  )
  return rows
}

/** Returns the lines of an edition by its number. */
export async function editionLines(trx: Knex, list: number, number: number) {
  return await trx('edition').where({ list_id: list, number }).first('lines')
}

/** Returns the lines of the edition before this number. */
export async function linesBefore(trx: Knex, list: number, number: number) {
  return await trx('edition')
    .where({ list_id: list, number: number - 1 })
    .first('lines')
}

/** Inserts an edition. Its number is unique in its list, so of two saved at once the second fails. */
export async function insertEditionRow(
  trx: Knex,
  {
    list,
    number,
    signed,
    balance,
    why,
    actorId,
  }: { list: number; number: number; signed: Line[]; balance: number | null; why: string; actorId: string },
) {
  return await trx('edition').insert({
    list_id: list,
    number,
    lines: JSON.stringify(signed),
    balance,
    why: why.trim().slice(0, 200) || null,
    saved_by: actorId,
    saved_at: now(),
  })
}

/** Returns the editions of a list, newest first, with who saved each and why. */
export async function editionRows(trx: Knex, id: number) {
  return await trx('edition as e')
    .leftJoin('user as u', 'u.id', 'e.saved_by')
    .where({ list_id: id })
    .orderBy('number', 'desc')
    .select('e.number', 'e.saved_at', 'e.balance', 'e.why', 'u.name as by', trx.raw('jsonb_array_length(e.lines) as lines'))
}

/** Returns the lines of an edition by its id. */
export async function linesById(trx: Knex, id: number) {
  return await trx('edition').where({ id }).first('lines')
}

/** Returns the number of an edition by its id. */
export async function numberById(trx: Knex, id: number) {
  return await trx('edition').where({ id }).first('number')
}
