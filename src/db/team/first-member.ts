import { randomBytes } from 'node:crypto'
import { hashPassword } from 'better-auth/crypto'
import type { Knex } from 'knex'

export interface NewMember {
  name: string
  email: string
  post: 'coordinator' | 'caller' | 'manager'
  password: string
}

/** Adds somebody who can sign in and returns their id. */
export async function addMember(db: Knex, { name, email, post, password }: NewMember): Promise<string> {
  const [{ id }] = await db('user').insert({ name, email, post, emailVerified: true }, 'id')
  await db('account').insert({ userId: id, accountId: id, providerId: 'credential', password: await hashPassword(password) })
  return id
}

/** Adds the first manager of an empty installation, who adds the others, with a password made up on the spot; says how to sign in. */
export async function firstPerson(db: Knex): Promise<string> {
  const password = randomBytes(9).toString('base64url')
  await addMember(db, { name: 'Manager', email: 'manager@example.org', post: 'manager', password })
  return `Sign in as manager@example.org with the password ${password} (shown only this once)`
}
