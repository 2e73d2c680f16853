import { paged } from '@/db/paged'
import type { Asked, EnquiryKind, EnquiryState, ItemState } from '@/core/sources/enquiry'
import type { Knex } from '@/db/connection'
import { fold } from '@/core/clean/fold'
import { organisationKey } from '@/core/clean/organisation'
import type { Found, FoundPage, Prices, Search, SourceName } from '@/core/sources/source'
import { batchSeenBy } from '@/db/intake/batch-rows'
import { now } from '@/runtime/clock'

/** Writes what an enquiry is to ask about, in order, keys once. */
export async function writeItems(
  trx: Knex,
  id: number,
  items: { key: string; data: object; state?: ItemState; why?: string | null }[],
): Promise<number> {
  const { rows } = await trx.raw('select coalesce(max(n), 0)::int as last from enquiry_item where enquiry_id = ?', [id])
  let n: number = rows[0].last
  let written = 0
  for (let i = 0; i < items.length; i += 2000) {
    const handed = items
      .slice(i, i + 2000)
      .map((item) => ({ n: ++n, key: item.key, data: item.data, state: item.state ?? 'open', why: item.why ?? null }))
    const made = await trx.raw(
      `insert into enquiry_item (enquiry_id, n, key, data, state, why) select ?, r.n, r.key, r.data, r.state, r.why
       from jsonb_to_recordset(?::jsonb) as r(n int, key text, data jsonb, state text, why text) on conflict (enquiry_id, key) do nothing returning 1`,
      [id, JSON.stringify(handed)],
    )
    written += made.rows.length
  }
  return written
}

/** What was found, each with whether we have it: by its name and town in the directory, or because it was paid for before. */
export async function withKnown(trx: Knex, source: string, items: Found[]) {
  const named: { name_key: string; town: string | null; people: number }[] = (
    await trx.raw(
      `select o.name_key, o.town, (select count(*)::int from person p where p.organisation_id = o.id and p.state = 'live') as people from organisation o
       where o.live and o.name_key in (select unnest(?::text[]))`,
      [items.map((item) => organisationKey(item.name))] as never,
    )
  ).rows
  const sites: { name_key: string; town: string | null }[] =
    source === 'premises'
      ? await trx('premises')
          .where({ state: 'live' })
          .whereRaw('name_key = any(?::text[])', [items.map((item) => fold(item.name))])
          .select('name_key', 'town')
      : []
  const paid: { key: string; at: Date }[] = await trx('enquiry_item as i')
    .join('enquiry as e', 'e.id', 'i.enquiry_id')
    .where({ 'e.source': source, 'i.state': 'fetched' })
    .whereIn(
      'i.key',
      items.map((item) => item.key),
    )
    .groupBy('i.key')
    .select('i.key')
    .max('e.created_at as at')
  return items.map((item) => {
    const before = paid.find((p) => p.key === item.key)
    const site = sites.find((s) => s.name_key === fold(item.name) && (s.town === null || fold(s.town) === fold(item.district)))
    const org =
      source === 'premises'
        ? undefined
        : named.find(
            (o) => o.people > 0 && o.name_key === organisationKey(item.name) && (o.town === null || fold(o.town) === fold(item.district)),
          )
    return {
      key: item.key,
      data: {
        title: item.name,
        detail: [item.subKind, item.district, item.postcode].filter(Boolean).join(', '),
        has: item.has,
        found: { kind: item.kind, subKind: item.subKind, district: item.district, postcode: item.postcode },
      },
      state: before || org || site ? ('known' as const) : ('open' as const),
      why: before
        ? 'came in by an enquiry before'
        : site
          ? 'in the directory'
          : org
            ? `in the directory with ${org.people === 1 ? 'one person' : `${org.people} people`}`
            : null,
    }
  })
}

/** Why something found is left out that has none of the channels that are wanted. */
export const NO_CHANNEL = 'has none of the wanted channels'

/**
 * Leaves found records out that have none of the wanted channels, and opens them again where the wish changed. Nothing that was bought
 * changes.
 */
export async function wantChannels(trx: Knex, id: number, wanted: readonly Wanted[]): Promise<void> {
  await trx.raw(
    `update enquiry_item set state = t.state, why = case when t.state = 'left out' then '${NO_CHANNEL}' end
     from (select n, case when cardinality(?::text[]) = 0 or data->'has' \\?| ?::text[] then 'open' else 'left out' end as state from enquiry_item
       where enquiry_id = ? and (state = 'open' or (state = 'left out' and why = '${NO_CHANNEL}'))) t
     where enquiry_id = ? and enquiry_item.n = t.n and enquiry_item.state <> t.state`,
    [wanted, wanted, id, id] as never,
  )
}

