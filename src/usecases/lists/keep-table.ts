import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { writeTable } from '@/db/lists/list-marks'

/** Keeps the set-up of a list's table for this person. */
export async function keepTable(actor: Actor, id: number, raw: unknown): Promise<void> {
  const list = await listFor(actor, id)
  await writeTable(db(), id, actor.id, raw, list.subject)
}
