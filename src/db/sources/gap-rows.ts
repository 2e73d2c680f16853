import type { Knex } from '@/db/connection'

export async function peopleWithGaps(trx: Knex, first: string, first2: string, people: number[]) {
  const { rows } = await trx.raw(
    `select p.id, p.name, p.role, o.name as organisation, p.street, ${first} as email, ${first2} as phone from person p left join organisation o on o.id = p.organisation_id
     where p.id = any(?::bigint[]) and p.state = 'live' order by p.sort_key, p.id`,
    [people] as never,
  )
  return rows
}

export async function peopleByKey(trx: Knex, keys: Buffer<ArrayBufferLike>[]) {
  const { rows } = await trx.raw(
    `select distinct on (a.key) encode(a.key, 'hex') as key, p.id, p.name from address a join person p on p.id = a.person_id where a.key = any(?::bytea[]) and p.state = 'live' order by a.key, p.id`,
    [keys] as never,
  )
  return rows
}
