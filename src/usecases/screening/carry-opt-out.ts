import { CHANNELS, type Channel } from '@/core/records/channels'
import { db } from '@/db/connection'
import { insertCarried, notCarried, takeCarriedBack } from '@/db/screening/audit-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'

/** Records that an opt-out was carried to where a file had gone; a second time changes nothing. */
export async function carryOptOut(actor: Actor, round: number, person: number, channel: Channel): Promise<void> {
  mustCoordinate(actor, 'Carrying opt-outs')
  if (!CHANNELS.includes(channel)) throw new Refused('Choose a channel.')
  await db().transaction(async (trx) => {
    const due = (await notCarried(trx, actor.id)).some((own) => own.round === round && own.person === person && own.channel === channel)
    if (due) await insertCarried(trx, { round, person, channel, actor: actor.id, at: now() })
  })
}

/** Takes back that an opt-out was carried, so that it is due again. Returns whether it stood. */
export async function carryBack(actor: Actor, round: number, person: number, channel: Channel): Promise<boolean> {
  mustCoordinate(actor, 'Carrying opt-outs')
  if (!CHANNELS.includes(channel)) throw new Refused('Choose a channel.')
  return await takeCarriedBack(db(), { round, person, channel, actor: actor.id, at: now() })
}
