import { customIdOf } from '@/core/clean/custom'
import { organisationKey } from '@/core/clean/organisation'
import { nameKey } from '@/core/clean/name'
import { fold } from '@/core/clean/fold'
import { type PostalParts, comparablePostal } from '@/core/clean/postal'
import type { Batch, Undone } from '@/core/views/intake-views'
import { db, type Knex } from '@/db/connection'
import { isSet } from '@/db/intake/intake-store'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueue } from '@/usecases/work/enqueue'
import { tellWork } from '@/usecases/team/news'
import { undoPremises } from './undo-premises'
import { batchFor } from './batch-for'
import { type Change, valueUnder } from './undone-values'
import { postalFor, postalOfText, postalText, postOf, writePost } from '@/usecases/directory/postal-address'

const CHUNK = 200
/** Above every row number there is: the largest int4. */
const LAST_ROW = 2147483647

/** Begins to undo a batch. The job goes through its rows from the last to the first and writes what became of each. */
export async function undoBatch(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Undoing a batch')
  await db().transaction(async (trx) => {
    const batch = await batchFor(actor, id, trx, true)
    if (batch.state === 'undoing' || batch.state === 'undone') throw new Refused('This batch is undone already, or about to be.')
    if (batch.state !== 'done' && batch.state !== 'failed')
      throw new Refused('The batch is still being brought in. It can be undone once it is in.')
    await trx('batch').where({ id }).update({ state: 'undoing', undone_by: actor.id, error: null })
    await enqueue(trx, 'undo-batch', { batch: id })
  })
}

interface Row {
  row_no: number
  outcome: string | null
  person_id: number | null
  premises_id: number | null
}

type Result = { undone: Undone; why: string | null }

/**
 * Undoes a batch, some rows a transaction, so that a run that is stopped anywhere goes on from there. Records it created
 * are withdrawn and fields go back, unless they were worked on since; contacts are reversed by entries; suppressions stay.
 */
export async function runUndo(id: number): Promise<void> {
  // Every row from this one on is done: those settled already are not gone through again for each transaction.
  for (let before: number | null = LAST_ROW; before !== null; ) {
    const from: number = before
    before = await db().transaction(async (trx) => {
      const batch: (Batch & { undone_by: string }) | undefined = await trx('batch').where({ id }).forUpdate().first()
      if (batch?.state !== 'undoing') return null
      // A release is either over, and whom it released is kept, or begins after this.
      await passGate(trx)
      const rows: Row[] = await trx('batch_row')
        .where({ batch_id: id })
        .where('row_no', '<', from)
        .whereNull('undone')
        .orderBy('row_no', 'desc')
        .limit(CHUNK)
        .select('row_no', 'outcome', 'person_id', 'premises_id')
      const results = await undoRows(trx, batch, rows)
      await trx.raw(
        `update batch_row b set undone = r.undone, undone_why = r.why from jsonb_to_recordset(?::jsonb) as r(row_no int, undone text, why text) where b.batch_id = ? and b.row_no = r.row_no`,
        [JSON.stringify(rows.map((row) => ({ row_no: row.row_no, ...results.get(row.row_no) }))), id],
      )
      if (rows.length === CHUNK) return rows[CHUNK - 1].row_no
      if (batch.kind === 'people') {
        await undoOrganisations(trx, batch)
        await withdrawOrganisations(trx, batch)
      }
      await trx('batch').where({ id }).update({ state: 'undone', undone_at: now() })
      await tellWork(trx, batch.undone_by, `${batch.file_name} is undone.`, `/intake/${id}`)
      return null
    })
  }
}

