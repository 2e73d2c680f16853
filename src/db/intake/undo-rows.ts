import type { Batch, Undone } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { comparablePostal, type PostalParts } from '@/core/clean/postal'
import { organisationKey } from '@/core/clean/organisation'
import { nameKey } from '@/core/clean/name'
import { fold } from '@/core/clean/fold'
import { isSet } from './intake-store'
import type { PremisesColumns } from './premises-rows'
import type { CustomValues } from '@/core/clean/custom'

/** Organisations that this or another undone batch created go with it where nobody works there and nothing else speaks of them. */
export async function withdrawOrganisations(trx: Knex, batch: Batch & { undone_by: string }): Promise<void> {
  const { rows } = await trx.raw(
    `update organisation o set live = false where o.live and o.batch_id in (select id from batch where state in ('undone', 'undoing'))
       and not exists (select 1 from person p where p.organisation_id = o.id and p.state = 'live')
       and not exists (select 1 from suppression s where s.organisation_id = o.id)
       and not exists (select 1 from entry e where e.organisation_id = o.id and e.kind in ('note', 'change') and e.reverses_id is null and e.batch_id is distinct from o.batch_id and not exists (select 1 from entry r where r.reverses_id = e.id))
     returning o.id`,
  )
  await writeEntries(
    trx,
    rows.map((o: { id: number }) => ({
      organisation: o.id,
      kind: 'withdrawn' as const,
      at: now(),
      actor: batch.undone_by,
      batch: batch.id,
      note: `${batch.file_name} was undone`,
    })),
    now(),
  )
}

/**
 * Somebody whom a batch that is undone already created, and whom this one held, goes too once nothing else holds them: so several
 * batches can be undone in any order.
 */
export async function goWithEarlier(trx: Knex, batch: Batch & { undone_by: string }, id: number): Promise<void> {
  const person = await trx('person as p')
    .join('batch as b', 'b.id', 'p.batch_id')
    .where({ 'p.id': id, 'p.state': 'live' })
    .whereNot('p.batch_id', batch.id)
    .whereIn('b.state', ['undone', 'undoing'])
    .first('b.id as created')
  if (!person) return
  if ((await withdraw(trx, batch, id)).undone !== 'withdrawn') return
  await trx('batch_row')
    .where({ batch_id: person.created, person_id: id, undone: 'kept' })
    .update({ undone: 'withdrawn', undone_why: null })
}

/** What counts as having worked on a record: a contact, a note, a change from elsewhere, a suppression, a released round. */
export async function withdraw(trx: Knex, batch: Batch & { undone_by: string }, person: number): Promise<Result> {
  const since = await trx('entry as e')
    .where({ 'e.person_id': person })
    .whereIn('e.kind', ['contact', 'note', 'change', 'suppressed', 'released', 'let through', 'merged'])
    .where((other) =>
      other.whereNull('e.batch_id').orWhereNotIn('e.batch_id', trx('batch').whereIn('state', ['undone', 'undoing']).select('id')),
    )
    // What was taken back is no work, nor is the taking back.
    .whereNull('e.reverses_id')
    .whereNotExists(trx('entry as r').select(trx.raw('1')).whereRaw('r.reverses_id = e.id'))
    .orderBy('e.id')
    .first('e.kind')
  const other = await trx('batch_row as r')
    .join('batch as b', 'b.id', 'r.batch_id')
    .where({ 'r.person_id': person, 'b.kind': 'people' })
    .whereNot('b.id', batch.id)
    .whereNotIn('b.state', ['undone', 'undoing'])
    .whereIn('r.outcome', ['new', 'same', 'updated'])
    .first('b.file_name')
  if (other) return { undone: 'kept', why: `they came with ${other.file_name}, too` }
  if (since) return { undone: 'kept', why: `worked on since: ${WORK[since.kind] ?? since.kind}` }
  await trx('person').where({ id: person }).update({ state: 'withdrawn' })
  await writeEntries(
    trx,
    [{ person, kind: 'withdrawn', at: now(), actor: batch.undone_by, batch: batch.id, note: `${batch.file_name} was undone` }],
    now(),
  )
  return { undone: 'withdrawn', why: null }
}

