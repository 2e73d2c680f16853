import { dearest, within } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import type { CheckState, Gap, Prices, SearchedName } from '@/core/sources/source'
import { db } from '@/db/connection'
import { log } from '@/runtime/log'
import { fillingSource, searchedSource, SourceTrouble } from '@/sources/http-source'
import { enquiryOf } from './enquiries'
import { tellWork } from '@/db/team/news'
import { addCost, type Became, endEnquiry, type Enquiry, failEnquiry, openItems, updateItems } from '@/db/sources/enquiry-rows'
import { runFind } from './run-find'
import { recordChecks } from './record-checks'

/** Sources are asked about so many things at once. */
const CHUNK = 50

interface Item {
  n: number
  key: string
  data: { gap?: Gap; email?: string }
}

/**
 * Runs an enquiry for as long as it is to: what came is written after every answer, so that one that is stopped, or whose
 * source breaks off, keeps it and goes on from there. A source that does not answer ends it for now, and it says so.
 */
export async function runEnquiry(id: number): Promise<void> {
  try {
    const e = await enquiryOf(db(), id)
    if (e.state === 'asking') await runFind(id)
    else while (await runChunk(id));
  } catch (error) {
    if (!(error instanceof SourceTrouble)) throw error
    log.warn({ enquiry: id, message: error.message }, 'a source did not answer')
    await db().transaction(async (trx) => {
      const e = await enquiryOf(trx, id, true)
      if (e.state !== 'running' && e.state !== 'asking') return
      await failEnquiry(trx, id, error.message)
      await tellWork(trx, e.actor_id, `${e.name} broke off: the source does not answer.`, `/intake/enquiries/${id}`)
    })
  }
}

async function runChunk(id: number): Promise<boolean> {
  const e = await enquiryOf(db(), id)
  if (e.state !== 'running') return false
  const prices = e.prices ?? (await fillingSource.prices())
  const open: Item[] = await openItems(db(), id, CHUNK)
  const may = within(e.cap, e.cost, dearest(e.kind, prices), open.length)
  if (open.length === 0) return end(e, 'done', null)
  if (may === 0)
    return end(e, 'stopped', `The most it may cost, ${priceText(e.cap ?? 0, prices.currency)}, allows for no more. What came is kept.`)
  const became = await ASK[e.kind](e, open.slice(0, may), prices)
  await db().transaction(async (trx) => {
    await enquiryOf(trx, id, true)
    const rows = await updateItems(trx, became, id)
    const cost = rows.reduce((sum: number, row: { cost: number }) => sum + row.cost, 0)
    await addCost(trx, id, cost, prices)
    if (e.kind === 'check')
      await recordChecks(
        trx,
        e,
        became.flatMap((b) => (b.answer ? [{ email: b.answer['E-mail'], state: b.state as CheckState, why: b.why ?? '' }] : [])),
      )
  })
  return true
}

async function end(e: Enquiry, state: 'done' | 'stopped', note: string | null): Promise<false> {
  await db().transaction(async (trx) => {
    const moved = await endEnquiry(trx, e.id, state, note)
    if (moved > 0)
      await tellWork(
        trx,
        e.actor_id,
        state === 'done' ? `${e.name} is done.` : `${e.name} stopped at what it may cost.`,
        `/intake/enquiries/${e.id}`,
      )
  })
  return false
}

/** Asks the source about some things; what it has nothing on is told as such, and nothing is left open. */
const ASK: Record<Enquiry['kind'], (e: Enquiry, items: Item[], prices: Prices) => Promise<Became[]>> = {
  async find(e, items, prices) {
    const came = new Map(
      (await searchedSource(e.source as SearchedName).fetch(items.map((item) => item.key))).map((f) => [f.key, f.fields]),
    )
    return items.map(({ n, key }) => {
      const answer = came.get(key) ?? null
      return {
        n,
        answer,
        state: answer ? 'fetched' : 'nothing',
        why: answer ? null : 'the source does not have it any more',
        cost: answer ? prices.fetch : 0,
      }
    })
  },
  async fill(_, items, prices) {
    const filled = new Map(
      (await fillingSource.fill(items.map((item) => ({ ...item.data.gap, ref: String(item.n) })))).map((f) => [f.ref, f]),
    )
    return items.map(({ n }) => {
      const f = filled.get(String(n))
      const outcome = f?.outcome ?? 'nothing'
      return { n, state: outcome, why: null, answer: f && outcome !== 'nothing' ? f.fields : null, cost: prices.fill[outcome] }
    })
  },
  async check(_, items, prices) {
    const checked = new Map((await fillingSource.check(items.map((item) => item.data.email as string))).map((c) => [c.email, c]))
    return items.map(({ n, data }) => {
      const c = checked.get(data.email as string)
      return {
        n,
        state: c?.state ?? 'nothing',
        why: c?.why ?? 'the source said nothing about it',
        answer: c ? { 'E-mail': c.email } : null,
        cost: c ? prices.check[c.state] : 0,
      }
    })
  },
}
