import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { endToCome, openToCome } from '@/db/rounds/contacts-to-come'
import { insertClosing } from '@/db/rounds/result-rows'
import { type RoundRow, updateClosed } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { closingOf } from './round-results'

/** Ends a released round: contacts it did not make get an entry each, and what it came to is kept. Runs in the caller's transaction. */
export async function endRound(trx: Knex, actor: Actor, round: RoundRow): Promise<void> {
  const at = now()
  const due = await openToCome(trx, round.id)
  await writeEntries(
    trx,
    due.map((d) => ({
      person: d.person_id,
      kind: 'not worked' as const,
      at,
      actor: actor.id,
      channel: d.channel,
      round: round.id,
      list: round.list_id,
    })),
    at,
  )
  await endToCome(trx, round.id, at)
  await insertClosing(trx, round.id, await closingOf(trx, round))
  await updateClosed(trx, round.id, at, actor.id)
}
