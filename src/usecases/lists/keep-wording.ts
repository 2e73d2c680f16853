import type { RoleWording } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { writeWording } from '@/db/lists/role-wordings'

/** Keeps a wording under its name, in place of one that has it. Everybody of the team may; lines that took words from it stay as they are. */
export async function keepWording(actor: Actor, asked: { name: string; says: string[]; butNot: string[] }): Promise<RoleWording> {
  const name = String(asked.name).trim().replace(/\s+/g, ' ')
  const words = (given: unknown) =>
    [...new Set((Array.isArray(given) ? given : []).map((word) => String(word).trim()).filter(Boolean))].slice(0, 40)
  const [says, butNot] = [words(asked.says), words(asked.butNot)]
  if (name === '' || name.length > 120) throw new Refused('Give the wording a name of at most 120 letters.')
  if (says.length === 0) throw new Refused('Name at least one word or phrase of the role.')
  if ([...says, ...butNot].some((word) => word.length > 80)) throw new Refused('A word or phrase has at most 80 letters.')
  const [kept] = await writeWording(db(), name, says, butNot, actor.id)
  return { id: kept.id, name: kept.name, says, butNot }
}