async function undoRows(trx: Knex, batch: Batch & { undone_by: string }, rows: Row[]): Promise<Map<number, Result>> {
  const nothing: Result = { undone: 'nothing to undo', why: null }
  const acted = rows.filter((r) => r.outcome === 'new' || r.outcome === 'updated')
  const results = new Map<number, Result>(rows.map((r) => [r.row_no, nothing]))
  // Also of rows that told nothing else.
  await trx('name_variant')
    .where({ batch_id: batch.id })
    .whereIn(
      'person_id',
      rows.flatMap((r) => r.person_id ?? []),
    )
    .delete()
  if (batch.kind === 'suppressions')
    for (const row of acted) results.set(row.row_no, { undone: 'kept', why: 'suppressions stay; each can be lifted' })
  if (batch.kind === 'contacts') await undoContacts(trx, batch, acted, results)
  if (batch.kind === 'people' || batch.kind === 'premises') {
    const undo = batch.kind === 'people' ? undoPerson : undoPremises
    const perRecord = new Map<number, Result>()
    for (const row of acted) {
      const id = row.person_id ?? row.premises_id
      if (id === null) continue
      let result = perRecord.get(id)
      if (!result) perRecord.set(id, (result = await undo(trx, batch, id)))
      results.set(row.row_no, result)
    }
    if (batch.kind === 'people') for (const id of new Set(rows.flatMap((row) => row.person_id ?? []))) await goWithEarlier(trx, batch, id)
  }
  return results
}

/**
 * Somebody whom a batch that is undone already created, and whom this one held, goes too once nothing else holds them: so several
 * batches can be undone in any order.
 */
