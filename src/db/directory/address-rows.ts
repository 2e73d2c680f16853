import type { Knex } from '@/db/connection'

/** How many usable email addresses of live people are at a domain, by its key. */
export async function countAtDomain(trx: Knex, key: Buffer): Promise<number> {
  const row = await trx('address as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where({ 'a.domain_key': key, 'a.channel': 'email', 'a.usable': true, 'p.state': 'live' })
    .count('* as n')
    .first()
  return Number(row?.n ?? 0)
}

/** Whether anybody in the directory has the address or number of a key. */
export async function isAddress(trx: Knex, key: Buffer): Promise<boolean> {
  return (await trx('address').where({ key }).first('id')) !== undefined
}

/** Returns the addresses among these ids with the result that closed each, where a contact did. */
export async function failedAddresses(trx: Knex, failedIds: number[]) {
  return await trx('address as a')
    .leftJoin('entry as f', 'f.id', 'a.failed_entry')
    .whereIn('a.id', failedIds)
    .select('a.id', 'a.value', 'f.result')
}

/** Returns the keys of a person's addresses. */
export async function keysOf(trx: Knex, keep: number) {
  return await trx('address').where({ person_id: keep }).select('key')
}

/** Returns the email addresses, numbers and handles of a person, in their order, with their keys. Postal addresses are left out. */
export async function reachRows(trx: Knex, merge: number) {
  return await trx('address')
    .where({ person_id: merge })
    .whereNot('channel', 'post')
    .orderBy(['channel', 'position'])
    .select('channel', 'value', 'key')
}

/** Returns the email addresses, numbers and handles of a person, in their order. Postal addresses are left out. */
export async function reachOf(trx: Knex, id: number) {
  return await trx('address')
    .where({ person_id: id })
    .whereNot('channel', 'post')
    .orderBy(['channel', 'position', 'id'])
    .select('channel', 'value')
}

/** Returns the keys of the addresses of many people, with person and channel. */
export async function addressKeysOf(trx: Knex, people: number[]) {
  return await trx('address').whereRaw('person_id = any(?::bigint[])', [people]).select('person_id', 'channel', 'key')
}

/** Returns the addresses of a person, by channel and in their order. */
export async function addressRows(trx: Knex, id: number) {
  return await trx('address')
    .where({ person_id: id })
    .orderBy(['channel', 'position', 'id'])
    .select('id', 'channel', 'value', 'usable', 'why_unusable')
}

/** Returns what is known of each email address and number of a person: its check, how many colleagues share it, and why it failed. */
export async function addressStates(trx: Knex, person: number) {
  const { rows } = await trx.raw(
    `select a.id, a.channel, (select count(distinct o.person_id)::int from address o join person p on p.id = o.person_id join person me on me.id = a.person_id
         where o.key = a.key and o.channel = a.channel and o.person_id <> a.person_id and p.state = 'live' and p.organisation_id = me.organisation_id) as colleagues, c.state, c.why, c.source, coalesce(c.at, e.at) as at, e.result from address a left join email_check c on c.key = a.key and a.channel = 'email'
       left join lateral (select e.at, e.result from entry e where e.address_id = a.id and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
         order by e.at desc, e.id desc limit 1) e on a.channel = 'phone'
     where a.person_id = ? and a.channel in ('email', 'phone')`,
    [person],
  )
  return rows
}
