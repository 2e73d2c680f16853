import { allows } from '@/core/records/list-roles'
import type { LetterPage } from '@/core/views/letter-views'
import { db } from '@/db/connection'
import { countToCome } from '@/db/rounds/contacts-to-come'
import { newestFitCheck } from '@/db/rounds/fit-rows'
import { letterOf } from '@/db/rounds/letter-rows'
import { mailRunOf } from '@/db/rounds/mail-rows'
import { whoTook } from '@/db/rounds/stopped'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { calledOf, roundFor, stateOf } from './rounds'

/** The emails of a round: the letter as it left, or as it is written for now. A list’s next round begins with the same letter. */
export async function letterPage(actor: Actor, id: number): Promise<LetterPage> {
  const { round, list } = await roundFor(actor, id)
  const run = await mailRunOf(db(), id)
  const kept = await letterOf(db(), list.id)
  const text = run ?? kept
  const check = await newestFitCheck(db(), id)
  return {
    id,
    called: calledOf(round),
    listId: list.id,
    list: list.name,
    state: stateOf(round),
    hasEarlier: round.number > 1 && round.supplement === 0,
    check: !check ? null : { outcome: check.outcome ?? (await tallyOf(db(), check)).outcome, ended: check.ended_at !== null },
    open: (await countToCome(db(), id)).open,
    letter: {
      subject: text?.subject ?? '',
      body: text?.body ?? '',
      senderName: text?.sender_name ?? '',
      senderEmail: text?.sender_email ?? '',
      address: text?.address ?? '',
    },
    saved: kept ? { at: kept.written_at.toISOString(), by: kept.by ?? 'somebody who left' } : null,
    mayWrite: mayCoordinate(actor) && allows(list.role, 'use') && round.closed_at === null && !run,
    takenBy: (await whoTook(db(), id, 'email')).map(({ name, at }) => ({ name, at: at.toISOString() })),
    begun: run !== undefined,
  }
}
