import { paged } from '@/db/paged'
import { organisationKey } from '@/core/clean/organisation'
import { db, type Knex } from '@/db/connection'

/** Returns a query for live organisations whose name holds every typed word, compared as names are. */
export function organisationsSaying(typed: string) {
  const query = db()('organisation as o').where('o.live', true)
  for (const word of organisationKey(typed.slice(0, 200)).split(' ').filter(Boolean)) query.where('o.name_key', 'like', `%${word}%`)
  return query
}

/** Returns an organisation with its key for comparing names. */
export async function organisationKeyed(trx: Knex, id: number) {
  return await trx('organisation').where({ id }).first('id', 'name', 'name_key')
}

/** Other live organisations that are branches of one: those with the same website, and those whose name begins with its whole name. */
export async function branchesOf(trx: Knex, id: number): Promise<{ id: number; name: string; name_key: string }[]> {
  const { rows } = await trx.raw(
    `select b.id, b.name, b.name_key from organisation o join organisation b on b.id <> o.id and b.live
       and ((o.website is not null and b.website = o.website) or starts_with(b.name_key, o.name_key || ' '))
     where o.id = ? and o.name_key <> '' order by b.name_key, b.id limit 500`,
    [id],
  )
  return rows
}

/** Returns the name of an organisation. */
export async function organisationName(trx: Knex, id: number) {
  return await trx('organisation').where({ id }).first('name')
}

/** Returns all columns of an organisation. */
export async function organisationRow(trx: Knex, id: number) {
  return await trx('organisation').where({ id }).first()
}

/** Returns how many live people belong to an organisation. */
export async function countPeople(trx: Knex, id: number) {
  return await trx('person').where({ organisation_id: id, state: 'live' }).select(trx.raw('count(*)::int as all'))
}

/** Returns the ids of the first people of an organisation, by name. */
export async function firstPeople(trx: Knex, id: number, most: number) {
  return await trx('person').where({ organisation_id: id, state: 'live' }).orderBy('sort_key').limit(most).select('id')
}

const ORDER = { name: 'o.name_key, o.id', town: 'o.town nulls last, o.name_key', people: 'people desc, o.name_key' }

/** Organisations whose name, industry or town says what was typed, with how many of their people there are and when one was last contacted. */
export const organisationsPage = (trx: Knex, typed: string, sort: keyof typeof ORDER, page: { offset: number; limit: number }) =>
  paged(trx, organisationsSaying(typed), page, (query) =>
    query
      .select('o.id', 'o.name', 'o.industry', 'o.town')
      .select(trx.raw(`(select count(*) from person p where p.organisation_id = o.id and p.state = 'live')::int as people`))
      .select(trx.raw(`(select max(f.last_at) from facts f join person p on p.id = f.person_id where p.organisation_id = o.id) as last_at`))
      .orderByRaw(ORDER[sort] ?? ORDER.name),
  )

/** The ids of all that are found so, so many at most. */
export async function organisationIdsSaying(typed: string, most: number): Promise<number[]> {
  return (await organisationsSaying(typed).orderBy('o.id').limit(most).select('o.id')).map((row) => row.id)
}
