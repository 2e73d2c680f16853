import type { POSTS } from '@/core/views/team-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Whether a colleague wants the morning's digest. */
export async function wantsDigest(trx: Knex, user: string): Promise<boolean> {
  return (await trx('digest').where({ user_id: user }).first('user_id')) !== undefined
}

/** Writes whether a colleague wants the morning's digest. Doing either twice changes nothing. */
export async function writeDigest(trx: Knex, user: string, wanted: boolean): Promise<void> {
  if (wanted) await trx('digest').insert({ user_id: user, wanted_at: now() }).onConflict('user_id').ignore()
  else await trx('digest').where({ user_id: user }).delete()
}

/** Colleagues who want a digest and have got none on a day (YYYY-MM-DD), with where it goes. */
export async function digestsDue(
  trx: Knex,
  day: string,
): Promise<{ id: string; name: string; post: (typeof POSTS)[number]; email: string }[]> {
  return await trx('digest as d')
    .join('user as u', 'u.id', 'd.user_id')
    .whereNull('u.left_at')
    .whereNotExists(trx('digest_sent as s').select(trx.raw('1')).whereRaw('s.user_id = d.user_id').andWhere('s.day', day))
    .orderBy('u.id')
    .select('u.id', 'u.name', 'u.post', 'u.email')
}

/** Decides that somebody gets the digest of a day. Gives the id of its message; null where that is decided already. */
export async function decideDigest(trx: Knex, user: string, day: string): Promise<string | null> {
  const [row] = await trx('digest_sent').insert({ user_id: user, day }).onConflict(['user_id', 'day']).ignore().returning('message_id')
  return row?.message_id ?? null
}

/** Writes that the digest of a day was sent; or that it was not, so that it is tried again. */
export async function settleDigest(trx: Knex, user: string, day: string, sent: boolean): Promise<void> {
  if (sent) await trx('digest_sent').where({ user_id: user, day }).update({ sent_at: now() })
  else await trx('digest_sent').where({ user_id: user, day }).delete()
}
