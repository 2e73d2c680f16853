import type { Rhythm } from '@/core/calendar/rhythm'
import type { Subject } from '@/core/records/subject'
import { type Line, subjectOf } from '@/core/lists/line'
import type { ListRole } from '@/core/records/list-roles'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

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
  rhythm: Rhythm | null
  /** The day on which its rhythm was set (YYYY-MM-DD). */
  rhythm_from: string | null
  only_follow: boolean
  /** The screening policy it chose; null: the team's. */
  policy_id: number | null
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

/** Returns the latest edition of a list. Every list has one. */
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
       select 1 from jsonb_array_elements(e.lines) line where (line #>> '{like,id}')::bigint = ?
         or exists (
           select 1 from (select line -> 'criterion' as c union all select jsonb_array_elements(coalesce(line #> '{criterion,parts}', '[]'))) asked
           where (c ->> 'kind' in ('list', 'round', 'related') and (c #>> '{list,id}')::bigint = ?)
             or (c #>> '{since,id}')::bigint = ?
             or (c ->> 'kind' = 'any-list' and c -> 'lists' @> jsonb_build_array(jsonb_build_object('id', ?::bigint)))))
     order by l.name`,
    [list, list, list, list, list],
  )
  return rows
}

/** Returns the right of a colleague on a list: see, use or edit; null where they may not see it, undefined where it is gone. */
export async function roleOn(trx: Knex, id: number, actorId: string) {
  return await trx('list')
    .where({ id })
    .whereNull('deleted_at')
    .first(trx.raw('role_on(list, ?) as role', [actorId]))
}

/** Returns the list where a colleague may see it; undefined otherwise. */
export async function listSeen(trx: Knex, id: number, actorId: string) {
  return await trx('list').where({ id }).whereRaw('role_on(list, ?) is not null', [actorId]).first('id')
}

/** Returns the name of a list. */
export async function listName(trx: Knex, list: number) {
  return await trx('list').where({ id: list }).first('name')
}

/** Returns what the team may do with a list, and its name. */
export async function teamRoleAndName(trx: Knex, listId: number) {
  return await trx('list').where({ id: listId }).first('team_role', 'name')
}

/** Returns what the team may do with a list; null where it is private. */
export async function teamRole(trx: Knex, id: number) {
  return await trx('list').where({ id }).first('team_role')
}

/** Returns somebody who may read the one list but not the other that it names, so that it can be refused. */
export async function readerWithout(trx: Knex, listId: number, namedId: number) {
  const { rows } = await trx.raw(
    `select u.name from "user" u, list a, list b where a.id = ? and b.id = ? and role_on(a, u.id) is not null and role_on(b, u.id) is null order by u.name limit 1`,
    [listId, namedId],
  )
  return rows
}

/** Returns those of these lists that a colleague may see. */
export async function listsSeen(trx: Knex, lists: number[], actorId: string) {
  return await trx('list').whereIn('id', lists).whereRaw('role_on(list, ?) is not null', [actorId]).select('id')
}

/** A list and what somebody may do with it, locked against changes where it is to be changed. */
export async function listWithRole(trx: Knex, id: number, actorId: string, lock = false): Promise<ListRow | undefined> {
  const list = trx('list')
    .where({ id })
    .whereNull('deleted_at')
    .select('list.*', trx.raw('role_on(list, ?) as role', [actorId]))
    .first()
  return await (lock ? list.forNoKeyUpdate() : list)
}

/** Locks a list. Its editions, rounds and sharing change only under this lock. */
export async function lockList(trx: Knex, listId: number) {
  return await trx('list').where({ id: listId }).forNoKeyUpdate().first('id')
}

/** Inserts a list without an edition and returns its id. */
export async function insertList(
  trx: Knex,
  { name, checked, actorId, shared, zone }: { name: string; checked: Line[]; actorId: string; shared: boolean; zone: string },
) {
  return await trx('list').insert(
    {
      name: name,
      subject: subjectOf(checked),
      owner_id: actorId,
      team_role: shared ? 'edit' : null,
      zone,
      created_at: now(),
    },
    'id',
  )
}

/** Renames a list. */
export async function updateName(trx: Knex, name: string, listId: number) {
  return await trx('list').where({ id: listId }).update({ name })
}

/** Returns the name of the first of these lists that a colleague may see, by name. */
export async function firstNameSeen(trx: Knex, ids: number[], actorId: string) {
  return await trx('list').whereIn('id', ids).whereRaw('role_on(list, ?) is not null', [actorId]).orderBy('name').first('name')
}

/** Marks a list as deleted. It can be brought back. */
export async function markDeleted(trx: Knex, listId: number) {
  return await trx('list').where({ id: listId }).update({ deleted_at: now() })
}

/** Archives a list, or brings it back. */
export async function archiveRow(trx: Knex, listId: number, away: boolean) {
  return await trx('list')
    .where({ id: listId })
    .update({ archived_at: away ? now() : null })
}

/** Writes the labels of a list. */
export async function updateLabels(trx: Knex, listId: number, clean: string[]) {
  return await trx('list').where({ id: listId }).update({ labels: clean })
}

/** Brings a deleted list of one's own back and returns its name; nothing where it was not deleted. */
export async function unmarkDeleted(trx: Knex, id: number, actorId: string) {
  return await trx('list').where({ id, owner_id: actorId }).whereNotNull('deleted_at').update({ deleted_at: null }, 'name')
}

/** Writes what the team may do with a list; null makes it private. */
export async function updateTeamRole(trx: Knex, id: number, role: string | null) {
  return await trx('list').where({ id }).update({ team_role: role })
}

/** Writes who owns a list. */
export async function updateOwner(trx: Knex, id: number, next: { id: string }) {
  return await trx('list').where({ id }).update({ owner_id: next.id })
}

/** Returns the lists that a colleague may see, with what the index shows of each. */
export async function listIndexRows(trx: Knex, actorId: string) {
  const { rows } = await trx.raw(
    `select l.id, l.name, l.subject, l.labels, l.archived_at is not null as archived, exists (select 1 from list_pin t where t.list_id = l.id and t.user_id = ?) as pinned, l.shared, role_on(l, ?) as role, l.owner_id = ? as mine, u.name as owner,
       (select count(*) from list_proposal p where p.list_id = l.id and p.decision is null)::int as proposals,
       exists (select 1 from list_draft d where d.list_id = l.id and d.user_id = ?) as draft,
       e.number as edition, e.saved_at, e.balance,
       r.id as round_id, r.number as round, r.started_at, r.released_at, r.closed_at
     from list l join lateral (select * from edition where list_id = l.id order by number desc limit 1) e on true
     left join lateral (select * from round where list_id = l.id and supplement = 0 order by number desc limit 1) r on true
     left join "user" u on u.id = l.owner_id
     where l.deleted_at is null and ${seenBy('l')} order by pinned desc, l.name, l.id`,
    [actorId, actorId, actorId, actorId, actorId],
  )
  return rows
}

/** Returns a query for the lists that a colleague may name in a line, with their latest edition and round. */
export const usableLists = (trx: Knex, except: number, actorId: string) =>
  trx('list as l')
    .whereNull('l.deleted_at')
    .whereNot('l.id', except)
    .whereRaw(`role_on(l, ?) >= 'use'`, [actorId])
    .orderBy('l.name')
    .select('l.id', 'l.name', 'l.shared', 'l.subject')
    .select(trx.raw('(select max(number) from edition where list_id = l.id) as edition'))
    .select(trx.raw('coalesce((select max(number) from round where list_id = l.id and released_at is not null), 0) as rounds'))

/** Locks the lists that a colleague owns, in the order of their ids. */
export async function lockListsOf(trx: Knex, whoId: string) {
  return await trx('list').where({ owner_id: whoId }).orderBy('id').forUpdate().select('id')
}

/** Returns how many lists a colleague owns. */
export async function countListsOf(trx: Knex, whoId: string) {
  return await trx('list').where({ owner_id: whoId }).whereNull('deleted_at').count('id as n').first()
}

/** Hands the lists of a colleague over to another. */
export async function passListsOn(trx: Knex, whoId: string, actorId: string) {
  return await trx('list').where({ owner_id: whoId }).update({ owner_id: actorId })
}

/** Returns everybody who may see a list. */
export async function readersOf(trx: Knex, list: number) {
  const { rows } = await trx.raw('select u.id from "user" u, list l where l.id = ? and role_on(l, u.id) is not null', [list])
  return rows
}

/** Writes when a list is due; null where it is not due by itself. */
export async function updateRhythm(trx: Knex, id: number, rhythm: object | null, from: string | null) {
  return await trx('list')
    .where({ id })
    .update({ rhythm: rhythm && JSON.stringify(rhythm), rhythm_from: from })
}

/** Writes whether a list is only for following and never goes out in a round. */
export async function updateOnlyFollow(trx: Knex, id: number, only: boolean) {
  return await trx('list').where({ id }).update({ only_follow: only })
}
