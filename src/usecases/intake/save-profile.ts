import { squeeze } from '@/core/clean/name'
import type { HowMapped } from '@/core/match/how-mapped'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { writeMapping } from './map-batch'
import { writeProfile } from '@/db/intake/mapping-rows'

/** Saves how the columns of a batch are mapped under a name, in place of what had that name before. */
export async function saveProfile(actor: Actor, batch: number, how: HowMapped, asked: string): Promise<void> {
  mustCoordinate(actor, 'Saving a mapping')
  const name = squeeze(String(asked))
  if (name === '' || name.length > 80) throw new Refused('Give the mapping a name of at most 80 letters.')
  await db().transaction(async (trx) => {
    const { header, kind, mapping, shaping } = await writeMapping(actor, trx, batch, how, 'saved')
    const values = {
      name,
      kind,
      header,
      mapping: JSON.stringify(mapping),
      shaping: JSON.stringify(shaping),
      saved_by: actor.id,
      saved_at: now(),
    }
    await writeProfile(trx, values)
  })
}
