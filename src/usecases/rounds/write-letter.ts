import { db } from '@/db/connection'
import { letterOf, writeLetterRow } from '@/db/rounds/letter-rows'
import { mailRunOf } from '@/db/rounds/mail-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { letterMeant } from './letter-meant'
import { roundFor } from './rounds'

/**
 * Saves the letter of a round’s list. `seen` is when it was saved last as the writer knows it (ISO 8601, or nothing): where a colleague saved
 * it since, nothing is written over.
 */
export async function writeLetter(actor: Actor, id: number, raw: unknown, seen: string): Promise<void> {
  mustCoordinate(actor, 'Writing the email')
  const letter = letterMeant(raw)
  await db().transaction(async (trx) => {
    const { round, list } = await roundFor(actor, id, trx, true)
    if (round.closed_at) throw new Refused('The round is closed. Write the email of the next round.')
    if (await mailRunOf(trx, id)) throw new Refused('The emails of this round are leaving already. The letter stays as it is.')
    const before = await letterOf(trx, list.id)
    if ((before?.written_at.toISOString() ?? '') !== seen)
      throw new Refused(
        `${before?.by ?? 'A colleague'} saved this letter meanwhile. Yours was not saved. Copy what you need, then load the page again.`,
      )
    const at = now()
    // Two that were saved in one millisecond are two all the same.
    const later = before && at <= before.written_at ? new Date(before.written_at.getTime() + 1) : at
    await writeLetterRow(trx, list.id, letter, actor.id, later)
  })
}