export type Result = { undone: Undone; why: string | null }

export const WORK: Record<string, string> = {
  contact: 'a contact',
  note: 'a note',
  change: 'a change',
  suppressed: 'a suppression',
  released: 'released in a round',
  merged: 'another record was merged into it',
}

/** A change of the ledger, and whether the batch that is being undone made it, and whether it was taken back already. */
export interface Change {
  id: number
  field: string
  before: string | null
  after: string | null
  mine: boolean
  reversed: boolean
}

/** Changes of a field of a record that reverse none, the oldest first; `mine` are those of the batch. */
export async function changeEntries(trx: Knex, of: 'person_id' | 'premises_id', batchId: number, id: number) {
  const { rows } = await trx.raw(
    `select e.id, e.field, v.before, v.after, e.batch_id is not distinct from ? as mine, exists (select 1 from entry r where r.reverses_id = e.id) as reversed
     from entry e left join entry_value v on v.id = e.value_id where e.${of} = ? and e.kind = 'change' and e.reverses_id is null order by e.id`,
    [batchId, id],
  )
  return rows
}

/** Returns another batch that holds these premises and was not undone; undefined where there is none. */
export async function otherBatchOfPremises(trx: Knex, id: number, batchId: number) {
  return await trx('batch_row as r')
    .join('batch as b', 'b.id', 'r.batch_id')
    .where({ 'r.premises_id': id })
    .whereNot('b.id', batchId)
    .whereNotIn('b.state', ['undone', 'undoing'])
    .whereIn('r.outcome', ['new', 'same', 'updated'])
    .first('b.file_name')
}

/** Withdraws premises that only an undone batch brought. */
export async function withdrawPremises(trx: Knex, id: number) {
  return await trx('premises').where({ id }).update({ state: 'withdrawn' })
}

/** Returns what a batch changed about organisations and nothing has reversed, newest first. */
export async function organisationChanges(trx: Knex, batchId: number) {
  const { rows } = await trx.raw(
    `select e.id, e.organisation_id, e.field, v.before, v.after from entry e join entry_value v on v.id = e.value_id
     where e.batch_id = ? and e.kind = 'change' and e.organisation_id is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
       and e.reverses_id is null
     order by e.id desc`,
    [batchId],
  )
  return rows
}

/** Returns the history of organisations field by field, telling what this batch did and what was reversed. */
export async function organisationEntries(trx: Knex, mine: number[], batchId: number) {
  const { rows } = await trx.raw(
    `select e.id, e.organisation_id, e.field, v.before, v.after, e.batch_id is not distinct from ? as mine, exists (select 1 from entry r where r.reverses_id = e.id) as reversed
       from entry e left join entry_value v on v.id = e.value_id where e.organisation_id = any(?::bigint[]) and e.kind = 'change' and e.reverses_id is null order by e.id`,
    [batchId, [...new Set(mine)]] as never,
  )
  return rows
}

/** Puts a column of an organisation back to the value before a batch. */
export async function updateOrganisationColumn(
  trx: Knex,
  organisation: number,
  column: Record<string, string>,
  field: string,
  before: string | null,
) {
  return await trx('organisation')
    .where({ id: organisation })
    .update({ [column[field]]: field === 'headCount' && before !== null ? Number(before) : before })
}

/** Puts a field of the team's own on an organisation back to the value before a batch. */
export async function updateOrganisationField(trx: Knex, organisation: number, id: number, before: string | null) {
  return await trx('organisation')
    .where({ id: organisation })
    .update({
      details: trx.raw('details - ?::text || ?::jsonb', [String(id), JSON.stringify(before === null ? {} : { [id]: before })]),
    })
}

/** Returns the addresses of organisations that an undo moved. */
export async function organisationsMoved(trx: Knex, rows: number[]) {
  return await trx('organisation')
    .whereIn('id', [...new Set(rows)] as number[])
    .select('id', 'street', 'town', 'postcode')
}

/** Writes the key by which the address of an organisation is compared. */
export async function updateOrganisationKey(trx: Knex, id: number, postal: Parameters<typeof comparablePostal>[0]) {
  return await trx('organisation')
    .where({ id })
    .update({ address_key: comparablePostal(postal) })
}

