import type { Knex } from '@/db/connection'

/** Returns the addresses of people and of those merged into them. */
export async function addressesOf(trx: Knex, ids: number[]) {
  return await trx('address')
    .whereIn('person_id', ids)
    .orWhereIn('person_id', trx('person').whereIn('merged_into', ids).select('id'))
    .select('id', 'value')
}

/** Returns the columns that an export of people can carry, with the organisation and the last contact of each. */
export async function peopleToExport(trx: Knex, ids: number[]) {
  const { rows } = await trx.raw(
    `select p.id, p.name, p.given, p.family, p.role, o.name as organisation, p.street, p.town, p.postcode, o.street as of_street, o.town as of_town, o.postcode as of_postcode,
           p.relation, p.custom, f.last_at, f.last_channel, f.last_result
         from person p left join organisation o on o.id = p.organisation_id left join facts f on f.person_id = p.id where p.id = any(?::bigint[])`,
    [ids] as never,
  )
  return rows
}

/** Returns the columns asked of organisations or premises, with the fields of the team's own in `details`. */
export async function recordsToExport(trx: Knex, table: string, ids: number[], columns: Record<string, string>) {
  return await trx(table)
    .whereRaw('id = any(?::bigint[])', [ids])
    .select('id', 'details', ...Object.values(columns))
}
