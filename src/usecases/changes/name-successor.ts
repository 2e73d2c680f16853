import { cleanName } from '@/core/clean/name'
import { insertInDoubt, likeNamed } from '@/db/changes/successor-rows'
import { lockForMove } from '@/db/changes/decide-rows'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'

/**
 * Puts somebody who was named as a successor among the rows in doubt, with whoever in the directory has that name: a person decides
 * whether they are one of these or somebody new. Nobody is renamed. Runs in the caller's transaction, and gives the batch.
 */
export async function nameSuccessor(trx: Knex, actor: Actor, of: number, name: string): Promise<number> {
  const clean = cleanName({ full: name })
  if (!clean?.key) throw new Refused(`“${name}” cannot be read as a name. Nothing was recorded.`)
  const person = await lockForMove(trx, of)
  if (!person) throw new Refused('There is no such record in the directory.', 'not found')
  return insertInDoubt(trx, {
    // Whoever left is not named: an erasure of them must not have to look for their name in somebody else's row.
    file: `Successor named by ${actor.name}`,
    header: ['Name', 'Role', 'Organisation'],
    mapping: ['name', 'role', 'organisation'],
    raw: [name, person.role ?? '', person.organisation?.name ?? ''],
    reason: `named by ${actor.name} as the successor in this role`,
    candidates: await likeNamed(trx, clean.key, of),
    actor: actor.id,
    at: now(),
  })
}