async function goWithEarlier(trx: Knex, batch: Batch & { undone_by: string }, id: number): Promise<void> {
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

async function undoContacts(trx: Knex, batch: Batch & { undone_by: string }, rows: Row[], results: Map<number, Result>): Promise<void> {
  const people = rows.flatMap((r) => (r.person_id === null ? [] : [r.person_id]))
  const { rows: entries } = await trx.raw(
    `select e.id, e.person_id from entry e where e.batch_id = ? and e.kind = 'contact' and e.person_id = any(?::bigint[]) and not exists (select 1 from entry r where r.reverses_id = e.id)`,
    [batch.id, people] as never,
  )
  await writeEntries(
    trx,
    entries.map((e: { id: number; person_id: number }) => ({
      person: e.person_id,
      kind: 'reversed' as const,
      at: now(),
      actor: batch.undone_by,
      batch: batch.id,
      reverses: e.id,
      note: `${batch.file_name} was undone`,
    })),
    now(),
  )
  // A contact to come that one of them made good is to come again, as long as its round is out.
  await trx.raw(
    `update contact_to_come t set ended_at = null, entry_id = null from round r where r.id = t.round_id and r.closed_at is null and t.entry_id = any(?::bigint[])`,
    [entries.map((e: { id: number }) => e.id)] as never,
  )
  for (const row of rows) results.set(row.row_no, { undone: 'reversed', why: null })
}

async function undoPerson(trx: Knex, batch: Batch & { undone_by: string }, id: number): Promise<Result> {
  const person = await trx('person').where({ id }).forNoKeyUpdate().first()
  if (person?.state !== 'live')
    return { undone: 'kept', why: person?.state === 'merged' ? 'merged into another record since' : 'withdrawn already' }
  if (person.batch_id === batch.id) return withdraw(trx, batch, person.id)
  // Every change there was, in its order, but those that took another back.
  const changes: Change[] = (
    await trx.raw(
      `select e.id, e.field, v.before, v.after, e.batch_id is not distinct from ? as mine, exists (select 1 from entry r where r.reverses_id = e.id) as reversed
       from entry e left join entry_value v on v.id = e.value_id where e.person_id = ? and e.kind = 'change' and e.reverses_id is null order by e.id`,
      [batch.id, id],
    )
  ).rows
  const entries: NewEntry[] = []
  const kept: string[] = []
  const columns: Record<string, unknown> = { tags: person.tags }
  for (const change of changes.filter((c) => c.mine && !c.reversed).reverse()) {
    const common = { person: id, at: now(), actor: batch.undone_by, reverses: change.id }
    // Tags, emails and phones are added to what there is, and taken from it by themselves.
    const later =
      !ADDED.includes(change.field) && changes.some((c) => c.field === change.field && c.id > change.id && !c.mine && !c.reversed)
    const before = valueUnder(changes, change)
    if (later || !(await putBack(trx, batch, id, { ...change, before }, columns))) {
      kept.push(change.field)
      // What was set since stays; when that is undone as well, this one is passed over.
      if (later)
        entries.push({
          ...common,
          kind: 'reversed',
          note: `${batch.file_name} was undone; ${change.field} was set otherwise since, and is kept`,
        })
      continue
    }
    entries.push({ ...common, kind: 'change', field: change.field, before: change.after, after: before })
  }
  const back = entries.filter((e) => e.kind === 'change')
  if (back.length > 0)
    await writeBack(
      trx,
      person,
      columns,
      changes
        .filter((c) => c.field === 'organisation')
        .flatMap((c) => [c.before, c.after])
        .filter(isSet),
    )
  await writeEntries(trx, entries, now())
  const why = kept.length > 0 ? `${[...new Set(kept)].join(', ')}: worked on since, and kept` : null
  return back.length > 0 ? { undone: 'put back', why } : { undone: 'kept', why: why ?? 'nothing of it stands any more' }
}

/** What counts as having worked on a record: a contact, a note, a change from elsewhere, a suppression, a released round. */
async function withdraw(trx: Knex, batch: Batch & { undone_by: string }, person: number): Promise<Result> {
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

const WORK: Record<string, string> = {
  contact: 'a contact',
  note: 'a note',
  change: 'a change',
  suppressed: 'a suppression',
  released: 'released in a round',
  merged: 'another record was merged into it',
}

const COLUMN: Record<string, string> = {
  role: 'role',
  relation: 'relation',
  county: 'county',
  street: 'street',
  town: 'town',
  postcode: 'postcode',
  'given name': 'given',
  'family name': 'family',
  'outside id': 'outside_id',
}

/** Notes what a change was made from among the columns to be written; false where it cannot go back. */
async function putBack(
  trx: Knex,
  batch: Batch,
  person: number,
  { field, before, after }: Change,
  columns: Record<string, unknown>,
): Promise<boolean> {
  if (field === 'email' || field === 'phone') {
    const address = await trx('address').where({ person_id: person, channel: field, value: after, batch_id: batch.id }).first('id')
    if (!address) return false
    if (await trx('entry').where({ address_id: address.id }).first('id')) return false
    await trx('address').where({ id: address.id }).delete()
    return true
  }
  if (field === 'organisation') {
    const org =
      before === null
        ? null
        : await trx('organisation')
            .where({ name_key: organisationKey(before), live: true })
            .orderBy('id')
            .first('id')
    if (before !== null && !org) return false
    columns.organisation_id = org?.id ?? null
    return true
  }
  if (field === 'tags') {
    const [had, has] = [tagsOf(before), tagsOf(after)]
    columns.tags = [
      ...(columns.tags as string[]).filter((tag) => had.includes(tag) || !has.includes(tag)),
      ...had.filter((tag) => !has.includes(tag) && !(columns.tags as string[]).includes(tag)),
    ]
  } else if (field === 'post') columns.post = { text: before }
  else if (customIdOf(field) !== null) columns.custom = { ...(columns.custom as object), [customIdOf(field) as number]: before }
  else if (COLUMN[field]) columns[COLUMN[field]] = before ?? (field.endsWith('name') ? '' : null)
  else return false
  return true
}

const ADDED = ['tags', 'email', 'phone']

/** Tags as the ledger has them; no tag holds a comma. */
const tagsOf = (text: string | null): string[] => (text === null || text === '' ? [] : text.split(', '))

async function writeBack(
  trx: Knex,
  person: Record<string, unknown> & PostalParts & { id: number; given: string; family: string; organisation_id: number | null },
  columns: Record<string, unknown>,
  organisations: string[],
): Promise<void> {
  const { post, custom, ...plain } = columns as { post?: { text: string | null }; custom?: object } & Record<string, unknown>
  // What had no value before has none again.
  if (custom)
    plain.custom = JSON.stringify(
      Object.fromEntries(Object.entries({ ...(person.custom as object), ...custom }).filter(([, value]) => value !== null)),
    )
  const next = { ...person, ...plain } as typeof person
  const name = `${next.given} ${next.family}`.trim()
  await trx('person')
    .where({ id: person.id })
    .update({
      ...plain,
      name,
      name_key: nameKey(next.given, next.family) ?? '',
      sort_key: `${fold(next.family)} ${fold(next.given)}`.trim(),
      address_key: comparablePostal(next),
    })
  if (!post && !POSTAL.some((part) => part in plain)) return
  const theirs: (PostalParts & { id: number })[] = await trx('organisation')
    .whereIn('id', [person.organisation_id, next.organisation_id].filter(isSet))
    .orWhereIn('name_key', organisations.map((name) => organisationKey(name)).filter(isSet))
    .orderBy('id')
    .select('id', 'street', 'town', 'postcode')
  if (post) return writePost(trx, person.id, post.text === null ? null : postalOfText(post.text, [next, ...theirs]))
  // Letters that went to their own address go to it as it is now.
  const now = await postOf(trx, person.id)
  if (now && postalText(now) === postalText(person))
    await writePost(trx, person.id, postalFor(next, theirs.find(({ id }) => id === next.organisation_id) ?? null))
}

const POSTAL = ['street', 'town', 'postcode']

/** What the batch told of organisations goes back where nothing told them otherwise since. */
async function undoOrganisations(trx: Knex, batch: Batch & { undone_by: string }): Promise<void> {
  const { rows: mine } = await trx.raw(
    `select e.id, e.organisation_id, e.field, v.before, v.after from entry e join entry_value v on v.id = e.value_id
     where e.batch_id = ? and e.kind = 'change' and e.organisation_id is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
       and e.reverses_id is null
     order by e.id desc`,
    [batch.id],
  )
  const all: (Change & { organisation_id: number })[] = (
    await trx.raw(
      `select e.id, e.organisation_id, e.field, v.before, v.after, e.batch_id is not distinct from ? as mine, exists (select 1 from entry r where r.reverses_id = e.id) as reversed
       from entry e left join entry_value v on v.id = e.value_id where e.organisation_id = any(?::bigint[]) and e.kind = 'change' and e.reverses_id is null order by e.id`,
      [batch.id, [...new Set(mine.map((e: { organisation_id: number }) => e.organisation_id))]] as never,
    )
  ).rows
  const chainOf = (e: { organisation_id: number; field: string }) =>
    all.filter((c) => c.organisation_id === e.organisation_id && c.field === e.field)
  const later = (e: Change & { organisation_id: number }) => chainOf(e).some((c) => c.id > e.id && !c.mine && !c.reversed)
  const passed = mine.filter(later)
  await writeEntries(
    trx,
    passed.map((e: Change & { organisation_id: number }) => ({
      organisation: e.organisation_id,
      kind: 'reversed' as const,
      at: now(),
      actor: batch.undone_by,
      reverses: e.id,
      note: `${batch.file_name} was undone; ${e.field} was set otherwise since, and is kept`,
    })),
    now(),
  )
  const rows: (Change & { organisation_id: number })[] = mine
    .filter((e: Change & { organisation_id: number }) => !passed.includes(e))
    .map((e: Change & { organisation_id: number }) => ({ ...e, before: valueUnder(chainOf(e), { ...e, mine: true }) }))
  const column: Record<string, string> = {
    industry: 'industry',
    headCount: 'head_count',
    website: 'website',
    county: 'county',
    street: 'street',
    town: 'town',
    postcode: 'postcode',
  }
  for (const e of rows) {
    const id = customIdOf(e.field)
    if (id === null)
      await trx('organisation')
        .where({ id: e.organisation_id })
        .update({ [column[e.field]]: e.field === 'headCount' && e.before !== null ? Number(e.before) : e.before })
    else
      await trx('organisation')
        .where({ id: e.organisation_id })
        .update({
          details: trx.raw('details - ?::text || ?::jsonb', [String(id), JSON.stringify(e.before === null ? {} : { [id]: e.before })]),
        })
  }
  for (const { id, ...postal } of await trx('organisation')
    .whereIn('id', [
      ...new Set(
        rows
          .filter((e: Change) => e.field === 'street' || e.field === 'town' || e.field === 'postcode')
          .map((e: { organisation_id: number }) => e.organisation_id),
      ),
    ] as number[])
    .select('id', 'street', 'town', 'postcode'))
    await trx('organisation')
      .where({ id })
      .update({ address_key: comparablePostal(postal) })
  await writeEntries(
    trx,
    rows.map((e: Change & { organisation_id: number }) => ({
      organisation: e.organisation_id,
      kind: 'change' as const,
      field: e.field,
      before: e.after,
      after: e.before,
      at: now(),
      actor: batch.undone_by,
      reverses: e.id,
    })),
    now(),
  )
}

/** Organisations that this or another undone batch created go with it where nobody works there and nothing else speaks of them. */
async function withdrawOrganisations(trx: Knex, batch: Batch & { undone_by: string }): Promise<void> {
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
