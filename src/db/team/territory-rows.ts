import type { Knex } from '@/db/connection'

export interface TerritoryRow {
  id: number
  name: string
  postcodes: string[]
  holders: { id: string; name: string }[]
}

/** The territories of the team by name, each with the colleagues it belongs to who are still there. */
export async function territoryRows(trx: Knex): Promise<TerritoryRow[]> {
  const { rows } = await trx.raw(
    `select t.id, t.name, t.postcodes,
       coalesce((select jsonb_agg(jsonb_build_object('id', u.id, 'name', u.name) order by u.name, u.id) from territory_holder h join "user" u on u.id = h.user_id
         where h.territory_id = t.id and u.left_at is null), '[]') as holders
     from territory t where t.removed_at is null order by lower(t.name)`,
  )
  return rows
}

/** The postcodes of some territories, those that were removed among them: a list that names one still means it. */
export async function postcodesOf(trx: Knex, ids: readonly number[]): Promise<Map<number, string[]>> {
  if (ids.length === 0) return new Map()
  const rows = await trx('territory')
    .whereRaw('id = any(?::bigint[])', [[...ids]])
    .select('id', 'postcodes')
  return new Map(rows.map(({ id, postcodes }) => [id, postcodes]))
}

/** Locks a territory; `removed_at` where it was removed. */
export async function territoryLocked(trx: Knex, id: number): Promise<{ id: number; name: string; removed_at: Date | null } | undefined> {
  return await trx('territory').where({ id }).forUpdate().first('id', 'name', 'removed_at')
}

/** Returns another territory of this name that was not removed, in any case of letters. */
export async function territoryNamed(trx: Knex, name: string, except: number | null): Promise<{ id: number } | undefined> {
  return await trx('territory')
    .whereRaw('lower(name) = lower(?)', [name])
    .whereNull('removed_at')
    .whereNot('id', except ?? 0)
    .first('id')
}

/** Writes a territory, a new one where no number is given, and gives its number. */
export async function writeTerritory(
  trx: Knex,
  { id, name, postcodes, by, at }: { id: number | null; name: string; postcodes: readonly string[]; by: string; at: Date },
): Promise<number> {
  const row = { name, postcodes: [...postcodes], saved_by: by, saved_at: at }
  if (id === null) return (await trx('territory').insert(row, 'id'))[0].id
  await trx('territory').where({ id }).update(row)
  return id
}

/** Writes who holds a territory, replacing those before. */
export async function writeHolders(trx: Knex, territory: number, users: readonly string[]): Promise<void> {
  await trx('territory_holder').where({ territory_id: territory }).delete()
  if (users.length > 0) await trx('territory_holder').insert(users.map((user_id) => ({ territory_id: territory, user_id })))
}

/** Marks a territory as removed, or puts it back where `at` is null. */
export async function markRemoved(trx: Knex, id: number, at: Date | null): Promise<void> {
  await trx('territory').where({ id }).update({ removed_at: at })
}
