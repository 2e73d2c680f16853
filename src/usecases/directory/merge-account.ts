import { customKey } from '@/core/clean/custom'
import type { MergeAccount } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { fieldWords } from './custom-fields'
import { postalText } from '@/db/directory/postal-rows'
import { entryCounts } from '@/db/directory/ledger-rows'
import { keysOf, reachRows } from '@/db/directory/address-rows'
import { FIELDS, filled, LABEL, pair, type Row } from './merge-people'

/** What merging two records would take over, and what stays as the one that is kept has it. */
export async function mergeAccount(actor: Actor, keep: number, merge: number): Promise<MergeAccount> {
  mustCoordinate(actor, 'Merging records')
  const words = await fieldWords(db())
  const [kept, merged] = await pair(db(), keep, merge, false)
  const own = await keysOf(db(), keep)
  const addresses = await reachRows(db(), merge)
  const counts = await entryCounts(db(), merge)
  return {
    keep: { id: keep, name: kept.name },
    merge: { id: merge, name: merged.name },
    takenOver: [
      ...filled(kept, merged).map(({ field, after }) => ({ field: words.name(field), value: words.value(field, after) })),
      ...addresses
        .filter((a) => !own.some((o) => o.key.equals(a.key)))
        .map((a) => ({ field: a.channel, value: words.value(a.channel, a.value) })),
    ],
    stays: differing(kept, merged).map((s) => ({
      field: words.name(s.field),
      kept: words.value(s.field, s.kept),
      other: words.value(s.field, s.other),
    })),
    entries: counts.entries,
    contacts: counts.contacts,
  }
}

/** Returns the fields in which two records differ, with the values of both. */
export function differing(kept: Row, merged: Row): { field: string; kept: string; other: string }[] {
  const pairs: [string, string | null, string | null][] = [
    ['name', kept.name, merged.name],
    ...FIELDS.map((f): [string, string | null, string | null] => [LABEL[f], kept[f], merged[f]]),
    ['organisation', kept.organisation, merged.organisation],
    ['address', postalText(kept), postalText(merged)],
    ...Object.entries(kept.custom).map(([id, value]): [string, string, string | null] => [
      customKey(Number(id)),
      value,
      merged.custom[id] ?? null,
    ]),
  ]
  return pairs.flatMap(([field, a, b]) => (a && b && a !== b ? [{ field, kept: a, other: b }] : []))
}