export type Wanted = (typeof CHANNELS)[number]

/** An enquiry as it is stored. */
export interface Enquiry {
  id: number
  kind: EnquiryKind
  source: SourceName
  name: string
  asked: Asked
  state: EnquiryState
  /** Of a search: each part with where it got to; `next` is null once it is through. */
  parts: { search: Search; next: string | null; through: boolean; total: number | null; came: number; most: number }[]
  narrowing: Pick<FoundPage, 'total' | 'most' | 'subKinds' | 'districts'> | null
  prices: Prices | null
  cost: number
  cap: number | null
  note: string | null
  actor_id: string
  created_at: Date
  began_at: Date | null
  began_open: number | null
  batch_id: number | null
  /** The list it is about, by itself or by the batch it is about. */
  list_id: number | null
}

export const CHANNELS = ['email', 'phone', 'post'] as const

/** Returns the newest 100 enquiries that a colleague may see. `countsOf` is SQL for the counts by state. */
export async function enquiryIndexRows(trx: Knex, countsOf: string, actorId: string) {
  return await trx('enquiry as e')
    .leftJoin('user as u', 'u.id', 'e.actor_id')
    .whereRaw(batchSeenBy('e'), [actorId])
    .orderBy('e.id', 'desc')
    .limit(100)
    .select('e.*', 'u.name as by')
    .select(trx.raw(`${countsOf} as counts`))
}

/** Returns the counts of an enquiry's items by state. `countsOf` is SQL. */
export async function itemCounts(trx: Knex, countsOf: string, id: number) {
  const { rows } = await trx.raw(`select ${countsOf} as counts`, [id])
  return rows
}

/** Returns which columns the answers of an enquiry have, the most frequent first. */
export async function answerTitles(trx: Knex, id: number) {
  const { rows } = await trx.raw(
    `select title, count(*)::int as n from enquiry_item i, jsonb_object_keys(i.answer) title where i.enquiry_id = ? and jsonb_typeof(i.answer) = 'object' group by title order by n desc, title`,
    [id],
  )
  return rows
}

/** Inserts an enquiry to a source and returns its id. */
export async function insertEnquiry(
  trx: Knex,
  {
    madeKind,
    madeSource,
    madeName,
    madeAsked,
    madeState,
    madeParts,
    madePrices,
    actorId,
    madeList,
  }: {
    madeKind: string
    madeSource: string
    madeName: string
    madeAsked: Asked
    madeState: string
    madeParts: { search: Search; next: string | null; through: boolean; total: number | null; came: number; most: number }[] | undefined
    madePrices: Prices | undefined
    actorId: string
    madeList: number | null | undefined
  },
) {
  return await trx('enquiry').insert(
    {
      kind: madeKind,
      source: madeSource,
      name: madeName.slice(0, 200),
      asked: JSON.stringify(madeAsked),
      state: madeState,
      parts: JSON.stringify(madeParts ?? []),
      prices: madePrices ? JSON.stringify(madePrices) : null,
      actor_id: actorId,
      list_id: madeList ?? null,
      created_at: now(),
    },
    'id',
  )
}

/** Returns how many items of an enquiry are still to be asked about. */
export async function countOpenItems(trx: Knex, id: number) {
  return await trx('enquiry_item').where({ enquiry_id: id, state: 'open' }).select(trx.raw('count(*)::int as open'))
}

/** Marks an enquiry as begun, with the most it may cost. */
export async function beginRow(trx: Knex, id: number, searching: boolean, cap: number | null, open: number) {
  return await trx('enquiry')
    .where({ id })
    .update({ state: searching ? 'asking' : 'running', cap, note: null, began_at: now(), began_open: open })
}

/** Stops an enquiry by hand. One that ended meanwhile stays as it ended. */
export async function stopRow(trx: Knex, id: number) {
  return await trx('enquiry')
    .where({ id })
    .whereIn('state', ['running', 'asking'])
    .update({ state: 'stopped', note: 'It was stopped by hand. What came is kept.' })
}

/** Keeps the batch that an enquiry's answers became. */
export async function updateBatch(trx: Knex, id: number, batch: number) {
  return await trx('enquiry').where({ id }).update({ batch_id: batch })
}

/** Returns the items of an enquiry in their order. */
export async function itemRows(trx: Knex, id: number) {
  return await trx('enquiry_item').where({ enquiry_id: id }).orderBy('n').select('key', 'data', 'answer', 'state')
}

