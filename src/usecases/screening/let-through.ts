import { isFinal } from '@/core/screening/kind'
import { ruleNamed } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { personRecords } from '@/db/directory/person-records'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from '@/usecases/rounds/rounds'
import { momentNow } from './screening-now'
import { lastRounds } from '@/db/rounds/round-rows'
import { insertLetThrough, letThroughOf, withRegister } from '@/db/screening/let-through'
import { SCREENED, type ScreenedChannel } from '@/core/records/channels'

/**
 * Clears a held-back person for one round and channel, by a named person with a written reason. Refused where nothing
 * holds them back, where there is no address, and for an opt-out, a complaint or a legal register, which the database
 * refuses as well.
 */
export async function letThrough(actor: Actor, round: number, person: number, channel: ScreenedChannel, reason: string): Promise<void> {
  mustCoordinate(actor, 'Letting somebody through')
  const why = reason.trim()
  if (why === '' || why.length > 400) throw new Refused('Write the reason, in 1 to 400 characters.')
  if (!SCREENED.includes(channel)) throw new Refused('Choose a channel.')
  await db().transaction(async (trx) => {
    const { round: held, list } = await roundFor(actor, round, trx, true)
    if (held.released_at) throw new Refused('The round is released: who is clear is frozen.')
    const at = await passGate(trx)
    const [found] = await personRecords(trx, [person])
    if (!found?.live) throw new Refused('There is no such person in the directory.', 'not found')
    const { released } = await lastRounds(list.id, trx)
    const rules = await withRegister(held.rules, trx)
    const verdict = screenRecord(found.record, rules, momentNow(list.zone, released ? [released.id] : [], await letThroughOf(round, trx)))
      .channels[channel]
    if (verdict.open) throw new Refused('Nothing holds them back on this channel.')
    if (verdict.evidence.kind === 'no-address') throw new Refused('There is no usable address or number to let through.')
    if (isFinal(verdict.evidence)) throw new Refused(`${ruleNamed(rules, verdict.rule)}: nobody can let this through.`, 'not allowed')
    await refusedByDatabase(insertLetThrough(trx, { round, person, channel, why, actorId: actor.id, at }))
    await writeEntries(trx, [{ person, kind: 'let through', at, actor: actor.id, channel, note: why, round, list: list.id }], at)
  })
}

const RESTRICTED = '23001'

async function refusedByDatabase(work: PromiseLike<unknown>): Promise<void> {
  try {
    await work
  } catch (error) {
    if ((error as { code?: string }).code === RESTRICTED)
      throw new Refused('An opt-out, a complaint or a legal register cannot be let through.', 'not allowed')
    throw error
  }
}
