import { SUBJECT_NAMES } from '@/core/records/subject'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { insertRound, lastRounds } from '@/db/rounds/round-rows'
import { newestEdition, policyOf } from '@/db/screening/policies'
import { endRound } from './end-round'

/**
 * Begins the next round of a list, with the newest edition of its policy. A round of the list that is still out ends with it;
 * one that is still being built is gone on with. A round of premises sends letters. `onlyNew`: it is for those alone whom no earlier round released.
 */
export async function startRound(actor: Actor, listId: number, onlyNew = false): Promise<number> {
  mustCoordinate(actor, 'Starting a round')
  return db().transaction(async (trx) => {
    const list = await listFor(actor, listId, 'use', trx, true)
    if (list.only_follow)
      throw new Refused('This list is only for following its people. Change that under “When it is due” before a round of it begins.')
    if (list.subject === 'organisation')
      throw new Refused(
        `A round goes to people or to premises, and this is a list of ${SUBJECT_NAMES[list.subject]}. Make a list of people with a line that names this one.`,
      )
    const { newest } = await lastRounds(listId, trx)
    if (newest && !newest.released_at) return newest.id
    if (newest && !newest.closed_at) await endRound(trx, actor, newest)
    const edition = await latestEdition(listId, trx)
    // Letters to premises have rules of their own.
    const policy = list.subject === 'premises' ? null : await newestEdition(trx, (await policyOf(trx, list)).id)
    const [{ id }] = await insertRound(trx, {
      listId,
      newest,
      editionId: edition.id,
      policy,
      actorId: actor.id,
      onlyNew: onlyNew && newest !== null,
    })
    return id
  })
}
