import { db, type Knex } from '@/db/connection'

/** A right password takes its own try out of the count, and no other: who guesses elsewhere goes on being counted. */
export async function succeeded(tried: number[]): Promise<void> {
  await db()('sign_in_failure').whereIn('id', tried).delete()
}

/** Takes the lock on one email address's attempts to sign in until the transaction ends, so that attempts made at once are all counted. */
export async function lockAttempts(trx: Knex, key: Buffer<ArrayBufferLike>) {
  return await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [`sign-in ${key.toString('hex')}`])
}

/** Records a failed attempt to sign in and returns its id. */
export async function insertFailure(trx: Knex, key: Buffer<ArrayBufferLike>) {
  return await trx('sign_in_failure').insert({ key }, 'id')
}

/** Deletes failed attempts that are older than a day. */
export async function deleteOldFailures(trx: Knex) {
  return await trx.raw(`delete from sign_in_failure where at < clock_timestamp() - interval '1 day'`)
}

export const MINUTES = 15

/** Returns how many attempts failed within the last minutes. */
export async function recentFailures(trx: Knex, key: Buffer<ArrayBufferLike>) {
  const { rows } = await trx.raw(
    'select count(*)::int as n from sign_in_failure where key = ? and at > clock_timestamp() - make_interval(mins => ?)',
    [key, MINUTES],
  )
  return rows
}
