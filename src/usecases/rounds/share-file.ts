import { array, boolean, number, object, string } from 'yup'
import { CHANNEL_NAME, type Channel } from '@/core/records/channels'
import { closePostcode, postcodeTest } from '@/core/clean/postcode'
import { territoryRows } from '@/db/team/territory-rows'
import { type SharingHow, shareOut, sharesOf } from '@/core/rounds/share-out'
import type { SharesTold } from '@/core/views/round-views'
import { db, type Knex } from '@/db/connection'
import { colleaguesOfList, peopleToShare, writeShares } from '@/db/rounds/share-rows'
import { now } from '@/runtime/clock'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

const schema = object({
  colleagues: array(
    object({
      id: string().max(60).required(),
      share: number()
        .integer('Shares are whole numbers.')
        .min(1, 'A share is 1 at least.')
        .max(100, 'A share is 100 at most.')
        .required('Give each colleague a share.'),
    }).required(),
  )
    .min(1, 'Choose at least one colleague.')
    .max(100)
    .required('Choose the colleagues.'),
  known: boolean().default(true),
  had: boolean().default(true),
  territory: boolean().default(false),
})

/** What sharing out the contacts of a channel would give each colleague. Nothing is changed. */
export async function tellShares(actor: Actor, id: number, channel: Channel, raw: unknown): Promise<SharesTold> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (!round.released_at) throw new Refused('Release the round first.', 'not found')
  const colleagues = await colleaguesOfList(db(), list.id)
  if (raw === null) return { colleagues: colleagues.map((own) => ({ ...own, ...NOTHING })), people: 0 }
  const shares = sharesOf(await sharedIn(db(), id, list.id, channel, schema.validateSync(raw, { abortEarly: false })))
  const told = colleagues.map((own) => ({ ...own, ...(shares.get(own.id) ?? NOTHING) }))
  return { colleagues: told, people: told.reduce((sum, { people }) => sum + people, 0) }
}

const NOTHING = { people: 0, knows: 0, territory: 0, had: 0, organisation: 0, share: 0 }

/**
 * Shares out the contacts of one channel of a released round, in place of how they were. An organisation stays with one colleague. Each
 * has a file of theirs; contacts that were made stay who made them.
 */
export async function shareFile(actor: Actor, id: number, channel: Channel, raw: unknown): Promise<void> {
  mustCoordinate(actor, 'Sharing out contacts')
  const how = schema.validateSync(raw, { abortEarly: false })
  await db().transaction(async (trx) => {
    const { round, list } = await roundFor(actor, id, trx, true)
    if (!round.released_at) throw new Refused('Release the round first. Nothing was shared out.')
    if (round.closed_at) throw new Refused('The round is closed. Nothing was shared out.')
    const shared = await sharedIn(trx, id, list.id, channel, how)
    if (shared.size === 0) throw new Refused(`Nobody is contacted by ${CHANNEL_NAME[channel]} in this round. Nothing was shared out.`)
    await writeShares(trx, { round: id, channel, how, by: actor.id, at: now() }, shared)
  })
}

async function sharedIn(trx: Knex, round: number, list: number, channel: Channel, how: SharingHow) {
  const may = new Set((await colleaguesOfList(trx, list)).map((own) => own.id))
  if (how.colleagues.some((own) => !may.has(own.id)))
    throw new Refused('One of these colleagues may not use the list, or has left. Nothing was shared out. Load the page again.')
  const ids = how.colleagues.map((own) => own.id)
  if (new Set(ids).size < ids.length) throw new Refused('A colleague is named twice. Nothing was shared out.')
  const held = (await territoryRows(trx)).map(({ postcodes, holders }) => ({
    isIn: postcodeTest(postcodes),
    of: holders.map((own) => own.id),
  }))
  const people = (await peopleToShare(trx, round, channel, ids)).map(({ postcode, ...one }) => {
    const close = postcode === null ? null : closePostcode(postcode)
    const territory = close === null ? [] : held.filter(({ isIn }) => isIn(close)).flatMap(({ of }) => of)
    return { ...one, territory: [...new Set(territory)] }
  })
  return shareOut(people, how)
}
