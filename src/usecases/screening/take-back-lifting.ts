import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { holdLifts, insertLiftsBack, liftingWord, liftsOf } from '@/db/screening/liftings'
import { stopContacts } from './stop-contacts'
import { peopleTouched } from '@/db/screening/suppression-rows'

/** Takes a lift back: what it lifted stands again, each by an entry, unless it was taken back already. Gives how many. */
export async function takeBackLifting(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Taking a lift back')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const at = await passGate(trx)
    const lifting = Number.isSafeInteger(id) ? await liftingWord(trx, id) : undefined
    if (!lifting) throw new Refused('There is no such lift.', 'not found')
    const lifts: { id: number; suppression_id: number }[] = await liftsOf(trx, id)
    if (lifts.length === 0) throw new Refused('This lift is taken back already.')
    const word = `the lift was taken back (${lifting.word})`
    await insertLiftsBack(
      trx,
      lifts.map((l) => l.id),
      at,
      word,
      actor.id,
    )
    const touched = await peopleTouched(
      trx,
      lifts.map((l) => l.suppression_id),
    )
    await writeEntries(
      trx,
      lifts.flatMap((l) =>
        (touched.get(l.suppression_id) ?? []).map((person) => ({
          person,
          kind: 'suppressed' as const,
          at,
          actor: actor.id,
          suppression: l.suppression_id,
          note: word,
        })),
      ),
      at,
    )
    // What stands again holds for what rounds are still to do, too.
    await stopContacts(
      trx,
      lifts.map((l) => l.suppression_id),
      () => actor.id,
      at,
    )
    return lifts.length
  })
}
