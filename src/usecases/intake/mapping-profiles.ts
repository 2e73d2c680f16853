import type { BatchKind } from '@/core/match/columns'
import type { MappingProfile } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { profileRows } from '@/db/intake/mapping-rows'

/** Mappings the team saved under a name, by name. */
export async function mappingProfiles(_actor: Actor, kind?: BatchKind): Promise<MappingProfile[]> {
  const rows = await profileRows(db(), kind)
  return rows.map((m) => ({ id: m.id, name: m.name, kind: m.kind, at: m.saved_at.toISOString(), by: m.by ?? '' }))
}
