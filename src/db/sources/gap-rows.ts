import type { Knex } from '@/db/connection'

/** Returns people who lack an email address or a phone number, by name. `email` and `phone` are SQL for the first of each. */
export async function peopleWithGaps(trx: Knex, email: string, phone: string, people: number[]) {
  const { rows } = await trx.raw(
    `select p.id, p.name, p.role, o.name as organisation, p.street, ${email} as email, ${phone} as phone from person p left join organisation o on o.id = p.organisation_id
     where p.id = any(?::bigint[]) and p.state = 'live' order by p.sort_key, p.id`,
    [people] as never,
  )
  return rows
}

/** Returns the live people who have these keys, the oldest for each key. */
export async function peopleByKey(trx: Knex, keys: Buffer<ArrayBufferLike>[]) {
  const { rows } = await trx.raw(
    `select distinct on (a.key) encode(a.key, 'hex') as key, p.id, p.name from address a join person p on p.id = a.person_id where a.key = any(?::bytea[]) and p.state = 'live' order by a.key, p.id`,
    [keys] as never,
  )
  return rows
}
