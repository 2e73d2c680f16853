import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueue } from '@/db/work/enqueue'
import { insertSearch, lockSearches, searchUnderWay } from '@/db/directory/likenesses'

/** Begins to look for records that are one, among everybody in the directory. One search at a time. */
export async function startSearch(actor: Actor): Promise<number> {
  mustCoordinate(actor, 'Finding duplicates')
  return db().transaction(async (trx) => {
    await lockSearches(trx)
    if (await searchUnderWay(trx)) throw new Refused('A search for duplicates is already running.')
    const [{ id }] = await insertSearch(trx, actor.id)
    await enqueue(trx, 'find-doubles', { search: id })
    return id
  })
}
