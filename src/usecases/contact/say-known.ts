import { OWN_TIES, type OwnTie } from '@/core/contact/ties'
import { recordStands } from '@/db/changes/report-rows'
import { writeAcquaintance } from '@/db/contact/tie-rows'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'

const known = (how: unknown): OwnTie | null => {
  if (how === null) return null
  const found = OWN_TIES.find((own) => own === how)
  if (!found) throw new Refused('Say how they are known.')
  return found
}

async function mustStand(trx: Knex, person: number): Promise<void> {
  if (!Number.isSafeInteger(person) || !(await recordStands(trx, 'person', person)))
    throw new Refused('This person is no longer in the directory.', 'not found')
}

/** Says how one knows somebody oneself; null takes it back. */
export async function sayKnown(actor: Actor, person: number, how: unknown): Promise<void> {
  const tie = known(how)
  await db().transaction(async (trx) => {
    await mustStand(trx, person)
    await writeAcquaintance(trx, { person, user: actor.id }, tie, actor.id, now())
  })
}

/** Records that two people outside know each other; null takes it back. */
export async function acquaint(actor: Actor, person: number, other: number, how: unknown): Promise<void> {
  const tie = known(how)
  if (person === other) throw new Refused('Choose somebody else: everybody knows themselves.')
  await db().transaction(async (trx) => {
    await mustStand(trx, person)
    await mustStand(trx, other)
    await writeAcquaintance(trx, { person, other }, tie, actor.id, now())
  })
}
