import { settings } from '@/runtime/settings'
import { phoneText } from '@/core/clean/phone'
import { AGREEMENTS, COMPARED } from '@/core/match/compare'
import type { DoublesPage, PairSide, PairView } from '@/core/views/record-views'
import { db, type Knex } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { mergeIn } from './merge-people'
import { dayText } from '@/core/text/written'
import { postalText } from '@/db/directory/postal-rows'
import { decidedCounts, lastSearch, lockPair, openCounts, openPairs, pairRow, reopen, updateDecided } from '@/db/directory/likenesses'
import { entryCounts } from '@/db/directory/ledger-rows'
import { reachOf } from '@/db/directory/address-rows'
import { personForPair } from '@/db/directory/person-rows'

/** The last search with its account, and the pairs nobody has decided about, the surest first. */
export async function doublesPage(_actor: Actor): Promise<DoublesPage> {
  const search = await lastSearch(db())
  const rows = await openCounts(db())
  const decided = await decidedCounts(db())
  const of = (what: string) => decided.find((d) => d.decided === what)?.n ?? 0
  const pairs = await openPairs(db())
  return {
    search: search
      ? {
          state: search.state,
          done: search.done,
          people: search.people,
          compared: search.compared,
          at: search.started_at.toISOString(),
          by: search.by ?? '',
          error: search.error,
        }
      : null,
    open: rows[0].open,
    sure: rows[0].sure,
    same: of('same'),
    different: of('different'),
    pairs: pairs.rows,
  }
}

/** Two records side by side, with how far they agree. */
export async function openPair(_actor: Actor, a: number, b: number): Promise<PairView> {
  const pair = await pairRow(db(), a, b)
  if (!pair) throw new Refused('These two were not found to be similar.', 'not found')
  const sides = await Promise.all([pair.a, pair.b].map((id: number) => sideOf(db(), id)))
  return {
    a: sides[0],
    b: sides[1],
    chance: pair.chance,
    decided: pair.decided,
    agrees: agreesOf(pair.agreement),
  }
}

/** How far two records agree, field by field in words. */
export function agreesOf(agreement: ArrayLike<number>): PairView['agrees'] {
  return COMPARED.map((field, f) => ({
    field,
    level: agreement[f] < 0 ? null : AGREEMENTS[field][agreement[f]],
    rank: agreement[f] < 0 ? null : agreement[f] / (AGREEMENTS[field].length - 1),
  }))
}

/** A record as it stands beside another, field by field in words. */
export async function sideOf(trx: Knex, id: number): Promise<PairSide> {
  const p = await personForPair(trx, id)
  const addresses = await reachOf(trx, id)
  const counts = await entryCounts(trx, id)
  const of = (channel: string, written = (value: string) => value) =>
    addresses
      .filter((a) => a.channel === channel)
      .map((a) => written(a.value))
      .join(', ')
  return {
    id,
    name: p.name,
    live: p.state === 'live',
    fields: {
      name: p.name,
      role: p.role ?? '',
      organisation: p.organisation ?? '',
      email: of('email'),
      phone: of('phone', (value) => phoneText(value, settings().ARCH_REGION)),
      address: postalText(p),
      'relation to us': p.relation ?? '',
      tags: (p.tags ?? []).join(', '),
      'outside id': p.outside_id ?? '',
      'came with': p.file_name ?? 'entered by hand',
      contacts: counts.contacts === 0 ? 'never' : `${counts.contacts}, the last on ${p.last_at ? dayText(p.last_at) : 'a day unknown'}`,
    },
    entries: counts.entries,
  }
}

/** Decides about a pair: one record, of which `keep` stays, or two. */
export async function decidePair(actor: Actor, a: number, b: number, decision: { same: number } | 'different'): Promise<void> {
  mustCoordinate(actor, 'Deciding about duplicates')
  const [low, high] = [Math.min(a, b), Math.max(a, b)]
  await db().transaction(async (trx) => {
    const pair = await lockPair(trx, low, high)
    if (!pair) throw new Refused('These two were not found to be similar.', 'not found')
    if (pair.decided !== null)
      throw new Refused(`Somebody has decided about these two meanwhile: they are ${pair.decided === 'same' ? 'one' : 'two'}.`)
    if (decision !== 'different') {
      if (decision.same !== a && decision.same !== b) throw new Refused('The record that stays is neither of the two.')
      await mergeIn(trx, actor, decision.same, decision.same === a ? b : a)
    }
    await updateDecided(trx, low, high, decision, actor.id)
  })
}

/** Takes back that two records are two: they are asked about again. */
export async function reopenPair(actor: Actor, a: number, b: number): Promise<void> {
  mustCoordinate(actor, 'Deciding about duplicates')
  const changed = await reopen(db(), a, b)
  if (changed === 0) throw new Refused('Nobody marked these as different.')
}
