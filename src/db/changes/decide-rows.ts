import { comparablePostal, type PostalParts } from '@/core/clean/postal'
import { organisationKey } from '@/core/clean/organisation'
import type { Knex } from '@/db/connection'
import { organisationKeyOf } from '@/db/key'

/** What a reported change of a person says, with what is known of it. */
export interface ReportedRow {
  id: number
  person_id: number | null
  field: string | null
  after: string | null
  entry_kind: string
}

/** Returns the reported change with the entry it came from and the value it reports; undefined where there is none. */
export async function reportedChange(trx: Knex, id: number): Promise<ReportedRow | undefined> {
  return await trx('change as c')
    .join('entry as e', 'e.id', 'c.entry_id')
    .leftJoin('entry_value as v', 'v.id', 'e.value_id')
    .where('c.id', id)
    .first('c.id', 'c.person_id', 'c.field', 'v.after', 'e.kind as entry_kind')
}

/** A person, locked, as far as a change of role or organisation needs them, with their organisation. */
export async function lockForMove(trx: Knex, id: number) {
  const person = await trx('person')
    .where({ id, state: 'live' })
    .forNoKeyUpdate()
    .first('id', 'name', 'role', 'relation', 'county', 'town', 'street', 'postcode', 'organisation_id', 'custom')
  if (!person) return undefined
  const organisation =
    person.organisation_id === null
      ? undefined
      : await trx('organisation').where({ id: person.organisation_id }).first('id', 'name', 'street', 'town', 'postcode', 'website')
  return { ...person, organisation } as Moved
}

export interface Moved extends PostalParts {
  id: number
  name: string
  role: string | null
  relation: string | null
  county: string | null
  organisation_id: number | null
  custom: Record<string, string>
  organisation?: PostalParts & { id: number; name: string; website: string | null }
}

/** The organisation of a name, made where there is none yet. */
export async function organisationCalled(trx: Knex, name: string, at: Date): Promise<PostalParts & { id: number; name: string }> {
  const key = organisationKey(name)
  const known = await trx('organisation')
    .where({ name_key: key, live: true })
    .orderBy('id')
    .first('id', 'name', 'street', 'town', 'postcode')
  if (known) return known
  const [made] = await trx('organisation')
    .insert({ name, name_key: key, key: organisationKeyOf(key), created_at: at, details: '{}' })
    .returning('id')
  return { id: made.id, name, street: null, town: null, postcode: null }
}

/** What confirming a change wrote, and was not taken back; locked. */
export async function lockDecision(
  trx: Knex,
  change: number,
): Promise<{ id: number; actor_id: string; entries: number[]; suppressions: number[] } | undefined> {
  return await trx('change_decision').where({ change_id: change }).whereNull('undone_at').orderBy('id', 'desc').forUpdate().first()
}

/** Records a decision on a change, with the entries and suppressions it made, so that it can be undone. */
export async function insertDecision(
  trx: Knex,
  decision: { change_id: number; actor_id: string; at: Date; entries: number[]; suppressions: number[] },
): Promise<void> {
  await trx('change_decision').insert(decision)
}

/** Marks a decision as undone; the decision itself stays. */
export async function decisionUndone(trx: Knex, id: number, at: Date): Promise<void> {
  await trx('change_decision').where({ id }).update({ undone_at: at })
}

/** The changes of fields that some entries hold, the latest first. */
export async function entriesOf(
  trx: Knex,
  ids: readonly number[],
): Promise<{ id: number; field: string; before: string | null; after: string | null }[]> {
  return await trx('entry as e')
    .leftJoin('entry_value as v', 'v.id', 'e.value_id')
    .whereIn('e.id', [...ids])
    .orderBy('e.id', 'desc')
    .select('e.id', 'e.field', 'v.before', 'v.after')
}

/** Writes the columns of a person whose move was confirmed. */
export async function updateMoved(trx: Knex, id: number, columns: Record<string, unknown>): Promise<void> {
  await trx('person').where({ id }).update(columns)
}

/**
 * Emails of a person that are the old organisation's: at the domain of its website, or at a domain that another of its people has.
 * A provider's domain for everybody is nobody's.
 */
export async function emailsOfOld(trx: Knex, person: number, organisation: number, website: string | null): Promise<string[]> {
  const { rows } = await trx.raw<{ rows: { value: string }[] }>(
    `select a.value from address a where a.person_id = :person and a.channel = 'email' and not a.shared and (
       (:website::text is not null and split_part(a.value, '@', 2) in (:website, regexp_replace(:website, '^www\\.', '')))
       or exists (select 1 from address b join person p on p.id = b.person_id where p.organisation_id = :organisation and p.id <> :person and b.channel = 'email'
            and not b.shared and split_part(b.value, '@', 2) = split_part(a.value, '@', 2)))
     order by a.id`,
    { person, organisation, website } as never,
  )
  return rows.map((row) => row.value)
}

/** Whether two postal addresses compare as the same; two that cannot be compared are not. */
export const samePostal = (a: PostalParts, b: PostalParts): boolean =>
  comparablePostal(a) !== null && comparablePostal(a) === comparablePostal(b)
