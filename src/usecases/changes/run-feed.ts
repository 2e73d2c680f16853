import { localDate } from '@/core/calendar/local-day'
import { cleanEmail } from '@/core/clean/email'
import { cleanName } from '@/core/clean/name'
import { organisationKey } from '@/core/clean/organisation'
import { comparablePostal } from '@/core/clean/postal'
import { type FeedItem, type FeedOutcome, type FeedSource, itemTrouble } from '@/core/changes/feed'
import {
  feedAsked,
  feedRead,
  feedRow,
  fieldsOfPeople,
  insertItems,
  type ItemRow,
  itemsKnown,
  lockFeed,
  othersMeant,
  peopleMeant,
} from '@/db/changes/feed-rows'
import { kindsByKey } from '@/db/changes/change-rows'
import { db, type Knex } from '@/db/connection'
import { addressKey, keyed } from '@/db/key'
import { countyWire, SourceTrouble } from '@/sources/http-source'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Report, writeReports } from './report-change'

/** The feeds this installation reads. */
export const FEEDS: readonly FeedSource[] = [countyWire]

/** Entries that a feed brings name it where others name a colleague. */
const ACTOR = 'feed'

/**
 * Reads a feed from where it was left, a page a transaction: what a page brought and how far it was read stand and fall together, so
 * that one which is stopped goes on, and two that read at once bring everything once. An item that came before is known.
 */
export async function runFeed(name: string): Promise<void> {
  const source = FEEDS.find((feed) => feed.name === name)
  if (source) await readFeed(source)
}

/** Reads a source until there is nothing more in it. Throws SourceTrouble where it does not answer; what was read stays. */
export async function readFeed(source: FeedSource): Promise<void> {
  for (;;) {
    const from = (await feedRow(db(), source.name))?.cursor ?? null
    let page: Awaited<ReturnType<FeedSource['read']>>
    try {
      page = await source.read(from)
    } catch (error) {
      if (error instanceof SourceTrouble) await feedAsked(db(), source.name, now(), error.message)
      throw error
    }
    const moved = await db().transaction((trx) => takePage(trx, source.name, from, page.items, page.next))
    await feedAsked(db(), source.name, now(), null)
    // A page that leads nowhere would be read for ever.
    if (!page.more || !moved || page.next === from) return
  }
}

/** Takes a page in, unless another reader took it meanwhile. */
async function takePage(trx: Knex, feed: string, from: string | null, items: readonly FeedItem[], next: string): Promise<boolean> {
  const { cursor } = await lockFeed(trx, feed)
  if (cursor !== from) return true
  await takeIn(trx, { feed, source: feed, actor: ACTOR }, items, await kindsByKey(trx))
  await feedRead(trx, feed, next, now())
  return true
}

/** Takes items in that somebody brought, in a transaction of their own. Gives what became of each, in their order. */
export async function takeItems(
  feed: string,
  source: string,
  actor: string,
  items: readonly FeedItem[],
  kinds: ReadonlyMap<string, number>,
): Promise<Outcome[]> {
  return db().transaction(async (trx) => {
    await lockFeed(trx, feed)
    const outcomes = await takeIn(trx, { feed, source, actor }, items, kinds)
    await feedAsked(trx, feed, now(), null)
    return outcomes
  })
}

/** What became of one item, and why where nothing was reported. */
interface Outcome {
  outcome: FeedOutcome
  why: string | null
}

