import { tabled } from '@/core/match/estimate'
import { DOUBT, findPairs } from '@/core/match/pairs'
import { db } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { countText } from '@/core/text/written'
import { tellWork } from '@/db/team/news'
import { enqueue } from '@/db/work/enqueue'
import { everybody } from '@/db/directory/likenesses'

/** Begins to look for records that are one, among everybody in the directory. One search at a time. */
export async function startSearch(actor: Actor): Promise<number> {
  mustCoordinate(actor, 'Finding duplicates')
  return db().transaction(async (trx) => {
    await trx.raw('lock table doubles_search in share row exclusive mode')
    if (await trx('doubles_search').whereIn('state', ['queued', 'running']).first('id'))
      throw new Refused('A search for duplicates is already running.')
    const [{ id }] = await trx('doubles_search').insert({ actor_id: actor.id, started_at: now() }, 'id')
    await enqueue(trx, 'find-doubles', { search: id })
    return id
  })
}

/**
 * Looks for records that are one. What it finds replaces what earlier searches found, but for what somebody decided. A run
 * that is stopped begins anew and doubles nothing.
 */
export async function runSearch(id: number): Promise<void> {
  const search = await db()('doubles_search').where({ id }).first()
  if (!search || search.state === 'done' || search.state === 'failed') return
  const { ids, records } = await everybody(db())
  await db()('doubles_search').where({ id }).update({ state: 'running', people: ids.length, done: 0 })
  let told = 0
  const turn = async (done: number) => {
    await new Promise((resolve) => setImmediate(resolve))
    if (done - told < 0.02) return
    told = done
    await db()('doubles_search').where({ id }).update({ done })
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
      await insertRows(
        trx,
        'likeness',
        { a: 'bigint', b: 'bigint', chance: 'real', agreement: 'smallint[]', search_id: 'bigint' },
        rows.slice(i, i + 2000),
        {
          conflict: '(a, b) do update set chance = excluded.chance, agreement = excluded.agreement, search_id = excluded.search_id',
        },
      )
    }
    // What is alike no more is not asked about; what was decided is kept as it was.
    await trx('likeness').whereNot({ search_id: id }).whereNull('decided').update({ chance: 0 })
    await trx('doubles_search')
      .where({ id })
      .update({ state: 'done', done: 1, compared, weights: JSON.stringify(tabled(weights)), finished_at: now() })
    await tellWork(
      trx,
      search.actor_id,
      `The search for duplicates is done: ${countText(rows.length)} possible duplicates.`,
      '/directory/doubles',
    )
  })
}
