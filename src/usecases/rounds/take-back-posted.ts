import { db } from '@/db/connection'
import { clearPosted, clearStopped, postedUnheard } from '@/db/rounds/premises-round-rows'
import { type Actor, Refused } from '@/usecases/team/actor'
import { reverseLetterContacts } from './letter-entries'
import { lettersOut } from './record-posted'

/**
 * Takes back that letters of a round were posted, but for those of which something was heard since: their contacts are reversed, and they
 * are to be posted again, as are those that were stopped then, unless they still must not leave. Gives how many.
 */
export async function takeBackPosted(actor: Actor, id: number): Promise<{ back: number }> {
  return db().transaction(async (trx) => {
    const round = await lettersOut(trx, actor, id)
    const posted = await postedUnheard(trx, id)
    if (posted.length === 0) throw new Refused('No letter of this round is recorded as posted without an answer.')
    await reverseLetterContacts(
      trx,
      actor,
      posted.flatMap(({ entries }) => entries),
      `Letters of round ${round.number} were not posted`,
    )
    await clearPosted(
      trx,
      id,
      posted.map(({ number }) => number),
    )
    await clearStopped(trx, id)
    return { back: posted.length }
  })
}
