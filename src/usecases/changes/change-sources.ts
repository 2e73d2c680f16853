import { reportSources } from '@/db/changes/kind-rows'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'

/** The names of sources of changes, for a line that asks for some of them. Files that were brought in are asked for by their name. */
export async function changeSources(_actor: Actor): Promise<string[]> {
  return await reportSources(db())
}