/** Writes a report for each item that is new and about one record here. The feed is locked. */
async function takeIn(
  trx: Knex,
  { feed, source, actor }: { feed: string; source: string; actor: string },
  items: readonly FeedItem[],
  kinds: ReadonlyMap<string, number>,
): Promise<Outcome[]> {
  const keys = items.map(itemKey)
  const known = await itemsKnown(trx, feed, keys)
  const at = now()
  const today = localDate(at.getTime(), settings().ARCH_ZONE)
  const fresh = new Map<string, { item: FeedItem; row: ItemRow }>()
  items.forEach((item, i) => {
    if (!known.has(keys[i]) && !fresh.has(keys[i]))
      fresh.set(keys[i], {
        item,
        row: { feed, key: keys[i], outcome: 'reported', why: itemTrouble(item, today, kinds), entry_id: null, at },
      })
  })
  const all = [...fresh.values()]
  const meant = await recordsMeant(
    trx,
    all.filter(({ row }) => row.why === null).map(({ item }) => item),
  )
  const fields = await fieldsOfPeople(
    trx,
    [...meant.values()].flatMap((m) => (m.of === 'person' ? m.ids : [])),
  )
  const reported: { report: Report; row: ItemRow }[] = []
  for (const { item, row } of all) {
    const { of, ids } = meant.get(item) ?? { of: 'person' as const, ids: [] }
    if (row.why !== null) row.outcome = 'refused'
    else if (ids.length !== 1) row.outcome = ids.length === 0 ? 'nobody here' : 'in doubt'
    else reported.push({ row, report: reportOf(item, of, ids[0], fields.get(ids[0]), source, kinds) })
  }
  const entries = await writeReports(
    trx,
    actor,
    reported.map(({ report }) => report),
  )
  reported.forEach(({ row }, i) => (row.entry_id = entries[i]))
  await insertItems(
    trx,
    all.map(({ row }) => row),
  )
  // Of two that say the very same the second is known.
  const first = new Set<string>()
  return keys.map((key) => {
    const row = fresh.get(key)?.row
    if (!row || first.has(key)) return { outcome: 'known', why: null }
    first.add(key)
    return { outcome: row.outcome, why: row.why }
  })
}

function reportOf(
  item: FeedItem,
  of: Report['of'],
  record: number,
  own: { role: string | null; organisation: string | null } | undefined,
  source: string,
  kinds: ReadonlyMap<string, number>,
): Report {
  return {
    of,
    record,
    kind: item.happening === null ? null : (kinds.get(item.happening) as number),
    field: item.field,
    // What we have says more of what it was than what the feed takes it for.
    before: item.field === null ? null : (own?.[item.field] ?? item.before),
    after: item.field === null ? null : item.after,
    text: item.text,
    link: item.link,
    day: item.day,
    stated: item.stated,
    source,
    outsideId: item.id,
  }
}

/** An item is the same where its number and everything it says are. */
const itemKey = (item: FeedItem): string => keyed(`feed item:${JSON.stringify(item)}`).toString('hex')

const nameKeyOf = (full: string): string => cleanName({ full })?.key ?? ''

type Meant = { of: 'person' | 'organisation' | 'premises'; ids: number[] }

/**
 * The records that items are about. A person is known by an email together with the name, or by the name at the organisation; an
 * email with another name is somebody else's. Several mean that it does not tell which.
 */
async function recordsMeant(trx: Knex, items: readonly FeedItem[]): Promise<Map<FeedItem, Meant>> {
  const people = items.flatMap((item, n) => ('person' in item.about ? [{ n, about: item.about }] : []))
  const found = await peopleMeant(
    trx,
    people.map(({ n, about }) => {
      const email = about.email === null ? null : cleanEmail(about.email)
      return {
        n,
        email: email ? addressKey('email', email.normal).toString('hex') : null,
        name: nameKeyOf(about.person),
        organisation: organisationKey(about.organisation),
      }
    }),
  )
  const organisations = await othersMeant(
    trx,
    'organisation',
    items.flatMap((item, n) =>
      'person' in item.about || 'premises' in item.about ? [] : [{ n, name: organisationKey(item.about.organisation), address: null }],
    ),
  )
  const premises = await othersMeant(
    trx,
    'premises',
    items.flatMap((item, n) => ('premises' in item.about ? [{ n, name: '', address: comparablePostal(item.about) }] : [])),
  )
  return new Map(
    items.map((item, n): [FeedItem, Meant] => {
      if ('premises' in item.about) return [item, { of: 'premises', ids: premises.get(n) ?? [] }]
      if (!('person' in item.about)) return [item, { of: 'organisation', ids: organisations.get(n) ?? [] }]
      const name = nameKeyOf(item.about.person)
      return [item, { of: 'person', ids: (found.get(n) ?? []).filter((one) => one.name_key === name).map((one) => one.id) }]
    }),
  )
}
