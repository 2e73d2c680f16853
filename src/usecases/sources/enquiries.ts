import { enquiryRow, itemsPage } from '@/db/sources/enquiry-rows'
import {
  type Asked,
  dearest,
  type EnquiryIndexRow,
  type EnquiryKind,
  type EnquiryState,
  type EnquiryView,
  ITEM_STATES,
  type ItemState,
  type ItemView,
  within,
} from '@/core/sources/enquiry'
import { bestSplit, searchText } from '@/core/sources/parts'
import type { Prices, SourceName } from '@/core/sources/source'
import type { ListRole } from '@/core/records/list-roles'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { enqueue } from '@/db/work/enqueue'
import {
  answerTitles,
  beginRow,
  countOpenItems,
  type Enquiry,
  enquiryIndexRows,
  insertEnquiry,
  itemCounts,
  stopRow,
} from '@/db/sources/enquiry-rows'
import { nameOf } from '@/db/team/colleagues'

/** The enquiry of a number; locked to the end of the transaction where asked. Throws Refused where there is none. */
export async function enquiryOf(trx: Knex, id: number, lock = false): Promise<Enquiry> {
  const found = Number.isSafeInteger(id) ? await enquiryRow(trx, id, lock) : undefined
  if (!found) throw new Refused('There is no such enquiry.', 'not found')
  return found
}

/** An enquiry that somebody may see: one about a list only by those who see the list. */
export async function enquiryFor(actor: Actor, id: number, needs: ListRole = 'see', trx: Knex = db(), lock = false): Promise<Enquiry> {
  const e = await enquiryOf(trx, id, lock)
  if (e.list_id !== null) await listFor(actor, e.list_id, needs, trx)
  return e
}

const countsOf = (of: string) =>
  `(select coalesce(jsonb_object_agg(state, n), '{}') from (select state, count(*)::int as n from enquiry_item i where i.enquiry_id = ${of} group by state) c)`

/** Enquiries, the newest first; those about somebody's private list are for them alone. */
export async function enquiryIndex(actor: Actor): Promise<EnquiryIndexRow[]> {
  const rows = await enquiryIndexRows(db(), countsOf('e.id'), actor.id)
  return rows.map((e) => ({
    id: e.id,
    kind: e.kind,
    source: e.source,
    name: e.name,
    state: e.state,
    counts: e.counts,
    cost: e.cost,
    currency: e.prices?.currency ?? 'GBP',
    at: e.created_at.toISOString(),
    by: e.by ?? '',
  }))
}

/** How far an enquiry got, what came of it, and what it cost. */
export async function openEnquiry(actor: Actor, id: number): Promise<EnquiryView> {
  const e = await enquiryFor(actor, id)
  const rows = await itemCounts(db(), countsOf('?'), id)
  const counts = Object.fromEntries(ITEM_STATES.map((state) => [state, rows[0].counts[state] ?? 0])) as Record<ItemState, number>
  const filled = e.kind === 'fill' ? await answerTitles(db(), id) : []
  const by = await nameOf(db(), e.actor_id)
  const each = e.prices ? dearest(e.kind, e.prices) : 0
  return {
    id,
    kind: e.kind,
    source: e.source,
    name: e.name,
    asked: e.asked,
    state: e.state,
    counts,
    total: ITEM_STATES.reduce((sum, state) => sum + counts[state], 0),
    parts: e.parts.map((p) => ({ text: searchText(p.search), total: p.total, came: p.came, more: Math.max(0, (p.total ?? 0) - p.most) })),
    narrowing: e.narrowing && { ...e.narrowing, best: bestSplit(e.narrowing) },
    prices: e.prices,
    cost: e.cost,
    cap: e.cap,
    filled: filled.map((f: { title: string; n: number }) => [f.title, f.n]),
    most: each * counts.open,
    left: e.state === 'running' ? secondsLeft(e, counts.open) : null,
    note: e.note,
    by: by?.name ?? '',
    at: e.created_at.toISOString(),
    batch: e.batch_id,
  }
}

/** From how fast it went so far; null before a twentieth or so is done. Under a cap only what it allows is counted. */
function secondsLeft({ began_at, began_open, cap, cost, prices, kind }: Enquiry, open: number): number | null {
  if (!began_at || !began_open) return null
  const done = began_open - open
  if (done < Math.min(50, began_open / 20)) return null
  const pace = (now().getTime() - began_at.getTime()) / 1000 / done
  return Math.ceil(pace * within(cap, cost, prices ? dearest(kind, prices) : 0, open))
}

/** Things an enquiry asked about that stand one way, in their order. */
export async function enquiryItems(actor: Actor, id: number, state: ItemState, offset = 0): Promise<{ total: number; items: ItemView[] }> {
  await enquiryFor(actor, id)
  const { total, rows } = await itemsPage(db(), id, state, { offset, limit: PAGE })
  return {
    total,
    items: rows.map((r) => ({
      n: r.n,
      title: r.data.title,
      detail: [
        r.data.detail,
        ...Object.entries((r.answer as Record<string, string>) ?? {}).flatMap(([title, value]) =>
          value && value !== r.data.title ? `${title.toLowerCase()}: ${value}` : [],
        ),
      ]
        .filter(Boolean)
        .join(' · '),
      state: r.state,
      why: r.why,
      has: r.data.has ?? [],
      person: r.data.person ?? null,
    })),
  }
}

/** Makes an enquiry and, where it begins by itself, the job that runs it. */
export async function makeEnquiry(
  trx: Knex,
  actor: Actor,
  made: {
    list?: number | null
    kind: EnquiryKind
    source: SourceName
    name: string
    asked: Asked
    state: EnquiryState
    parts?: Enquiry['parts']
    prices?: Prices
  },
): Promise<number> {
  const [{ id }] = await insertEnquiry(trx, {
    madeKind: made.kind,
    madeSource: made.source,
    madeName: made.name,
    madeAsked: made.asked,
    madeState: made.state,
    madeParts: made.parts,
    madePrices: made.prices,
    actorId: actor.id,
    madeList: made.list,
  })
  return id
}

/** Puts the job that runs an enquiry in the queue. */
export const enqueueEnquiry = (trx: Knex, id: number): Promise<void> => enqueue(trx, 'run-enquiry', { enquiry: id })

/**
 * Begins to ask about what is open, or goes on with it. `cap` is the most it may cost in all, in minor units, what it cost
 * already among it.
 */
export async function beginEnquiry(actor: Actor, id: number, cap: number | null): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  if (cap !== null && !(Number.isSafeInteger(cap) && cap >= 0)) throw new Refused('The most it may cost is no amount.')
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, id, 'use', trx, true)
    // A search that broke off goes on as a search.
    const searching = e.kind === 'find' && e.parts.some((part) => !part.through)
    if (e.state === 'running' || e.state === 'asking') throw new Refused('It is under way already.')
    const [{ open }] = await countOpenItems(trx, id)
    if (!searching && open === 0) throw new Refused('There is nothing left to ask about.')
    if (!searching && e.prices && within(cap, e.cost, dearest(e.kind, e.prices), 1) === 0)
      throw new Refused('The most it may cost does not allow for one more.')
    await beginRow(trx, id, searching, cap, open)
    await enqueueEnquiry(trx, id)
  })
}

/** Stops an enquiry; what came is kept, and it can go on. */
export async function stopEnquiry(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  await enquiryFor(actor, id, 'use')
  const stopped = await stopRow(db(), id)
  if (stopped === 0) throw new Refused('It is not under way.')
}
