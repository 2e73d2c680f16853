import type { HowMapped } from '@/core/match/how-mapped'
import type { BatchOptions } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { twinOf } from './batches'
import { headerKey } from './receive-file'
import { enqueue } from '@/db/work/enqueue'
import { writeLastMapping } from '@/db/intake/mapping-rows'
import { queueBatch } from '@/db/intake/batch-rows'
import { checkedRegister, checkedRules, writeMapping } from './map-batch'

/** Starts bringing a batch in, and remembers its mapping for the next file with the same header. */
export async function startBatch(actor: Actor, id: number, how: HowMapped, options: BatchOptions): Promise<void> {
  mustCoordinate(actor, 'Bringing in a file')
  await db().transaction(async (trx) => {
    const { kind, mapping, shaping, header } = await writeMapping(actor, trx, id, how, 'brought in')
    const twin = options.again ? null : await twinOf(actor, trx, id)
    if (twin) throw new Refused(`This file was imported before, as ${twin.name}. Confirm that you want to import it again, or leave it.`)
    const register = options.register ? await checkedRegister(trx, options.register) : undefined
    await queueBatch(trx, checkedRules(options.rules), id, options, register)
    await writeLastMapping(trx, headerKey(header), kind, mapping, shaping)
    await enqueue(trx, 'run-batch', { batch: id })
  })
}
