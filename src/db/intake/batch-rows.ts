import type { Batch, BatchAccount, BatchOptions, Outcome, Undone } from '@/core/views/intake-views'
import type { BatchKind, Mapping } from '@/core/match/columns'
import { paged } from '@/db/paged'
import { insertRows } from '@/db/insert-rows'
import { db, type Knex } from '@/db/connection'
import type { Shaping } from '@/core/match/shaping'
import { now } from '@/runtime/clock'

/** Whether somebody may see a batch, or an enquiry, that stands in a query under some name: what is about a list belongs to it, all others to the team. */
export const batchSeenBy = (batch: string) =>
  `(${batch}.list_id is null or exists (select 1 from list bl where bl.id = ${batch}.list_id and role_on(bl, ?) is not null))`

/** Returns what an undo did, counted by what became of the rows, and who asked for it. */
export async function undoneCounts(id: number, by: string | null): Promise<BatchAccount['undone']> {
  const counts = await db()('batch_row')
    .where({ batch_id: id })
    .whereNotNull('undone')
    .groupBy('undone')
    .select('undone', db().raw('count(*)::int as n'))
  const who = await db()('user')
    .where({ id: by ?? '' })
    .first('name')
  return { counts: Object.fromEntries(counts.map((c) => [c.undone, c.n])), by: who?.name ?? '' }
}

/** Returns those of these batches that the reader may see. */
export async function batchesSeen(trx: Knex, ids: number[], actorId: string) {
  return await trx('batch').whereIn('id', ids).whereRaw(batchSeenBy('batch'), [actorId]).select('id')
}

/** Returns all columns of a batch. */
export async function batchRow(trx: Knex, id: number) {
  return await trx('batch').where({ id }).first()
}

/** A batch that somebody may see, locked where it is to be changed. */
export async function batchSeen(trx: Knex, id: number, actorId: string, lock = false): Promise<Batch | undefined> {
  const batch = trx('batch').where({ id }).whereRaw(batchSeenBy('batch'), [actorId]).first()
  return await (lock ? batch.forUpdate() : batch)
}

/** Keeps the list that was made of a batch. */
export async function updateListOf(trx: Knex, batch: number, listId: number) {
  return await trx('batch').where({ id: batch }).update({ list_id: listId })
}

/** Returns the newest 200 batches that the reader may see. `counted` is SQL for the counts by outcome. */
export async function batchIndexRows(trx: Knex, counted: string, actorId: string) {
  return await trx('batch as b')
    .leftJoin('user as u', 'u.id', 'b.actor_id')
    .whereRaw(batchSeenBy('b'), [actorId])
    .orderBy('b.id', 'desc')
    .limit(200)
    .select('b.id', 'b.kind', 'b.file_name', 'b.state', 'b.created_at', 'b.rows_total', 'b.rows_done', 'u.name as by')
    .select(trx.raw(`${counted} as counts`))
}

/** Returns the counts of a batch by outcome. `counted` is SQL. */
export async function rowCounts(trx: Knex, counted: string, id: number) {
  const { rows } = await trx.raw(`select ${counted} as counts`, [id])
  return rows
}

/** Returns the newest other batch with the same bytes that the reader may see and that was read; undefined where there is none. */
export async function twinRow(trx: Knex, id: number, actorId: string) {
  return await trx('batch_file as mine')
    .join('batch_file as f', 'f.sha256', 'mine.sha256')
    .join('batch as b', 'b.id', 'f.batch_id')
    .where('mine.batch_id', id)
    .whereNot('b.id', id)
    .whereNotIn('b.state', ['mapping', 'undone'])
    .whereRaw(batchSeenBy('b'), [actorId])
    .orderBy('b.id', 'desc')
    .first('b.id', 'b.file_name', 'b.created_at')
}

/** Returns what a batch changed about these people and premises, oldest first. */
export async function changesOfRows(trx: Knex, batch: number, people: number[], premises: number[]) {
  const { rows } = await trx.raw(
    `select e.person_id as person, e.premises_id as premises, e.field, v.before, v.after from entry e left join entry_value v on v.id = e.value_id
     where e.batch_id = ? and e.kind = 'change' and e.reverses_id is null and (e.person_id = any(?::bigint[]) or e.premises_id = any(?::bigint[])) order by e.id`,
    [batch, people, premises] as never,
  )
  return rows
}

/** Returns the rows of a batch with one outcome, in the order of the file. */
export async function rowsWithOutcome(trx: Knex, id: number, outcome: string) {
  return await trx('batch_row').where({ batch_id: id, outcome }).orderBy('row_no').select('row_no', 'raw', 'reason')
}

/** Returns a query for the newest 100 files of people that the reader may see. */
export const batchesOfPeople = (trx: Knex, actorId: string) =>
  trx('batch')
    .where({ kind: 'people', state: 'done' })
    .whereRaw(batchSeenBy('batch'), [actorId])
    .orderBy('id', 'desc')
    .limit(100)
    .select('id', 'file_name as name')

/** Keeps how the columns of a batch are to be read. */
export async function updateMapping(trx: Knex, id: number, kind: string, mapping: Mapping, shaping: Shaping) {
  return await trx('batch')
    .where({ id })
    .update({ kind, mapping: JSON.stringify(mapping), shaping: JSON.stringify(shaping) })
}

