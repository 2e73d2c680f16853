import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from '@/usecases/rounds/rounds'
import { entryOfLetThrough, updateTakenBack } from '@/db/screening/let-through'
import type { Channel } from '@/core/records/channels'

/** Takes a let-through back before the round is released; an entry says so. */
export async function takeBackLetThrough(actor: Actor, round: number, person: number, channel: Channel): Promise<void> {
  if ((await takeBackAll(actor, round, [person], channel)) === 0)
    throw new Refused('This person is not let through on this channel.', 'not found')
}

/** The same for several people; gives how many were let through until now. */
export async function takeBackAll(actor: Actor, round: number, people: readonly number[], channel: Channel): Promise<number> {
  mustCoordinate(actor, 'Taking a let-through back')
  return db().transaction(async (trx) => {
    const { round: held, list } = await roundFor(actor, round, trx, true)
    if (held.released_at) throw new Refused('The round is released: who is clear is frozen.')
    const at = now()
    const back = []
    for (const person of [...new Set(people)].sort((a, b) => a - b)) {
      const [row] = await updateTakenBack(trx, round, person, channel, actor.id)
      if (row) back.push({ person, reverses: (await entryOfLetThrough(trx, person, round, channel))?.id })
    }
    await writeEntries(
      trx,
      back.map((own) => ({
        ...own,
        kind: 'reversed' as const,
        at,
        actor: actor.id,
        channel,
        round,
        list: list.id,
        note: 'let-through taken back',
      })),
      at,
    )
    return back.length
  })
}
