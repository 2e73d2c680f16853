import type { Batch } from '@/core/outputs/intake-views'
import { db } from '@/db/connection'
import { Refused } from './actor'

export async function batchOf(id: number): Promise<Batch> {
  const batch = await db()('batch').where({ id }).first()
  if (!batch) throw new Refused('There is no such batch.', 'not found')
  return batch
}
