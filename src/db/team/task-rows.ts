import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'

/** What a task is about: a record, a list, or nothing. */
export type TaskAbout = { of: Subject | 'list'; id: number } | null

export interface TaskRow {
  id: number
  what: string
  of: Subject | 'list' | null
  about: number | null
  name: string | null
  for_id: string
  for_name: string
  due: string | null
  made_by: string
  by_name: string
  made_at: Date
  done_at: Date | null
}

const TASK = `select t.id, t.what, t.for_id, f.name as for_name, t.due, t.made_by, m.name as by_name, t.made_at, t.done_at,
    case when t.person_id is not null then 'person' when t.organisation_id is not null then 'organisation' when t.premises_id is not null then 'premises'
      when t.list_id is not null then 'list' end as of,
    coalesce(t.person_id, t.organisation_id, t.premises_id, case when role_on(l, :me) is not null then l.id end) as about,
    coalesce(p.name, o.name, q.name, case when role_on(l, :me) is not null then l.name end) as name
  from task t join "user" f on f.id = t.for_id join "user" m on m.id = t.made_by left join person p on p.id = t.person_id
    left join organisation o on o.id = t.organisation_id left join premises q on q.id = t.premises_id left join list l on l.id = t.list_id and l.deleted_at is null`

/** The tasks of somebody that are still to do, those due first; a list they may not see is not named. */
export async function tasksOf(trx: Knex, me: string, forId: string): Promise<TaskRow[]> {
  const { rows } = await trx.raw(`${TASK} where t.for_id = :forId and t.done_at is null order by t.due nulls last, t.id limit 500`, {
    me,
    forId,
  } as never)
  return rows
}

/** The tasks somebody gave to others that are still to do. */
export async function tasksGiven(trx: Knex, me: string): Promise<TaskRow[]> {
  const { rows } = await trx.raw(
    `${TASK} where t.made_by = :me and t.for_id <> :me and t.done_at is null order by t.due nulls last, t.id limit 200`,
    {
      me,
    } as never,
  )
  return rows
}

/** The tasks about a record that are still to do, whosever they are. */
export async function tasksAbout(trx: Knex, me: string, of: Subject, id: number): Promise<TaskRow[]> {
  const { rows } = await trx.raw(`${TASK} where t.${COLUMN[of]} = :id and t.done_at is null order by t.due nulls last, t.id limit 100`, {
    me,
    id,
  } as never)
  return rows
}

/** Of each colleague: how many tasks are still to do, and how many of them are overdue. */
export async function tasksByColleague(
  trx: Knex,
  today: string,
): Promise<{ id: string; name: string; open: number; overdue: number; taken: number }[]> {
  const { rows } = await trx.raw(
    `select u.id, u.name, (select count(*)::int from task t where t.for_id = u.id and t.done_at is null) as open,
       (select count(*)::int from task t where t.for_id = u.id and t.done_at is null and t.due < :today) as overdue,
       (select count(*)::int from change c where c.state = 'taken' and c.state_by = u.id and c.gone_at is null) as taken
     from "user" u where u.left_at is null order by u.name`,
    { today } as never,
  )
  return rows
}

const COLUMN: Record<Subject | 'list', string> = {
  person: 'person_id',
  organisation: 'organisation_id',
  premises: 'premises_id',
  list: 'list_id',
}

/** Inserts a task and returns its id. */
export async function insertTask(
  trx: Knex,
  task: { what: string; about: TaskAbout; for_id: string; due: string | null; made_by: string; made_at: Date },
): Promise<number> {
  const { about, ...row } = task
  const [{ id }] = await trx('task')
    .insert({ ...row, ...(about ? { [COLUMN[about.of]]: about.id } : {}) })
    .returning('id')
  return id
}

/** Locks a task. */
export async function lockTask(trx: Knex, id: number) {
  return await trx('task').where({ id }).forUpdate().first('id', 'for_id', 'made_by', 'done_at', 'due')
}

/** Writes columns of a task. */
export async function updateTask(trx: Knex, id: number, columns: Record<string, unknown>): Promise<void> {
  await trx('task').where({ id }).update(columns)
}

/** Records what was done with a task: handed over, put off, done, opened again. */
export async function insertTaskAct(
  trx: Knex,
  act: { task_id: number; act: string; actor_id: string; to_id?: string; due?: string | null; at: Date },
): Promise<void> {
  await trx('task_act').insert(act)
}

/** Returns a colleague who has not left; undefined otherwise. */
export async function colleagueStands(trx: Knex, id: string): Promise<{ id: string; name: string } | undefined> {
  return await trx('user').where({ id }).whereNull('left_at').first('id', 'name')
}

/** Hands everything somebody was still to do to another. */
export async function passTasksOn(trx: Knex, from: string, to: string, at: Date): Promise<void> {
  const moved = await trx('task').where({ for_id: from }).whereNull('done_at').update({ for_id: to }).returning('id')
  if (moved.length > 0)
    await trx('task_act').insert(moved.map(({ id }: { id: number }) => ({ task_id: id, act: 'handed over', actor_id: to, to_id: to, at })))
}
