import { covered, isOff, isOfSet, ruleNamed } from '@/core/screening/rules'
import { withAround } from './with-around'
import { letThroughVerdict, screenRecord } from '@/core/screening/screen-record'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { personRecords } from '@/db/directory/person-records'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from '@/usecases/rounds/rounds'
import { momentNow, withHolidays } from './screening-now'
import { besideOf } from '@/usecases/rounds/round-basis'
import { insertLetThrough, letThroughOf, withRegister } from '@/db/screening/let-through'
import { CHANNELS, type Channel } from '@/core/records/channels'

/** More are a rule to be changed, not people to be let through. */
export const MOST_LET_THROUGH = 500

/** What came of letting several through: who was, and how many were not for which reason. */
export interface LetThroughDone {
  people: number[]
  left: { why: string; count: number }[]
}

/**
 * Clears a held-back person for one round and channel, by a named person with a written reason. Refused where nothing
 * holds them back, where there is no address, and for an opt-out, a complaint or a legal register, which the database
 * refuses as well.
 */
export async function letThrough(actor: Actor, round: number, person: number, channel: Channel, reason: string): Promise<void> {
  const { left } = await letThroughAll(actor, round, [person], channel, reason)
  if (left.length > 0) throw new Refused(`${left[0].why}.`, left[0].why === NOBODY ? 'not found' : 'not allowed')
}

/** The same for several people with one reason, in one act: those who cannot be let through are left and told, the others are let through. */
export async function letThroughAll(
  actor: Actor,
  round: number,
  people: readonly number[],
  channel: Channel,
  reason: string,
): Promise<LetThroughDone> {
  mustCoordinate(actor, 'Letting somebody through')
  const why = reason.trim()
  if (why === '' || why.length > 400) throw new Refused('Write the reason, in 1 to 400 characters.')
  if (!CHANNELS.includes(channel)) throw new Refused('Choose a channel.')
  const asked = [...new Set(people)].sort((a, b) => a - b)
  if (asked.length === 0) throw new Refused('Choose whom to let through.')
  if (asked.length > MOST_LET_THROUGH)
    throw new Refused(`At most ${MOST_LET_THROUGH} people can be let through at once. For more, change the rule that holds them back.`)
  return db().transaction(async (trx) => {
    const { round: held, list } = await roundFor(actor, round, trx, true)
    if (held.released_at) throw new Refused('The round is released: who is clear is frozen.')
    const at = await passGate(trx)
    const rules = await withRegister(held.rules, trx)
    const beside = await besideOf(trx, held, rules)
    const moment = withHolidays({ ...momentNow(list.zone, [], await letThroughOf(round, trx)), ...beside }, rules)
    const records = new Map((await personRecords(trx, asked)).map((found) => [found.record.id, found]))
    await withAround(
      trx,
      [...records.values()].map(({ record }) => record),
      rules,
      moment,
    )
    const through: number[] = []
    const left = new Map<string, number>()
    const leave = (said: string) => left.set(said, (left.get(said) ?? 0) + 1)
    for (const person of asked) {
      const found = records.get(person)
      if (!found?.live) {
        leave(NOBODY)
        continue
      }
      const now = screenRecord(found.record, rules, moment).channels[channel]
      const then = letThroughVerdict(found.record, channel, rules, moment)
      // Whoever waits behind others may be let through as well, and then no longer waits.
      if (now.open && !rules.some((rule) => isOfSet(rule) && !isOff(rule) && covered(rule).includes(channel)))
        leave('Nothing holds them back on this channel')
      else if (!now.open && now.evidence.kind === 'no-address') leave('There is no usable address or number to let through')
      else if (!then.open) leave(`${ruleNamed(rules, then.rule)}: nobody can let this through`)
      else if (await insertedUnlessRefused(trx, { round, person, channel, why, actorId: actor.id, at })) through.push(person)
      else leave('An opt-out, a complaint or a legal register cannot be let through')
    }
    await writeEntries(
      trx,
      through.map((person) => ({ person, kind: 'let through' as const, at, actor: actor.id, channel, note: why, round, list: list.id })),
      at,
    )
    return { people: through, left: [...left].map(([said, count]) => ({ why: said, count })) }
  })
}

const NOBODY = 'There is no such person in the directory'
const RESTRICTED = '23001'

/** Whether the database took a let-through: it refuses an opt-out, a complaint and a register by itself. */
async function insertedUnlessRefused(trx: Knex, row: Parameters<typeof insertLetThrough>[1]): Promise<boolean> {
  try {
    // In a transaction of its own within this one, so that a refusal ends that one alone.
    await trx.transaction((inner) => insertLetThrough(inner, row))
    return true
  } catch (error) {
    if ((error as { code?: string }).code === RESTRICTED) return false
    throw error
  }
}