/** Queues a batch with its options, and the register it brings where it is one. */
export async function queueBatch(
  trx: Knex,
  rules: Partial<Record<'name' | 'organisation' | 'role' | 'county' | 'relation' | 'address' | 'own fields', 'blanks' | 'ask'>>,
  id: number,
  options: BatchOptions,
  register: { name: string; version: string } | undefined,
) {
  return await trx('batch')
    .where({ id })
    .update({ options: JSON.stringify({ ...options, register, rules: rules }), state: 'queued' })
}

/** Returns a row of a batch with the records it may be. */
export async function rowToSettle(trx: Knex, batchId: number, rowNo: number) {
  return await trx('batch_row').where({ batch_id: batchId, row_no: rowNo }).first('row_no', 'raw', 'outcome', 'candidates')
}

/** Queues a batch again that failed, or goes on with it where its rows are already in. */
export async function beginAgain(trx: Knex, id: number, total: number | null) {
  return await trx('batch')
    .where({ id })
    .update({ state: total === null ? 'queued' : 'running', error: null, finished_at: null })
}

/** Marks a batch as failed while its file was read. */
export async function failBatch(trx: Knex, id: number, message: string) {
  return await trx('batch')
    .where({ id })
    .update({
      state: 'failed',
      error: `The file could not be read to the end: ${message} The rows before that place are kept.`,
      finished_at: now(),
    })
}

/** Writes why a batch stopped. Never fails itself: it is called while another error is on its way. */
export async function writeError(trx: Knex, id: number, kept: string) {
  return await trx('batch')
    .where({ id })
    .update({ error: kept })
    .catch(() => {})
}

/** Inserts rows of a file as they came. Rows that are there already stay as they are. */
export async function insertBatchRows(trx: Knex, block: { batch_id: number; row_no: number; raw: string[] }[]) {
  return await insertRows(trx, 'batch_row', { batch_id: 'bigint', row_no: 'int', raw: 'text[]' }, block, {
    conflict: '(batch_id, row_no) do nothing',
  })
}

/** Marks a batch as running, with how many rows it has. */
export async function beginRows(trx: Knex, batchId: number, total: number) {
  return await trx('batch').where({ id: batchId }).update({ state: 'running', rows_total: total })
}

/** Locks a batch and returns all columns. */
export async function lockBatch(trx: Knex, batchId: number) {
  return await trx('batch').where({ id: batchId }).forUpdate().first()
}

/** Keeps how many rows of a batch are done, and ends it after the last. */
export async function updateDone(trx: Knex, batchId: number, finished: boolean, rowsDone: number, at: Date) {
  return await trx('batch')
    .where({ id: batchId })
    .update({ state: finished ? 'done' : 'running', rows_done: rowsDone, finished_at: finished ? at : null, error: null })
}

/** Marks a batch as being undone, and by whom. */
export async function beginUndo(trx: Knex, id: number, actorId: string) {
  return await trx('batch').where({ id }).update({ state: 'undoing', undone_by: actorId, error: null })
}

/** Marks a batch as undone. */
export async function finishUndo(trx: Knex, id: number) {
  return await trx('batch').where({ id }).update({ state: 'undone', undone_at: now() })
}

/** Returns the live people whom a batch brought or touched and whose rows were not undone. */
export async function peopleOfBatch(trx: Knex, ofBatch: number) {
  return await trx('batch_row as r')
    .join('person as p', 'p.id', 'r.person_id')
    .where({ 'r.batch_id': ofBatch, 'p.state': 'live' })
    .whereNull('r.undone')
    .distinct('p.id')
    .orderBy('p.id')
    .select('p.id')
}

/** Writes the options of a batch that a purchase made, with its list. */
export async function updateOptions(
  trx: Knex,
  batch: number,
  rules:
    | { name: string; role: string; organisation: string; address: string }
    | { name?: undefined; role?: undefined; organisation?: undefined; address?: undefined },
  list: number | null,
) {
  return await trx('batch')
    .where({ id: batch })
    .update({ options: JSON.stringify({ rules }), list_id: list })
}

/** Returns a row of a batch with its reason and the records it may be. */
export async function rowInDoubt(trx: Knex, batchId: number, rowNo: number) {
  return await trx('batch_row').where({ batch_id: batchId, row_no: rowNo }).first('raw', 'reason', 'outcome', 'candidates')
}

/** Rows of a batch that ended in one way, in the order of the file, with the record that each is of. */
export const batchRowsPage = (
  trx: Knex,
  id: number,
  of: { outcome: Outcome } | { undone: Undone },
  page: { offset: number; limit: number },
) =>
  paged(trx, trx('batch_row as r').where({ 'r.batch_id': id, ...of }), page, (query) =>
    query
      .leftJoin('person as p', 'p.id', 'r.person_id')
      .leftJoin('premises as m', 'm.id', 'r.premises_id')
      .orderBy('row_no')
      .select(
        'r.row_no',
        'r.raw',
        'r.reason',
        'r.person_id',
        'p.name',
        'r.premises_id',
        'm.name as premises',
        'r.candidates',
        'r.undone',
        'r.undone_why',
      ),
  )

/** What a batch keeps of a file before its rows are read: how it is read, its columns, and how they are mapped, each as JSON. */
export interface ReadColumns {
  reading: string
  choices: string
  header: string[]
  first_rows: string
  mapping: string
  shaping: string
}

/** Inserts a batch and returns its id. */
export async function insertBatch(
  trx: Knex,
  batch: ReadColumns & { kind: BatchKind; file_name: string; actor_id: string; created_at: Date },
) {
  return await trx('batch').insert(batch, 'id')
}

/** Writes what was read of a file's columns. */
export async function updateBatch(trx: Knex, id: number, read: ReadColumns) {
  return await trx('batch').where({ id }).update(read)
}
