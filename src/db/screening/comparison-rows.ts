import type { Knex } from '@/db/connection'
import type { Channel } from '@/core/records/channels'
import type { ComparisonView } from '@/core/views/comparison-views'

/** A comparison as it is stored, without its files. */
export interface ComparisonRow {
  id: number
  name: string
  actor_id: string
  secret: Buffer | null
  addresses: number[] | null
  failed: string | null
  done_at: Date | null
}

const STANDS = ['c.id', 'c.name', 'c.created_at as at', 'c.ours', 'c.theirs', 'c.done_at as doneAt', 'c.failed', 'u.name as by'] as const

/** Returns the comparisons of suppressions, newest first, with which files each has. */
export async function comparisonRows(trx: Knex): Promise<ComparisonView[]> {
  const rows = await trx('comparison as c')
    .leftJoin('user as u', 'u.id', 'c.actor_id')
    .orderBy('c.id', 'desc')
    .select(...STANDS)
    .select(
      trx.raw(
        `c.offer is not null as offer, c.answer is not null as answer, c.their_offer is not null as "cameOffer", c.their_answer is not null as "cameAnswer", cardinality(c.shared) as shared`,
      ),
    )
  return rows.map((row) => ({ ...row, by: row.by ?? '', at: row.at.toISOString(), doneAt: row.doneAt?.toISOString() ?? null }))
}

/** Inserts a comparison of suppressions and returns its id. */
export async function insertComparison(trx: Knex, row: { name: string; actor: string; at: Date }): Promise<number> {
  const [{ id }] = await trx('comparison').insert({ name: row.name, actor_id: row.actor, created_at: row.at }, 'id')
  return id
}

/** Returns a comparison by its id, locked where asked. `secret` is the exponent that must not leave the database. */
export async function comparisonRow(trx: Knex, id: number, lock = false): Promise<ComparisonRow | undefined> {
  const query = trx('comparison').where({ id })
  return (lock ? query.forUpdate() : query).first('id', 'name', 'actor_id', 'secret', 'addresses', 'failed', 'done_at')
}

const FILES = ['offer', 'their_offer', 'answer', 'their_answer'] as const
export type ComparisonFileName = (typeof FILES)[number]

/** One of the files of a comparison; null where it is not there. */
export async function comparisonFile(trx: Knex, id: number, file: ComparisonFileName): Promise<Buffer | null> {
  const row = await trx('comparison').where({ id }).first(file)
  return row?.[file] ?? null
}

/** Writes what was worked out where it is not there yet; gives how many rows that were. */
export async function updateComparison(trx: Knex, id: number, column: ComparisonFileName | 'shared', values: object): Promise<number> {
  return await trx('comparison').where({ id }).whereNull(column).update(values)
}

/** Marks a comparison as failed, unless it is done, and returns its name and who asked for it. */
export async function failComparison(trx: Knex, id: number, failed: string) {
  return await trx('comparison').where({ id }).whereNull('done_at').update({ failed }, ['name', 'actor_id'])
}

/** Deletes a comparison with its secret, and returns how many were deleted. */
export async function deleteComparison(trx: Knex, id: number): Promise<number> {
  return await trx('comparison').where({ id }).delete()
}

/** Comparisons that have something to be worked out. */
export async function comparisonsDue(trx: Knex): Promise<{ id: number }[]> {
  return await trx('comparison')
    .whereNull('failed')
    .whereRaw(
      '(offer is null or (their_offer is not null and answer is null) or (their_answer is not null and answer is not null and shared is null))',
    )
    .orderBy('id')
    .select('id')
}

/** Emails, numbers and profiles of the directory, each once, that somebody who asked us to stop or complained must not be contacted at. */
export async function addressesToCompare(trx: Knex, at: Date): Promise<{ id: number; channel: Exclude<Channel, 'post'>; value: string }[]> {
  const { rows } = await trx.raw(
    `with held as materialized (
       select t.person_id, t.address_id, s.channels from suppression_touch t join suppression_standing s on s.id = t.suppression_id
       where s.reason in ('opt-out', 'complaint') and s.since <= ? and (s.until is null or s.until > ?)),
     caught as (
       select a.id, a.channel, a.value, a.key from held h join address a on a.id = h.address_id where a.channel = any(h.channels)
       union select a.id, a.channel, a.value, a.key from held h join person m on m.id = h.person_id join address a on a.person_id in (m.id, m.merged_into)
         where h.address_id is null and a.channel = any(h.channels))
     select distinct on (channel, key) id, channel, value from caught where channel in ('email', 'phone', 'direct') order by channel, key, id`,
    [at, at] as never,
  )
  return rows
}

/** Of some addresses, those that are still there, with whose they are. */
export async function sharedAddresses(trx: Knex, id: number): Promise<{ channel: Channel; value: string; person: number; name: string }[]> {
  const { rows } = await trx.raw(
    `select a.channel, a.value, p.id as person, p.name from comparison c cross join lateral unnest(c.shared) as of(address) join address a on a.id = of.address
       join person w on w.id = a.person_id join person p on p.id = coalesce(w.merged_into, w.id)
     where c.id = ? order by p.sort_key, p.id, a.channel, a.value`,
    [id],
  )
  return rows
}
