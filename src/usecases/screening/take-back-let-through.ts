import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from '@/usecases/rounds/rounds'
import { entryOfLetThrough, updateTakenBack } from '@/db/screening/let-through'
import type { ScreenedChannel } from '@/core/records/channels'

/** Takes a let-through back before the round is released; an entry says so. */
export async function takeBackLetThrough(actor: Actor, round: number, person: number, channel: ScreenedChannel): Promise<void> {
  mustCoordinate(actor, 'Taking a let-through back')
  await db().transaction(async (trx) => {
    const { round: held, list } = await roundFor(actor, round, trx, true)
    if (held.released_at) throw new Refused('The round is released: who is clear is frozen.')
    const [row] = await updateTakenBack(trx, round, person, channel, actor.id)
    if (!row) throw new Refused('This person is not let through on this channel.', 'not found')
    const entry = await entryOfLetThrough(trx, person, round, channel)
    await writeEntries(
      trx,
      [
        {
          person,
          kind: 'reversed',
          at: now(),
          actor: actor.id,
          channel,
          round,
          list: list.id,
          reverses: entry?.id,
          note: 'let-through taken back',
        },
      ],
      now(),
    )
  })
}
