import type { Knex } from '@/db/connection'
import type { Asks } from '@/core/changes/asks'

export interface KindRow {
  id: number
  key: string | null
  name: string
  asks: Exclude<Asks, 'lead'>
  fresh_days: number | null
  opener: string | null
  /** Whether whoever asks does not hear of it. */
  muted: boolean
  changes: number
}

/** The kinds of changes, as they are shown, with how many changes there are of each. */
export async function kindRows(trx: Knex, me: string): Promise<KindRow[]> {
  const { rows } = await trx.raw(
    `select k.id, k.key, k.name, k.asks, k.fresh_days, k.opener, m.kind_id is not null as muted,
       (select count(*)::int from change c where c.kind_id = k.id and c.gone_at is null) as changes
     from change_kind k left join muted_kind m on m.kind_id = k.id and m.user_id = ?
     where k.archived_at is null order by array_position(array['confirm', 'answer', 'reconsider', 'opening'], k.asks), k.id`,
    [me],
  )
  return rows
}

/** The names of the sources that reported changes, those that reported most first: at most forty, and those that the product gives by itself. */
export async function reportSources(trx: Knex): Promise<string[]> {
  const rows = await trx('report').groupBy('source').orderByRaw('count(*) desc, source').limit(40).select('source')
  return [...rows.map(({ source }) => source), 'contacts', 'entered by hand']
}

/** Locks a kind of change and returns it; undefined where there is none or it is archived. */
export async function lockKind(trx: Knex, id: number) {
  return await trx('change_kind').where({ id }).whereNull('archived_at').forNoKeyUpdate().first('id', 'key', 'name')
}

/** Whether another kind has a name, however its letters are written. */
export async function kindNamed(trx: Knex, name: string, but: number | null): Promise<boolean> {
  const found = await trx('change_kind')
    .whereRaw('lower(btrim(name)) = lower(btrim(?))', [name])
    .whereNull('archived_at')
    .modify((query) => but !== null && query.whereNot({ id: but }))
    .first('id')
  return found !== undefined
}

export interface KindValues {
  name: string
  asks: Exclude<Asks, 'lead'>
  fresh_days: number | null
  opener: string | null
}

/** Inserts a kind of change, or updates the one with this id. */
export async function saveKindRow(trx: Knex, id: number | null, values: KindValues): Promise<void> {
  if (id === null) await trx('change_kind').insert(values)
  else await trx('change_kind').where({ id }).update(values)
}

/** Archives a kind of change, or brings it back where `at` is null. */
export async function archiveKindRow(trx: Knex, id: number, at: Date | null): Promise<void> {
  await trx('change_kind').where({ id }).update({ archived_at: at })
}

/** Mutes a kind of change for one colleague, or ends that. Doing either twice changes nothing. */
export async function muteKindRow(trx: Knex, me: string, kind: number, muted: boolean): Promise<void> {
  if (muted) await trx('muted_kind').insert({ user_id: me, kind_id: kind }).onConflict(['user_id', 'kind_id']).ignore()
  else await trx('muted_kind').where({ user_id: me, kind_id: kind }).delete()
}
