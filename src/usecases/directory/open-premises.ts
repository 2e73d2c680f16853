import type { PremisesPage } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { ledgerOf } from './ledger-of'
import { fieldsOf } from './field-values'
import { premisesRow } from '@/db/directory/premises-rows'
import { viewOf } from './premises'

/** All that is known of premises, their ledger included. */
export async function openPremises(actor: Actor, id: number): Promise<PremisesPage> {
  const p = Number.isSafeInteger(id) ? await premisesRow(db(), id) : undefined
  if (!p) throw new Refused('There are no such premises in the directory.', 'not found')
  return {
    ...viewOf(p),
    state: p.state,
    outsideId: p.outside_id,
    county: p.county,
    yearBuilt: p.year_built,
    ownerKind: p.owner_kind,
    fields: await fieldsOf(p.details),
    ledger: await ledgerOf(actor, 'premises_id', [id]),
  }
}
