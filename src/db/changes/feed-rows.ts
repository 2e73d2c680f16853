import type { FeedOutcome } from '@/core/changes/feed'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'

/** Returns how far a feed was read; undefined before its first page. */
export async function feedRow(trx: Knex, name: string): Promise<{ cursor: string | null } | undefined> {
  return await trx('feed').where({ name }).first('cursor')
}

/** A feed, locked, made where it is not known yet. */
export async function lockFeed(trx: Knex, name: string): Promise<{ cursor: string | null }> {
  await trx('feed').insert({ name }).onConflict('name').ignore()
  return await trx('feed').where({ name }).forUpdate().first('cursor')
}

/** Keeps how far a feed was read, and clears its error. */
export async function feedRead(trx: Knex, name: string, cursor: string, at: Date): Promise<void> {
  await trx('feed').where({ name }).update({ cursor, read_at: at, error: null })
}

/** Keeps when a feed was last asked, and its error where it did not answer. */
export async function feedAsked(trx: Knex, name: string, at: Date, error: string | null): Promise<void> {
  await trx('feed').insert({ name, asked_at: at, error }).onConflict('name').merge(['asked_at', 'error'])
}

/** Which of some items of a feed were read before, by their keys as hexadecimal digits. */
export async function itemsKnown(trx: Knex, feed: string, keys: readonly string[]): Promise<Set<string>> {
  const { rows } = await trx.raw<{ rows: { key: string }[] }>(
    `select encode(key, 'hex') as key from feed_item where feed = ? and key = any(select decode(k, 'hex') from unnest(?::text[]) k)`,
    [feed, [...keys]],
  )
  return new Set(rows.map((row) => row.key))
}

export interface ItemRow {
  feed: string
  key: string
  outcome: Exclude<FeedOutcome, 'known'>
  why: string | null
  entry_id: number | null
  at: Date
}

/** Inserts what became of each item of a feed. An item's key is unique, so the same item is never taken twice. */
export async function insertItems(trx: Knex, items: readonly ItemRow[]): Promise<void> {
  await insertRows(
    trx,
    'feed_item',
    { feed: 'text', key: 'bytea', outcome: 'text', why: 'text', entry_id: 'bigint', at: 'timestamptz' },
    items,
  )
}

/** What became of everything that was read from the feeds. */
export async function feedAccounts(
  trx: Knex,
): Promise<
  { name: string; asked_at: Date | null; read_at: Date | null; error: string | null; outcomes: Partial<Record<FeedOutcome, number>> }[]
> {
  const { rows } = await trx.raw(
    `select f.name, f.asked_at, f.read_at, f.error,
       coalesce((select jsonb_object_agg(outcome, n) from (select outcome, count(*)::int as n from feed_item i where i.feed = f.name group by 1) o), '{}') as outcomes
     from feed f order by f.name`,
  )
  return rows
}

/** People who have an email address, or a name at an organisation of a name; several where it does not tell which. */
export async function peopleMeant(
  trx: Knex,
  asked: readonly { n: number; email: string | null; name: string; organisation: string }[],
): Promise<Map<number, { id: number; name_key: string; by: 'email' | 'name' }[]>> {
  const { rows } = await trx.raw<{ rows: { n: number; id: number; name_key: string; by: 'email' | 'name' }[] }>(
    `with asked as (select * from jsonb_to_recordset(?::jsonb) as a(n int, email text, name text, organisation text)),
     found as (
       select a.n, p.id, p.name_key, 'email' as by from asked a join address d on d.key = decode(a.email, 'hex') and d.channel = 'email' join person p on p.id = d.person_id where p.state = 'live'
       union select a.n, p.id, p.name_key, 'name' from asked a join person p on p.name_key = a.name join organisation o on o.id = p.organisation_id and o.name_key = a.organisation
         where p.state = 'live' and a.name <> '' and a.organisation <> '')
     select distinct on (n, id) n, id, name_key, by from found order by n, id, by`,
    [JSON.stringify(asked)],
  )
  const meant = new Map<number, { id: number; name_key: string; by: 'email' | 'name' }[]>()
  for (const { n, ...row } of rows) meant.set(n, [...(meant.get(n) ?? []), row])
  return meant
}

/** Organisations of a name; premises of a name at an address. */
export async function othersMeant(
  trx: Knex,
  of: Exclude<Subject, 'person'>,
  asked: readonly { n: number; name: string; address: string | null }[],
): Promise<Map<number, number[]>> {
  const { rows } = await trx.raw<{ rows: { n: number; id: number }[] }>(
    of === 'organisation'
      ? `select a.n, o.id from jsonb_to_recordset(?::jsonb) as a(n int, name text) join organisation o on o.name_key = a.name and o.live order by 1, 2`
      : `select a.n, q.id from jsonb_to_recordset(?::jsonb) as a(n int, address text) join premises q on q.address_key = a.address and q.state = 'live' order by 1, 2`,
    [JSON.stringify(asked)],
  )
  const meant = new Map<number, number[]>()
  for (const { n, id } of rows) meant.set(n, [...(meant.get(n) ?? []), id])
  return meant
}

/** What a field of some people is now. */
export async function fieldsOfPeople(
  trx: Knex,
  ids: readonly number[],
): Promise<Map<number, { role: string | null; organisation: string | null }>> {
  const { rows } = await trx.raw(
    'select p.id, p.role, o.name as organisation from person p left join organisation o on o.id = p.organisation_id where p.id = any(?::bigint[])',
    [[...ids]],
  )
  return new Map(rows.map((row: { id: number; role: string | null; organisation: string | null }) => [row.id, row]))
}
