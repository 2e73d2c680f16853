import { STOP } from '@/core/records/results'
import { CHANNELS } from '@/core/records/channels'
import { cleanPostal } from '@/core/clean/postal'
import type { LetterOutcome } from '@/core/views/premises-round-views'
import { db } from '@/db/connection'
import { passGate } from '@/db/locks'
import { lettersOf, liveRoots, lockLetters, outcomeEntries, updateOutcome } from '@/db/rounds/premises-round-rows'
import { nameOf } from '@/db/team/colleagues'
import { writeSuppressions } from '@/usecases/screening/suppress-people'
import { type Actor, Refused } from '@/usecases/team/actor'
import { reverseLetterContacts, writeLetterContacts } from './letter-entries'
import { premisesRoundFor } from './premises-rounds'

/** What can be heard of a letter that was posted, and the result of a contact that says the same. */
const RESULT: Record<Exclude<LetterOutcome, 'stopped'>, string> = { 'came back': 'returned', answered: 'replied', 'asked us to stop': STOP }
type Heard = keyof typeof RESULT

/**
 * Records what was heard of a letter: it came back, somebody answered, or asked us to stop. Whom it names is suppressed for post then; where
 * it names nobody of the directory, the address is. Null takes back what was recorded, but for a stop, which is lifted with the suppressions.
 */
export async function recordLetter(actor: Actor, id: number, number: number, heard: string | null): Promise<void> {
  if (heard !== null && !Object.hasOwn(RESULT, heard)) throw new Refused('Choose what was heard of the letter.')
  await db().transaction(async (trx) => {
    const { round } = await premisesRoundFor(actor, id, trx, true)
    if (!Number.isSafeInteger(number) || number > 2_147_483_647) throw new Refused('This round has no such letter.', 'not found')
    await lockLetters(trx, id, [number])
    const [letter] = await lettersOf(trx, id, { only: [number] })
    if (!letter) throw new Refused('This round has no such letter.', 'not found')
    if (letter.posted_on === null) throw new Refused('This letter is not recorded as posted. Record that first.')
    if (letter.outcome === 'asked us to stop')
      throw new Refused('They asked us to stop, which is recorded as a suppression. Lift it under Screening if that is wrong.')
    if (heard === 'asked us to stop' && letter.street === null)
      throw new Refused('Whom this letter named was erased on request, and must not be contacted already. Nothing was recorded.')
    if (letter.outcome === heard) throw new Refused('That is recorded already.')
    const at = await passGate(trx)
    if (letter.outcome !== null)
      await reverseLetterContacts(trx, actor, await outcomeEntries(trx, id, number), `“${letter.outcome}” was taken back`)
    if (heard === null) return updateOutcome(trx, id, number, { outcome: null, at: null, entries: [] })
    const [written] = await writeLetterContacts(trx, actor, round, [letter], { at, dayOnly: false, result: RESULT[heard as Heard] })
    if (heard === 'asked us to stop' && (await liveRoots(trx, letter.people)).size === 0)
      await writeSuppressions(trx, [
        {
          of: { postal: cleanPostal(letter as never) },
          reason: 'opt-out',
          channels: CHANNELS.filter((channel) => channel === 'post'),
          since: at,
          until: null,
          word: `said so to ${(await nameOf(trx, actor.id))?.name ?? 'a colleague'}`,
          evidence: `Letter ${number} of round ${round.number}`,
          actor: actor.id,
        },
      ])
    await updateOutcome(trx, id, number, { outcome: heard as Heard, at, entries: written.entries })
  })
}
