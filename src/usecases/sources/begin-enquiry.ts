import { beginRow, countOpenItems, type Enquiry } from '@/db/sources/enquiry-rows'
import { dearest, within } from '@/core/sources/enquiry'
import { db, type Knex } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueueEnquiry, enquiryFor } from './enquiries'

/**
 * Begins to ask about what is open, or goes on with it. `cap` is the most it may cost in all, in minor units, what it cost
 * already among it.
 */
export async function beginEnquiry(actor: Actor, id: number, cap: number | null): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  if (cap !== null && !(Number.isSafeInteger(cap) && cap >= 0)) throw new Refused('The spending limit is not an amount of money.')
  await db().transaction(async (trx) => beginIn(trx, await enquiryFor(actor, id, 'use', trx, true), cap))
}

/** The same of an enquiry that the caller's transaction has locked. */
export async function beginIn(trx: Knex, e: Enquiry, cap: number | null): Promise<void> {
  // A search that broke off goes on as a search.
  const searching = e.kind === 'find' && e.parts.some((part) => !part.through)
  if (e.state === 'running' || e.state === 'asking') throw new Refused('This enquiry is running already.')
  const [{ open }] = await countOpenItems(trx, e.id)
  if (!searching && open === 0) throw new Refused('There is nothing left to ask about.')
  if (!searching && e.prices && within(cap, e.cost, dearest(e.kind, e.prices), 1) === 0)
    throw new Refused('The spending limit does not allow for one more record. Raise it first.')
  await beginRow(trx, e.id, searching, cap, open)
  await enqueueEnquiry(trx, e.id)
}
