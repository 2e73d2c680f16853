import { DOUBT, findPairs } from '@/core/match/pairs'
import { db } from '@/db/connection'
import { countText } from '@/core/text/written'
import { tellWork } from '@/db/team/news'
import { beginSearch, dropChances, everybody, finishSearch, searchRow, updateProgress, writePairs } from '@/db/directory/likenesses'

/**
 * Looks for records that are one. What it finds replaces what earlier searches found, but for what somebody decided. A run
 * that is stopped begins anew and doubles nothing.
 */
export async function runSearch(id: number): Promise<void> {
  const search = await searchRow(db(), id)
  if (!search || search.state === 'done' || search.state === 'failed') return
  const { ids, records } = await everybody(db())
  await beginSearch(db(), id, ids)
  let told = 0
  const turn = async (done: number) => {
    await new Promise((resolve) => setImmediate(resolve))
    if (done - told < 0.02) return
    told = done
    await updateProgress(db(), id, done)
  }
  const { pairs, weights, compared } = await findPairs(records, DOUBT, turn)
  const rows = pairs.map(({ a, b, chance, agreement }) => ({
    a: Math.min(ids[a], ids[b]),
    b: Math.max(ids[a], ids[b]),
    chance,
    agreement: Array.from(agreement),
    search_id: id,
  }))
  await db().transaction(async (trx) => {
    for (let i = 0; i < rows.length; i += 2000) {
      await writePairs(trx, rows.slice(i, i + 2000))
    }
    // What is alike no more is not asked about; what was decided is kept as it was.
    await dropChances(trx, id)
    await finishSearch(trx, id, compared, weights)
    await tellWork(
      trx,
      search.actor_id,
      `The search for duplicates is done: ${countText(rows.length)} possible duplicates.`,
      '/directory/doubles',
    )
  })
}
