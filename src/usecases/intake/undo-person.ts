import { customIdOf } from '@/core/clean/custom'
import { organisationKey } from '@/core/clean/organisation'
import type { PostalParts } from '@/core/clean/postal'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { isSet } from '@/db/intake/intake-store'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { valueUnder } from './undone-values'
import { postalFor, postalOfText } from '@/usecases/directory/postal-address'
import { postalText, postOf, writePost } from '@/db/directory/postal-rows'
import {
  addressTold,
  type Change,
  deleteAddress,
  entryOfAddress,
  organisationByKey,
  organisationsMeant,
  changeEntries,
  type Result,
  updatePersonBack,
  withdraw,
} from '@/db/intake/undo-rows'
import { lockPerson } from '@/db/directory/person-rows'

/** Undoes what a batch did to a person: withdraws them, or puts fields back that nobody worked on since. Says what was kept and why. */
export async function undoPerson(trx: Knex, batch: Batch & { undone_by: string }, id: number): Promise<Result> {
  const person = await lockPerson(trx, id)
  if (person?.state !== 'live')
    return { undone: 'kept', why: person?.state === 'merged' ? 'merged into another record since' : 'withdrawn already' }
  if (person.batch_id === batch.id) return withdraw(trx, batch, person.id)
  // Every change there was, in its order, but those that took another back.
  const changes: Change[] = await changeEntries(trx, 'person_id', batch.id, id)
  const entries: NewEntry[] = []
  const kept: string[] = []
  const columns: Record<string, unknown> = { tags: person.tags }
  for (const change of changes.filter((c) => c.mine && !c.reversed).reverse()) {
    const common = { person: id, at: now(), actor: batch.undone_by, reverses: change.id }
    // Tags, emails, phones and profiles are added to what there is, and taken from it by themselves.
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
  if (field === 'email' || field === 'phone' || field === 'direct') {
    const address = await addressTold(trx, person, field, after, batch.id)
    if (!address) return false
    if (await entryOfAddress(trx, address)) return false
    await deleteAddress(trx, address)
    return true
  }
  if (field === 'organisation') {
    const org = before === null ? null : await organisationByKey(trx, before)
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

const ADDED = ['tags', 'email', 'phone', 'direct']

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
  await updatePersonBack(trx, { personId: person.id, plain, name, nextGiven: next.given, nextFamily: next.family, next })
  if (!post && !POSTAL.some((part) => part in plain)) return
  const theirs: (PostalParts & { id: number })[] = await organisationsMeant(
    trx,
    organisations.map((name) => organisationKey(name)).filter(isSet),
    person.organisation_id,
    next.organisation_id,
  )
  if (post) return writePost(trx, person.id, post.text === null ? null : postalOfText(post.text, [next, ...theirs]))
  // Letters that went to their own address go to it as it is now.
  const now = await postOf(trx, person.id)
  if (now && postalText(now) === postalText(person))
    await writePost(trx, person.id, postalFor(next, theirs.find(({ id }) => id === next.organisation_id) ?? null))
}

const POSTAL = ['street', 'town', 'postcode']
