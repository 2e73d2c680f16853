import type { Batch, Undone } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'

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