/** Splits a search that finds too much: writes how, and the parts to ask instead. */
export async function updateSplit(
  trx: Knex,
  id: number,
  asked: { kind: 'find'; search: Search; split: 'district' | 'sub-kind' | null; wanted: ('email' | 'phone' | 'post')[] },
  by: string,
  parts: { search: Search; next: string | null; through: boolean; total: number | null; came: number; most: number }[],
) {
  return await trx('enquiry')
    .where({ id })
    .update({ asked: JSON.stringify({ ...asked, split: by }), parts: JSON.stringify(parts), state: 'asking', note: null })
}

/** Writes how far the parts of a search have come, and the prices as the source stated them. */
export async function updateParts(
  trx: Knex,
  id: number,
  parts: { search: Search; next: string | null; through: boolean; total: number | null; came: number; most: number }[],
  prices: Prices,
  whole: { narrowing: string | null } | { narrowing?: undefined },
) {
  return await trx('enquiry')
    .where({ id })
    .update({ parts: JSON.stringify(parts), prices: JSON.stringify(prices satisfies Prices), ...whole })
}

/** Marks a search as ready to buy from, unless it was stopped meanwhile. */
export async function markReady(trx: Knex, id: number) {
  return await trx('enquiry').where({ id: id, state: 'asking' }).update({ state: 'ready' })
}

/** Returns how many items an enquiry has. */
export async function countItems(trx: Knex, id: number) {
  return await trx('enquiry_item').where({ enquiry_id: id }).select(trx.raw('count(*)::int as n'))
}

/** Writes which channels are wanted of what a search found. */
export async function updateAsked(
  trx: Knex,
  id: number,
  asked: { kind: 'find'; search: Search; split: 'district' | 'sub-kind' | null; wanted: ('email' | 'phone' | 'post')[] },
  chosen: ('email' | 'phone' | 'post')[],
) {
  return await trx('enquiry')
    .where({ id })
    .update({ asked: JSON.stringify({ ...asked, wanted: chosen }) })
}

/** Marks an enquiry as failed. It can go on from there. */
export async function failEnquiry(trx: Knex, id: number, message: string) {
  return await trx('enquiry')
    .where({ id })
    .update({ state: 'failed', note: `${message} What came is kept, and it can go on from there.` })
}

/** Adds to what an enquiry cost so far. */
export async function addCost(trx: Knex, id: number, cost: number, prices: Prices) {
  return await trx('enquiry')
    .where({ id })
    .update({ cost: trx.raw('cost + ?', [cost]), prices: JSON.stringify(prices) })
}

/** Ends an enquiry, unless it was stopped meanwhile. */
export async function endEnquiry(trx: Knex, id: number, state: string, note: string | null) {
  return await trx('enquiry').where({ id: id, state: 'running' }).update({ state, note, finished_at: now() })
}

/** What came of one thing that was asked about. */
export interface Became {
  n: number
  state: ItemState
  why: string | null
  answer: Record<string, string> | null
  cost: number
}

/** Returns the next items of an enquiry to ask about. */
export async function openItems(trx: Knex, id: number, most: number) {
  return await trx('enquiry_item').where({ enquiry_id: id, state: 'open' }).orderBy('n').limit(most).select('n', 'key', 'data')
}

/**
 * Writes what became of items and returns what each cost. An item that is no longer open is left as it is, so nothing is paid for twice.
 */
export async function updateItems(trx: Knex, became: Became[], id: number) {
  const { rows } = await trx.raw(
    `update enquiry_item i set state = r.state, why = r.why, answer = r.answer, cost = r.cost from jsonb_to_recordset(?::jsonb) as r(n int, state text, why text, answer jsonb, cost int)
       where i.enquiry_id = ? and i.n = r.n and i.state = 'open' returning i.cost`,
    [JSON.stringify(became), id],
  )
  return rows
}

/** Returns an enquiry by its id, locked where asked. */
export const enquiryRow = (trx: Knex, id: number, lock: boolean): Promise<Enquiry | undefined> => {
  const query = trx('enquiry').where({ id })
  return (lock ? query.forUpdate() : query).first()
}

/** Items of an enquiry in one state, in the order in which they came. */
export const itemsPage = (trx: Knex, id: number, state: ItemState, page: { offset: number; limit: number }) =>
  paged(trx, trx('enquiry_item').where({ enquiry_id: id, state }), page, (query) =>
    query.orderBy('n').select('n', 'data', 'state', 'why', 'answer'),
  )
