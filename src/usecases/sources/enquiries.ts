import { type Enquiry, enquiryRow, insertEnquiry } from '@/db/sources/enquiry-rows'
import type { Asked, EnquiryKind, EnquiryState } from '@/core/sources/enquiry'
import type { Prices, SourceName } from '@/core/sources/source'
import type { ListRole } from '@/core/records/list-roles'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { enqueue } from '@/db/work/enqueue'

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

/** Returns the SQL that counts the items of an enquiry by state. */
export const countsOf = (of: string) =>
  `(select coalesce(jsonb_object_agg(state, n), '{}') from (select state, count(*)::int as n from enquiry_item i where i.enquiry_id = ${of} group by state) c)`

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
