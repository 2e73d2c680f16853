import { object, string } from 'yup'
import { isDay } from '@/core/calendar/local-day'
import { trimmed } from '@/core/clean/name'
import { SUBJECTS, type Subject } from '@/core/records/subject'
import { recordStands } from '@/db/changes/report-rows'
import { db, type Knex } from '@/db/connection'
import { roleOn } from '@/db/lists/list-rows'
import { colleagueStands, insertTask, insertTaskAct, lockTask, type TaskAbout, type TaskRow, updateTask } from '@/db/team/task-rows'
import { now } from '@/runtime/clock'
import type { TaskView } from '@/core/views/today-views'
import { type Actor, mayCoordinate, Refused } from './actor'

const schema = object({
  what: string().transform(trimmed).max(500, 'A task holds at most 500 characters.').required('Say what is to be done.'),
  due: string()
    .nullable()
    .default(null)
    .test('day', 'Give the day as a date.', (day) => day === null || isDay(day)),
  forId: string().max(200).required('Say whose task it is.'),
  of: string()
    .oneOf([...SUBJECTS, 'list'] as const)
    .nullable()
    .default(null),
  id: string().nullable().default(null),
})

/** Makes a task for oneself or a colleague, about a record, a list or nothing. Gives its number. */
export async function makeTask(actor: Actor, input: unknown): Promise<number> {
  const { what, due, forId, of, id } = schema.validateSync(input, { abortEarly: false })
  const about: TaskAbout = of === null || id === null ? null : { of, id: Number(id) }
  return db().transaction(async (trx) => {
    if (!(await colleagueStands(trx, forId))) throw new Refused('This colleague is no longer on the team.', 'not found')
    await checkAbout(trx, actor, about)
    const at = now()
    const task = await insertTask(trx, { what, about, for_id: forId, due, made_by: actor.id, made_at: at })
    await insertTaskAct(trx, { task_id: task, act: 'made', actor_id: actor.id, to_id: forId, due, at })
    return task
  })
}

async function checkAbout(trx: Knex, actor: Actor, about: TaskAbout): Promise<void> {
  if (about === null) return
  const there = about.of === 'list' ? (await roleOn(trx, about.id, actor.id))?.role : await recordStands(trx, about.of as Subject, about.id)
  if (!there) throw new Refused('What the task is about does not exist any more.', 'not found')
}

/** A task that is whoever asks’s to move: their own, one they gave, or anybody’s for a coordinator. Locked. */
async function taskFor(trx: Knex, actor: Actor, id: number) {
  const task = await lockTask(trx, id)
  if (!task) throw new Refused('There is no such task.', 'not found')
  if (task.for_id !== actor.id && task.made_by !== actor.id && !mayCoordinate(actor))
    throw new Refused('This is a task of a colleague.', 'not allowed')
  return task
}

/** Says that a task is done, or opens it again. */
export async function doneTask(actor: Actor, id: number, done: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const task = await taskFor(trx, actor, id)
    if ((task.done_at !== null) === done) return
    const at = now()
    await updateTask(trx, id, done ? { done_at: at, done_by: actor.id } : { done_at: null, done_by: null })
    await insertTaskAct(trx, { task_id: id, act: done ? 'done' : 'opened again', actor_id: actor.id, at })
  })
}

/** Hands a task to a colleague, or back. */
export async function handTask(actor: Actor, id: number, to: string): Promise<void> {
  await db().transaction(async (trx) => {
    const task = await taskFor(trx, actor, id)
    if (task.done_at !== null) throw new Refused('This task is done already.')
    if (!(await colleagueStands(trx, to))) throw new Refused('This colleague is no longer on the team.', 'not found')
    if (task.for_id === to) return
    await updateTask(trx, id, { for_id: to })
    await insertTaskAct(trx, { task_id: id, act: 'handed over', actor_id: actor.id, to_id: to, at: now() })
  })
}

/** Gives a task another day, or none. */
export async function moveTask(actor: Actor, id: number, due: string | null): Promise<void> {
  if (due !== null && !isDay(due)) throw new Refused('Give the day as a date.')
  await db().transaction(async (trx) => {
    const task = await taskFor(trx, actor, id)
    if (task.due === due) return
    await updateTask(trx, id, { due })
    await insertTaskAct(trx, { task_id: id, act: 'moved', actor_id: actor.id, due, at: now() })
  })
}

/** A task as whoever asks sees it on a day. */
export function taskView(row: TaskRow, me: string, today: string): TaskView {
  return {
    id: row.id,
    what: row.what,
    about: row.of === null || row.about === null || row.name === null ? null : { of: row.of, id: row.about, name: row.name },
    forId: row.for_id,
    forName: row.for_name,
    due: row.due,
    is: row.due === null ? 'any day' : row.due < today ? 'overdue' : row.due === today ? 'today' : 'later',
    by: row.made_by === me ? null : row.by_name,
  }
}
