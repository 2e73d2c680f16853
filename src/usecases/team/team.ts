import { randomBytes } from 'node:crypto'
import { hashPassword } from 'better-auth/crypto'
import { object, string, ValidationError } from 'yup'
import { squeeze } from '@/core/clean/name'
import { type Colleague, POSTS, type TeamPage } from '@/core/views/team-views'
import { db, type Knex } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { holdNames } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from './actor'

/** Everybody of the team, by name. */
export async function team(_actor: Actor): Promise<{ id: string; name: string }[]> {
  return db()('user').whereNull('left_at').orderBy('name').select('id', 'name')
}

export async function teamPage(actor: Actor): Promise<TeamPage> {
  const manages = actor.post === 'manager'
  const { rows } = await db().raw(
    `select u.id, u.name, u.post, u.email, (select count(*)::int from list l where l.owner_id = u.id and l.deleted_at is null) as lists from "user" u where u.left_at is null order by u.name, u.id`,
  )
  const left = manages
    ? await db()('user').whereNotNull('left_at').orderBy('left_at', 'desc').limit(100).select('id', 'name', 'left_at')
    : []
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
    await trx.raw(`select pg_advisory_xact_lock(hashtext('team'))`)
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
  const other = await trx('user').whereRaw('lower(email) = ?', [email]).whereNot('id', but).first('name', 'left_at')
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
    await trx('user')
      .where({ id: before.id })
      .update({ ...given, updatedAt: now() })
  })
}

async function colleague(trx: Knex, id: string): Promise<{ id: string; name: string; post: Actor['post'] }> {
  const found = await trx('user')
    .where({ id: String(id) })
    .whereNull('left_at')
    .forUpdate()
    .first('id', 'name', 'post')
  if (!found) throw new Refused('This person is not on the team.', 'not found')
  return found
}

async function mustKeepManager(trx: Knex, but: string): Promise<void> {
  const other = await trx('user').where({ post: 'manager' }).whereNull('left_at').whereNot('id', but).first('id')
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
    await trx('account').where({ userId: who.id, providerId: 'credential' }).update({ password: hash, updatedAt: now() })
    await trx('session').where({ userId: who.id }).delete()
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
    await trx('list').where({ owner_id: who.id }).orderBy('id').forUpdate().select('id')
    await holdNames(trx)
    await trx('user').where({ id: who.id }).update({ left_at: now() })
    await trx('account').where({ userId: who.id }).delete()
    await trx('session').where({ userId: who.id }).delete()
    await trx('list_member').where({ user_id: who.id }).delete()
    await trx('list_member')
      .where({ user_id: actor.id })
      .whereIn('list_id', trx('list').where({ owner_id: who.id }).select('id'))
      .delete()
    await trx('area').where({ owner_id: who.id }).update({ owner_id: actor.id })
    const lists = await trx('list').where({ owner_id: who.id }).whereNull('deleted_at').count('id as n').first()
    await trx('list').where({ owner_id: who.id }).update({ owner_id: actor.id })
    return { lists: Number(lists?.n ?? 0) }
  })
}

/** Takes somebody who was removed back, as they were but for their lists; gives the password they sign in with, which is shown once. */
export async function takeBackColleague(actor: Actor, id: string): Promise<{ password: string }> {
  mustManage(actor)
  const password = madeUp()
  const hash = await hashPassword(password)
  await taken(async (trx) => {
    const left = await trx('user')
      .where({ id: String(id) })
      .whereNotNull('left_at')
      .forUpdate()
      .first('id')
    if (!left) throw new Refused('This person was not removed.', 'not found')
    await trx('user').where({ id: left.id }).update({ left_at: null })
    await trx('account').insert({ userId: left.id, accountId: left.id, providerId: 'credential', password: hash })
  })
  return { password }
}

/** The email address somebody signs in with. */
export async function emailOf(actor: Actor): Promise<string> {
  return (await db()('user').where({ id: actor.id }).first('email')).email
}
