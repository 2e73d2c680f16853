import type { BatchKind, Mapping } from '@/core/match/columns'
import type { Knex } from '@/db/connection'
import type { Shaping } from '@/core/match/shaping'

/** Returns how a file with these column titles was read last; undefined where none was. */
export async function lastMapping(trx: Knex, header_key: string, kind: string) {
  return await trx('column_mapping').where({ kind, header_key: header_key }).first('mapping', 'shaping')
}

/** Keeps how a file with these column titles was read. */
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

/** Saves a mapping for the team. One of the same name, in any case of letters, is replaced. */
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

/** Returns a saved mapping by its id. */
export async function profileRow(trx: Knex, id: number) {
  return await trx('mapping_profile').where({ id }).first()
}

/** Deletes a saved mapping. Batches that were read by it keep their own copy. */
export async function deleteProfile(trx: Knex, id: number) {
  return await trx('mapping_profile').where({ id }).delete()
}
