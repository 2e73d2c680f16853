import type { Subject } from '@/core/columns/subject'
import type { Line } from '@/core/lists/line'
import type { ListRole } from '@/core/lists/roles'
import { db, type Knex } from '@/db/connection'

export interface ListRow {
  id: number
  name: string
  subject: Subject
  labels: string[]
  archived_at: Date | null
  owner_id: string
  /** What everybody of the team may do with it; null: nothing. */
  team_role: ListRole | null
  shared: boolean
  zone: string
  /** What the person who asks may do with it. */
  role: ListRole
}

export interface EditionRow {
  id: number
  list_id: number
  number: number
  lines: Line[]
  balance: number | null
  saved_by: string
  saved_at: Date
}

/** Whether somebody may see a list that stands in a query under some name. */
export const seenBy = (list: string) => `role_on(${list}, ?) is not null`

export async function latestEdition(list: number, trx: Knex = db()): Promise<EditionRow> {
  return trx('edition').where({ list_id: list }).orderBy('number', 'desc').first()
}

/** Whether anybody but its owner may see a list. */
export async function othersSee(list: number, trx: Knex): Promise<boolean> {
  const { rows } = await trx.raw(
    'select team_role is not null or exists (select 1 from list_member where list_id = list.id) as others from list where id = ?',
    [list],
  )
  return rows[0]?.others ?? false
}

/** The lists whose latest edition names one list, as far as the team can see them. */
export async function namedBy(list: number, trx: Knex = db()): Promise<{ id: number; name: string; shared: boolean }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, l.shared from list l join lateral (select lines from edition where list_id = l.id order by number desc limit 1) e on true
     where l.deleted_at is null and l.id <> ? and exists (
       select 1 from jsonb_array_elements(e.lines) line where (line #>> '{criterion,kind}' in ('list', 'round', 'related') and (line #>> '{criterion,list,id}')::bigint = ?)
         or (line #>> '{like,id}')::bigint = ?
         or (line #>> '{criterion,kind}' = 'any-list' and line #> '{criterion,lists}' @> jsonb_build_array(jsonb_build_object('id', ?::bigint))))
     order by l.name`,
    [list, list, list, list],
  )
  return rows
}
