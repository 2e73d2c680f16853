import { squeeze } from '@/core/clean/name'
import type { BatchKind } from '@/core/match/columns'
import type { HowMapped } from '@/core/match/how-mapped'
import { carriedOver } from '@/core/match/shaping'
import type { MappingProfile, ProfileApplied } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { writeMapping } from './map-batch'
import { deleteProfile, profileRow, profileRows, writeProfile } from '@/db/intake/mapping-rows'

/** Mappings the team saved under a name, by name. */
export async function mappingProfiles(_actor: Actor, kind?: BatchKind): Promise<MappingProfile[]> {
  const rows = await profileRows(db(), kind)
  return rows.map((m) => ({ id: m.id, name: m.name, kind: m.kind, at: m.saved_at.toISOString(), by: m.by ?? '' }))
}

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

/** How a saved mapping fits the columns of a batch, found by their titles. Nothing is written. */
export async function applyProfile(actor: Actor, batchId: number, id: number): Promise<ProfileApplied> {
  const batch = await batchFor(actor, batchId)
  const profile = await profileRow(db(), id)
  if (!profile) throw new Refused('There is no such mapping any more.', 'not found')
  return { kind: profile.kind, ...carriedOver(profile, batch.header) }
}

/** Takes a saved mapping away; batches that came in by it stay as they are. */
export async function dropProfile(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Taking a mapping away')
  await deleteProfile(db(), id)
}
