import { personRow } from '@/core/clean/person-row'
import { compare } from '@/core/match/compare'
import { cellsToClean } from '@/core/match/file-locale'
import type { RowDoubt } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { peopleSharing } from '@/db/intake/intake-store'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { agreesOf, sideOf } from '@/usecases/directory/possible-duplicates'
import { comparablePerson, comparableRow } from './known-records'
import { postalText } from '@/db/directory/postal-rows'
import { rowInDoubt } from '@/db/intake/batch-rows'

/** A row in doubt as it would be stored, beside each of those it could be, with how far they agree. */
export async function openRowInDoubt(actor: Actor, batchId: number, rowNo: number): Promise<RowDoubt> {
  const batch = await batchFor(actor, batchId)
  const found = await rowInDoubt(db(), batchId, rowNo)
  if (found?.outcome !== 'in doubt' || batch.kind !== 'people') throw new Refused('This row is not in doubt.', 'not found')
  const row = personRow(cellsToClean(batch, found.raw, []), batch.mapping, settings().ARCH_REGION)
  if ('refused' in row) throw new Refused(`The row would be refused now: ${row.refused}.`)
  const people = await peopleSharing(db(), { outsideIds: [], addressKeys: [], names: [], ids: found.candidates ?? [] })
  const own = comparableRow(row)
  const candidates = []
  // In the order in which they were found, the likeliest first.
  for (const id of found.candidates ?? []) {
    const person = people.find((p) => p.id === id)
    if (person) candidates.push({ ...(await sideOf(db(), id)), agrees: agreesOf(compare(own, comparablePerson(person))) })
  }
  return {
    row: rowNo,
    why: found.reason ?? '',
    candidates,
    fields: {
      name: row.name.name,
      role: row.role ?? '',
      organisation: row.organisation ?? '',
      email: row.emails.map((e) => e.value).join(', '),
      phone: row.phones.map((p) => p.normal).join(', '),
      'direct message': row.directs.map((d) => d.value).join(', '),
      address: postalText(row.postal),
      'relation to us': row.relation ?? '',
      tags: row.tags.join(', '),
      'outside id': row.outsideId ?? '',
      'came with': `row ${rowNo} of this file`,
    },
  }
}
