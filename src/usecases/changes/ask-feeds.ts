import { db } from '@/db/connection'
import { enqueue } from '@/db/work/enqueue'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { FEEDS } from './run-feed'

/** Puts a job in the queue for each feed; one that waits already stands for both. */
export async function askFeeds(): Promise<void> {
  await db().transaction(async (trx) => {
    for (const { name } of FEEDS) await enqueue(trx, 'read-feed', { feed: name })
  })
}

/** Has the feeds read now, and not at their next turn. */
export async function readFeedsNow(actor: Actor): Promise<void> {
  mustCoordinate(actor, 'Reading feeds')
  await askFeeds()
}
