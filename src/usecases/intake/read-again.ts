import { updateBatch } from '@/db/intake/batch-rows'
import type { Reading } from '@/core/match/reading'
import { db } from '@/db/connection'
import { lookOutside } from '@/formats/outside'
import { batchFor } from './batch-for'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { withFileOf } from '@/db/intake/batch-file'
import { columnsOf, mappingFor, refusing } from './receive-file'

/** Reads the file of a batch that still waits once more, another way: another sheet, another row of titles. */
export async function readAgain(actor: Actor, id: number, asked: Partial<Reading>): Promise<void> {
  mustCoordinate(actor, 'Bringing in a file')
  await batchFor(actor, id)
  const shape = await withFileOf(id, (path) => refusing(() => lookOutside(path, asked)))
  await db().transaction(async (trx) => {
    const batch = await batchFor(actor, id, trx, true)
    if (batch.state !== 'mapping') throw new Refused('This file is already being brought in.')
    await updateBatch(trx, id, { ...columnsOf(shape, asked), ...(await mappingFor(trx, batch.kind, shape)) })
  })
}
