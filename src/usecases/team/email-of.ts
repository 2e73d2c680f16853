import { db } from '@/db/connection'
import type { Actor } from './actor'
import { emailRow } from '@/db/team/colleagues'

/** The email address somebody signs in with. */
export async function emailOf(actor: Actor): Promise<string> {
  return (await emailRow(db(), actor.id)).email
}
