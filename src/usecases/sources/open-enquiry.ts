import { answerTitles, type Enquiry, itemCounts } from '@/db/sources/enquiry-rows'
import { dearest, type EnquiryView, ITEM_STATES, type ItemState, within } from '@/core/sources/enquiry'
import { bestSplit, searchText } from '@/core/sources/parts'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { setAside } from './people-of'
import { nameOf } from '@/db/team/colleagues'
import { countsOf, enquiryFor } from './enquiries'

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
    balance: await balanceOf(actor, e),
    by: by?.name ?? '',
    at: e.created_at.toISOString(),
    batch: e.batch_id,
  }
}

/** What a line or rule set aside when it was asked about, and what it does now; null while it is asked, or where it is not there any more. */
async function balanceOf(actor: Actor, { asked, state }: Enquiry): Promise<EnquiryView['balance']> {
  if (asked.kind === 'find' || !('then' in asked.of) || !asked.of.then || state === 'running') return null
  const { of } = asked
  try {
    const { aside, on, text } = await setAside(actor, of, 0)
    return { of: text, at: 'round' in of ? `/rounds/${of.round}` : `/lists/${of.list}`, then: asked.of.then, now: { aside, on } }
  } catch (error) {
    if (error instanceof Refused) return null
    throw error
  }
}

/** From how fast it went so far; null before a twentieth or so is done. Under a cap only what it allows is counted. */
export function secondsLeft({ began_at, began_open, cap, cost, prices, kind }: Enquiry, open: number): number | null {
  if (!began_at || !began_open) return null
  const done = began_open - open
  if (done < Math.min(50, began_open / 20)) return null
  const pace = (now().getTime() - began_at.getTime()) / 1000 / done
  return Math.ceil(pace * within(cap, cost, prices ? dearest(kind, prices) : 0, open))
}
