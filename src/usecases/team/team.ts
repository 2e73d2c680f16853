import { randomBytes } from 'node:crypto'
import { hashPassword } from 'better-auth/crypto'
import { object, string, ValidationError } from 'yup'
import { squeeze } from '@/core/clean/name'
import { type Colleague, POSTS, type TeamPage } from '@/core/views/team-views'
import { db, type Knex } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from './actor'
import {
  anotherManager,
  colleagueRows,
  colleaguesWithLists,
  deleteAccount,
  deleteSessions,
  emailRow,
  insertAccount,
  leftRows,
  lockColleague,
  lockLeft,
  lockTeam,
  markLeft,
  unmarkLeft,
  updateColleague,
  updatePassword,
  withEmail,
} from '@/db/team/colleagues'
import { countListsOf, lockListsOf, passListsOn } from '@/db/lists/list-rows'
import { passAreasOn } from '@/db/lists/areas'
import { deleteMembershipsInListsOf, deleteMembershipsOf } from '@/db/lists/list-members'

/** Everybody of the team, by name. */
export async function team(_actor: Actor): Promise<{ id: string; name: string }[]> {
  return colleagueRows(db())
}

export async function teamPage(actor: Actor): Promise<TeamPage> {
  const manages = actor.post === 'manager'
  const rows = await colleaguesWithLists(db())
  const left = manages ? await leftRows(db()) : []
  return {
    mayChange: manages,
    left: left.map((u) => ({ id: u.id, name: u.name, at: u.left_at.toISOString() })),
    colleagues: rows.map((u: Colleague) => ({ ...u, email: manages || u.id === actor.id ? u.email : null, me: u.id === actor.id })),
  }
}

function mustManage(actor: Actor): void {
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

function checked(asked: unknown): { name: string; email: string; post: Actor['post'] } {
  try {
    return schema.validateSync(asked ?? {}, { stripUnknown: true, abortEarly: false })
  } catch (error) {
    throw new Refused(error instanceof ValidationError ? error.errors.join(' ') : 'Give a name, an email address and a post.')
  }
}

/** Changes of the team wait for one another, so that what each was decided on still holds. */
const taken = <T>(work: (trx: Knex.Transaction) => Promise<T>): Promise<T> =>
  db().transaction(async (trx) => {
    await lockTeam(trx)
    return work(trx)
  })

/** Twelve letters of 72 bits, for somebody to sign in with once and then to change. */
const madeUp = () => randomBytes(9).toString('base64url')

/** Adds somebody to the team; gives the password they sign in with, which is shown once and kept nowhere. */
export async function addColleague(actor: Actor, asked: unknown): Promise<{ id: string; password: string }> {
  mustManage(actor)
  const given = checked(asked)
  const password = madeUp()
  return taken(async (trx) => {
    await mustBeFree(trx, given.email, '')
    return { id: await addMember(trx, { ...given, password }), password }
  })
}

async function mustBeFree(trx: Knex, email: string, but: string): Promise<void> {
  const other = await withEmail(trx, email, but)
  if (other)
    throw new Refused(
      other.left_at
        ? `${other.name}, who was removed, has this email address. Restore them instead.`
        : `${other.name} already signs in with this email address.`,
    )
}

/** Gives somebody another name, email address or post; the post counts from their next request on. */
export async function changeColleague(actor: Actor, id: string, asked: unknown): Promise<void> {
  mustManage(actor)
  const given = checked(asked)
  await taken(async (trx) => {
    const before = await colleague(trx, id)
    await mustBeFree(trx, given.email, before.id)
    if (before.post === 'manager' && given.post !== 'manager') await mustKeepManager(trx, before.id)
    await updateColleague(trx, before.id, given)
  })
}

async function colleague(trx: Knex, id: string): Promise<{ id: string; name: string; post: Actor['post'] }> {
  const found = await lockColleague(trx, id)
  if (!found) throw new Refused('This person is not on the team.', 'not found')
  return found
}

async function mustKeepManager(trx: Knex, but: string): Promise<void> {
  const other = await anotherManager(trx, but)
  if (!other) throw new Refused('The team needs at least one manager. Make somebody else a manager first.')
}

/** Gives somebody a new password, which is shown once, and ends their sessions. */
export async function newPasswordFor(actor: Actor, id: string): Promise<{ password: string }> {
  mustManage(actor)
  const password = madeUp()
  const hash = await hashPassword(password)
  await taken(async (trx) => {
    const who = await colleague(trx, id)
    if (who.id === actor.id) throw new Refused('To change your own password, enter your current one.')
    await updatePassword(trx, who.id, hash)
    await deleteSessions(trx, who.id)
  })
  return { password }
}

/**
 * Removes somebody from the team: they are signed out at once and sign in no more, and their lists and areas go to whoever removes
 * them, shared as they were. What they did stays under their name. Gives how many lists came along.
 */
export async function removeColleague(actor: Actor, id: string): Promise<{ lists: number }> {
  mustManage(actor)
  return taken(async (trx) => {
    const who = await colleague(trx, id)
    if (who.id === actor.id) throw new Refused('You cannot remove yourself. Ask another manager.')
    if (who.post === 'manager') await mustKeepManager(trx, who.id)
    await lockListsOf(trx, who.id)
    await holdNames(trx)
    await markLeft(trx, who.id)
    await deleteAccount(trx, who.id)
    await deleteSessions(trx, who.id)
    await deleteMembershipsOf(trx, who.id)
    await deleteMembershipsInListsOf(trx, actor.id, who.id)
    await passAreasOn(trx, who.id, actor.id)
    const lists = await countListsOf(trx, who.id)
    await passListsOn(trx, who.id, actor.id)
    return { lists: Number(lists?.n ?? 0) }
  })
}

/** Takes somebody who was removed back, as they were but for their lists; gives the password they sign in with, which is shown once. */
export async function takeBackColleague(actor: Actor, id: string): Promise<{ password: string }> {
  mustManage(actor)
  const password = madeUp()
  const hash = await hashPassword(password)
  await taken(async (trx) => {
    const left = await lockLeft(trx, id)
    if (!left) throw new Refused('This person was not removed.', 'not found')
    await unmarkLeft(trx, left)
    await insertAccount(trx, left, hash)
  })
  return { password }
}

/** The email address somebody signs in with. */
export async function emailOf(actor: Actor): Promise<string> {
  return (await emailRow(db(), actor.id)).email
}
