import { settings } from '@/runtime/settings'
import { phoneText } from '@/core/clean/phone'
import { AGREEMENTS, COMPARED } from '@/core/match/compare'
import type { DoublesPage, PairSide, PairView } from '@/core/views/record-views'
import { db, type Knex } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { dayText } from '@/core/text/written'
import { postalText } from '@/db/directory/postal-rows'
import { decidedCounts, lastSearch, openCounts, openPairs } from '@/db/directory/likenesses'
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
      'direct message': of('direct'),
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
