import type { BatchKind, Mapping } from '@/core/match/columns'
import type { Knex } from '@/db/connection'
import type { Shaping } from '@/core/match/shaping'

export async function lastMapping(trx: Knex, header_key: string, kind: string) {
  return await trx('column_mapping').where({ kind, header_key: header_key }).first('mapping', 'shaping')
}

export async function writeLastMapping(trx: Knex, header_key: string, kind: string, mapping: Mapping, shaping: Shaping) {
  return await trx('column_mapping')
    .insert({ kind, header_key: header_key, mapping: JSON.stringify(mapping), shaping: JSON.stringify(shaping) })
    .onConflict(['kind', 'header_key'])
    .merge()
}

/** Mappings that were saved under a name, those of one kind of file or all, by name. */
export async function profileRows(trx: Knex, kind?: BatchKind) {
  const profiles = trx('mapping_profile as m')
    .leftJoin('user as u', 'u.id', 'm.saved_by')
    .orderByRaw('lower(m.name)')
    .select('m.id', 'm.name', 'm.kind', 'm.saved_at', 'u.name as by')
  return await (kind ? profiles.where({ kind }) : profiles)
}

export async function writeProfile(
  trx: Knex,
  values: {
    name: string
    kind: 'premises' | 'people' | 'contacts' | 'suppressions'
    header: string[]
    mapping: string
    shaping: string
    saved_by: string
    saved_at: Date
  },
) {
  return await trx('mapping_profile').insert(values).onConflict(trx.raw('(lower(name))')).merge()
}

export async function profileRow(trx: Knex, id: number) {
  return await trx('mapping_profile').where({ id }).first()
}

export async function deleteProfile(trx: Knex, id: number) {
  return await trx('mapping_profile').where({ id }).delete()
}
