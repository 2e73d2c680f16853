import { db } from '@/db/connection'
import type { Actor } from './actor'

/** Everybody of the team, by name. */
export async function team(_actor: Actor): Promise<{ id: string; name: string }[]> {
  return db()('user').orderBy('name').select('id', 'name')
}
