import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { endToCome, openToCome } from '@/db/rounds/contacts-to-come'
import { lettersOf } from '@/db/rounds/premises-round-rows'
import { insertClosing } from '@/db/rounds/result-rows'
import { type RoundRow, supplementsOf, updateClosed, withSupplements } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { entriesOfPremises } from './letter-entries'
import { letterClosingOf } from './letter-results'
import { closingOf } from './round-results'

/**
 * Ends a released round with its supplements; one of these that was not released is dropped. What it came to adds them up. Runs in the
 * caller's transaction.
 */
export async function endRound(trx: Knex, actor: Actor, round: RoundRow): Promise<void> {
  const parts = round.letters ? [round] : await withSupplements(trx, round)
  for (const part of parts) await endPart(trx, actor, part)
  await insertClosing(trx, round.id, round.letters ? await letterClosingOf(trx, round) : await closingOf(trx, round))
  for (const { id, released_at } of await supplementsOf(trx, round)) if (!released_at) await updateClosed(trx, id, now(), actor.id)
}

/** Ends one of them: contacts it did not make get an entry each, and letters the same. */
async function endPart(trx: Knex, actor: Actor, round: RoundRow): Promise<void> {
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
  if (round.letters) await endLetters(trx, actor, round, at)
  await updateClosed(trx, round.id, at, actor.id)
}

/** Of a round of premises: letters that were not posted get an entry each. */
async function endLetters(trx: Knex, actor: Actor, round: RoundRow, at: Date): Promise<void> {
  const due = (await lettersOf(trx, round.id)).filter(({ posted_on, outcome }) => posted_on === null && outcome === null)
  const premises = due.flatMap((letter) => letter.premises)
  await writeEntries(trx, entriesOfPremises(actor, round, premises, { kind: 'not worked', at }), at)
}
