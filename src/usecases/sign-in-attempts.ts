import { db } from '@/db/connection'
import { keyed } from '@/db/key'
import { Refused } from './actor'

/** So many failures in a quarter of an hour, and the next attempt waits. */
const MOST = 8
const MINUTES = 15

const keysOf = (email: string, address: string) => [keyed(`sign-in:${email.trim().toLowerCase()}`), keyed(`sign-in-from:${address}`)]

/** Refuses an attempt to sign in when too many failed lately: for the same e-mail, or (five times as many) from one address. */
export async function mayTry(email: string, address: string): Promise<void> {
  const [own, from] = keysOf(email, address)
  const { rows } = await db().raw(
    `select count(*) filter (where key = ?)::int as own, count(*) filter (where key = ?)::int as from_here
     from sign_in_failure where key in (?, ?) and at > clock_timestamp() - make_interval(mins => ?)`,
    [own, from, own, from, MINUTES],
  )
  if (rows[0].own >= MOST || rows[0].from_here >= MOST * 5) throw new Refused(`Too many attempts. Wait ${MINUTES} minutes, then try again.`, 'not allowed')
}

/** Notes that an attempt failed. Keys only: neither the e-mail nor the address is kept. */
export async function noteFailure(email: string, address: string): Promise<void> {
  await db()('sign_in_failure').insert(keysOf(email, address).map((key) => ({ key })))
  await db().raw(`delete from sign_in_failure where at < clock_timestamp() - interval '1 day'`)
}

/** A right password ends the count for its e-mail. */
export async function forgetFailures(email: string): Promise<void> {
  await db()('sign_in_failure').where({ key: keysOf(email, '')[0] }).delete()
}
