import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { roundFor } from './rounds'
import { insertTaken } from '@/db/rounds/stopped'
import { now } from '@/runtime/clock'
import { fileRow } from '@/db/rounds/frozen-round'

/** One released file, byte for byte as it was handed over. Who takes it is kept, so that a suppression that comes later can name them. */
export async function roundFile(actor: Actor, id: number, channel: string): Promise<{ name: string; bytes: Buffer; sha256: string }> {
  const { round } = await roundFor(actor, id)
  await listFor(actor, round.list_id, 'use')
  const file = await fileRow(db(), id, channel)
  if (!file) throw new Refused('This round has no such file.', 'not found')
  if (file.withdrawn_at)
    throw new Refused('Somebody in this file was erased on request, so it was withdrawn. Its rows and its checksum stay with the round.')
  await insertTaken(db(), { round: id, channel, actor: actor.id, at: now() })
  return file
}
