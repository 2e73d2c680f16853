import { randomBytes } from 'node:crypto'
import { object, string, ValidationError } from 'yup'
import { squeeze } from '@/core/clean/name'
import { POSTS } from '@/core/views/team-views'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from './actor'
import { anotherManager, colleagueRows, lockColleague, lockTeam, withEmail } from '@/db/team/colleagues'

/** Everybody of the team, by name. */
export async function team(_actor: Actor): Promise<{ id: string; name: string }[]> {
  return colleagueRows(db())
}

/** Refuses everybody but managers. */
export function mustManage(actor: Actor): void {
  if (actor.post !== 'manager') throw new Refused('Only managers can add, edit or remove people.', 'not allowed')
}

const schema = object({
  name: string().transform(squeeze).required('Give a name.').max(120, 'A name has at most 120 letters.'),
  email: string()
    .trim()
    .lowercase()
    .email('This email address is not complete.')
    .max(254, 'An email address has at most 254 letters.')
    .required('Give an email address.'),
  post: string().oneOf(POSTS, 'Choose a post.').required('Choose a post.'),
}).noUnknown()

/** Returns the checked name, email address and post of a colleague. Refuses with what is wrong. */
export function checked(asked: unknown): { name: string; email: string; post: Actor['post'] } {
  try {
    return schema.validateSync(asked ?? {}, { stripUnknown: true, abortEarly: false })
  } catch (error) {
    throw new Refused(error instanceof ValidationError ? error.errors.join(' ') : 'Give a name, an email address and a post.')
  }
}

/** Changes of the team wait for one another, so that what each was decided on still holds. */
export const taken = <T>(work: (trx: Knex.Transaction) => Promise<T>): Promise<T> =>
  db().transaction(async (trx) => {
    await lockTeam(trx)
    return work(trx)
  })

/** Twelve letters of 72 bits, for somebody to sign in with once and then to change. */
export const madeUp = () => randomBytes(9).toString('base64url')

/** Refuses an email address that a colleague has, also one who left. */
export async function mustBeFree(trx: Knex, email: string, but: string): Promise<void> {
  const other = await withEmail(trx, email, but)
  if (other)
    throw new Refused(
      other.left_at
        ? `${other.name}, who was removed, has this email address. Restore them instead.`
        : `${other.name} already signs in with this email address.`,
    )
}

/** Returns a colleague, locked. Refuses where they are not on the team. */
export async function colleague(trx: Knex, id: string): Promise<{ id: string; name: string; post: Actor['post'] }> {
  const found = await lockColleague(trx, id)
  if (!found) throw new Refused('This person is not on the team.', 'not found')
  return found
}

/** Refuses what would leave the team without a manager. */
export async function mustKeepManager(trx: Knex, but: string): Promise<void> {
  const other = await anotherManager(trx, but)
  if (!other) throw new Refused('The team needs at least one manager. Make somebody else a manager first.')
}