/** Returns the address that a batch gave a person by this channel; undefined where it is gone. */
export async function addressTold(trx: Knex, person: number, field: string, after: string | null, batchId: number) {
  return await trx('address').where({ person_id: person, channel: field, value: after, batch_id: batchId }).first('id')
}

/** Returns an entry that refers to an address; undefined where nothing does. */
export async function entryOfAddress(trx: Knex, address: { id: number }) {
  return await trx('entry').where({ address_id: address.id }).first('id')
}

/** Deletes an address that nothing refers to. */
export async function deleteAddress(trx: Knex, address: { id: number }) {
  return await trx('address').where({ id: address.id }).delete()
}

/** Returns the live organisation of this name, compared as names are; the oldest where several have it. */
export async function organisationByKey(trx: Knex, before: string) {
  return await trx('organisation')
    .where({ name_key: organisationKey(before), live: true })
    .orderBy('id')
    .first('id')
}

/** Puts a person back to what they were before a batch. */
export async function updatePersonBack(
  trx: Knex,
  {
    personId,
    plain,
    name,
    nextGiven,
    nextFamily,
    next,
  }: {
    personId: number
    plain: { [x: string]: unknown }
    name: string
    nextGiven: string
    nextFamily: string
    next: Record<string, unknown> & PostalParts & { id: number; given: string; family: string; organisation_id: number | null }
  },
) {
  return await trx('person')
    .where({ id: personId })
    .update({
      ...plain,
      name,
      name_key: nameKey(nextGiven, nextFamily) ?? '',
      sort_key: `${fold(nextFamily)} ${fold(nextGiven)}`.trim(),
      address_key: comparablePostal(next),
    })
}

/** Returns the organisations that an undo may put a person back into. */
export async function organisationsMeant(trx: Knex, organisations: string[], from: number | null, to: number | null) {
  return await trx('organisation')
    .whereIn('id', [from, to].filter(isSet))
    .orWhereIn('name_key', organisations)
    .orderBy('id')
    .select('id', 'street', 'town', 'postcode')
}

/** Writes what an undo did with each row and why. `rows` is JSON. */
export async function markUndone(trx: Knex, rows: string, id: number) {
  return await trx.raw(
    `update batch_row b set undone = r.undone, undone_why = r.why from jsonb_to_recordset(?::jsonb) as r(row_no int, undone text, why text) where b.batch_id = ? and b.row_no = r.row_no`,
    [rows, id],
  )
}

/** Deletes the other spellings of names that a batch brought for these people. */
export async function deleteVariants(trx: Knex, rows: number[], batchId: number) {
  return await trx('name_variant').where({ batch_id: batchId }).whereIn('person_id', rows).delete()
}

/** Returns the contacts that a batch recorded for people and nothing has reversed. */
export async function contactsOfBatch(trx: Knex, batchId: number, people: number[]) {
  const { rows } = await trx.raw(
    `select e.id, e.person_id from entry e where e.batch_id = ? and e.kind = 'contact' and e.person_id = any(?::bigint[]) and not exists (select 1 from entry r where r.reverses_id = e.id)`,
    [batchId, people] as never,
  )
  return rows
}

/** Puts premises back to what they were before a batch, with the keys that follow from the columns. */
export async function updatePremises(
  trx: Knex,
  derived: {
    name_key: string
    address_key: string | null
    owner_name_key: string | null
    owner_organisation_key: string | null
    owner_address_key: string | null
  },
  id: number,
  columns: Partial<PremisesColumns>,
  details: CustomValues | undefined,
) {
  return await trx('premises')
    .where({ id })
    .update({
      ...columns,
      ...(details ? { details: JSON.stringify(details) } : {}),
      ...derived,
    })
}

/** Returns the next rows to undo, from the end of the file backwards. */
export async function rowsToUndo(trx: Knex, id: number, from: number, most: number) {
  return await trx('batch_row')
    .where({ batch_id: id })
    .where('row_no', '<', from)
    .whereNull('undone')
    .orderBy('row_no', 'desc')
    .limit(most)
    .select('row_no', 'outcome', 'person_id', 'premises_id')
}
