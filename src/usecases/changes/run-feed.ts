import { localDate } from '@/core/calendar/local-day'
import { cleanEmail } from '@/core/clean/email'
import { cleanName } from '@/core/clean/name'
import { organisationKey } from '@/core/clean/organisation'
import { comparablePostal } from '@/core/clean/postal'
import { type FeedItem, type FeedSource, itemTrouble } from '@/core/changes/feed'
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
  const fresh = new Map<string, FeedItem>()
  for (const item of items) fresh.set(itemKey(item), item)
  for (const key of await itemsKnown(trx, feed, [...fresh.keys()])) fresh.delete(key)
  const at = now()
  const today = localDate(at.getTime(), settings().ARCH_ZONE)
  const all = [...fresh].map(([key, item]) => ({ key, item, why: itemTrouble(item, today) }))
  const meant = await recordsMeant(
    trx,
    all.filter((one) => one.why === null).map((one) => one.item),
  )
  const kinds = await kindsByKey(trx)
  const fields = await fieldsOfPeople(
    trx,
    [...meant.values()].flatMap((m) => (m.of === 'person' ? m.ids : [])),
  )
  const rows: ItemRow[] = []
  const reports: { report: Report; row: ItemRow }[] = []
  for (const { key, item, why } of all) {
    const { of, ids } = meant.get(item) ?? { of: 'person' as const, ids: [] }
    const row: ItemRow = { feed, key, outcome: 'reported', why, entry_id: null, at }
    rows.push(row)
    if (why !== null) row.outcome = 'refused'
    else if (ids.length !== 1) row.outcome = ids.length === 0 ? 'nobody here' : 'in doubt'
    else {
      const own = fields.get(ids[0])
      reports.push({
        row,
        report: {
          of,
          record: ids[0],
          kind: item.happening === null ? null : (kinds.get(item.happening) as number),
          field: item.field,
          // What we have says more of what it was than what the feed takes it for.
          before: item.field === null ? null : (own?.[item.field] ?? item.before),
          after: item.field === null ? null : item.after,
          text: item.text,
          link: item.link,
          day: item.day,
          stated: item.stated,
          source: feed,
          outsideId: item.id,
        },
      })
    }
  }
  const entries = await writeReports(
    trx,
    ACTOR,
    reports.map(({ report }) => report),
  )
  reports.forEach(({ row }, i) => (row.entry_id = entries[i]))
  await insertItems(trx, rows)
  await feedRead(trx, feed, next, at)
  return true
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
