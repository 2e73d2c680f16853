import { isDay, localDate } from '@/core/calendar/local-day'
import { dateText } from '@/core/text/written'
import { db, type Knex } from '@/db/connection'
import { passGate } from '@/db/locks'
import { lettersHeld, lettersOf, lockLetters, updatePosted, updateStopped } from '@/db/rounds/premises-round-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { instantOf } from '@/usecases/contact/contact-people'
import { type Actor, Refused } from '@/usecases/team/actor'
import { writeLetterContacts } from './letter-entries'
import { premisesRoundFor } from './premises-rounds'

/** A released round of premises that is still out, under the lock of its letters. */
export async function lettersOut(trx: Knex, actor: Actor, id: number) {
  const { round } = await premisesRoundFor(actor, id, trx, true)
  if (!round.released_at) throw new Refused('This round is not released, so none of its letters can have left.')
  if (round.closed_at) throw new Refused('This round is closed, so its letters stay as they are.')
  await lockLetters(trx, id, null)
  return { ...round, released_at: round.released_at }
}

/**
 * Records that the letters of a round were posted on a day: all that were not posted yet, but for those that must not leave by then, which are
 * stopped. Each becomes a contact of its premises and of whom it names. Gives how many were posted and how many stopped.
 */
export async function recordPosted(actor: Actor, id: number, day: string): Promise<{ posted: number; stopped: number }> {
  if (!isDay(day)) throw new Refused('Give the day on which the letters were posted.')
  const zone = settings().ARCH_ZONE
  return db().transaction(async (trx) => {
    const round = await lettersOut(trx, actor, id)
    const moment = await passGate(trx)
    const released = localDate(round.released_at.getTime(), zone)
    if (day > localDate(moment.getTime(), zone)) throw new Refused('That day is to come. Record the letters once they are posted.')
    if (day < released)
      throw new Refused(`The round was released on ${dateText(released)}, so its letters were posted then at the earliest.`)
    // Whoever asked us to stop after the letters were posted got theirs all the same.
    const noon = instantOf(day, null, zone)
    const at = noon > moment ? moment : noon
    const held = await lettersHeld(trx, id, at)
    const due = (await lettersOf(trx, id)).filter(({ posted_on, outcome }) => posted_on === null && outcome === null)
    const letters = due.filter(({ number }) => !held.has(number))
    const stopped = due.filter(({ number }) => held.has(number)).map(({ number }) => number)
    if (due.length === 0) throw new Refused('Every letter of this round is recorded already.')
    await updateStopped(trx, id, stopped, now())
    const written = await writeLetterContacts(trx, actor, round, letters, { at, dayOnly: true, result: 'sent' })
    await updatePosted(trx, id, { day, by: actor.id, letters: written })
    return { posted: letters.length, stopped: stopped.length }
  })
}
