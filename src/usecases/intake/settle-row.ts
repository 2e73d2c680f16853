import { db } from '@/db/connection'
import { settleRows } from '@/db/intake/intake-store'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import type { Decided } from './decided'
import { runPeople } from './run-people'
import { runPremises } from './run-premises'
import { rowToSettle } from '@/db/intake/batch-rows'

/**
 * Decides who a row in doubt is: one of the people, or premises, it could be, who is then updated by it, or somebody new. The row is
 * brought in as it came, by whoever decides; the account of the batch moves it from *in doubt* to what became of it.
 */
export async function settleRow(actor: Actor, batchId: number, rowNo: number, decided: Decided): Promise<void> {
  mustCoordinate(actor, 'Deciding on a row in doubt')
  await db().transaction(async (trx) => {
    const batch = await batchFor(actor, batchId, trx, true)
    const row = Number.isSafeInteger(rowNo) && (await rowToSettle(trx, batchId, rowNo))
    if (!row) throw new Refused('There is no such row.', 'not found')
    if ((batch.kind !== 'people' && batch.kind !== 'premises') || row.outcome !== 'in doubt')
      throw new Refused('This row is not in doubt any more.')
    if (decided !== 'new' && !row.candidates.includes(decided.person))
      throw new Refused('This record is not among the possible matches of the row.')
    const by = { ...batch, actor_id: actor.id }
    if (batch.kind === 'premises')
      return settleRows(trx, batchId, await runPremises(trx, by, [row], now(), decided === 'new' ? 'new' : decided.person))
    await settleRows(trx, batchId, await runPeople(trx, by, [row], now(), { decided }))
  })
}
