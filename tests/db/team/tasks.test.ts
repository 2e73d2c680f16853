import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { pinClock } from '@/runtime/clock'
import { erasePerson } from '@/usecases/directory/erase-person'
import { createList } from '@/usecases/lists/create-list'
import { openList } from '@/usecases/lists/open-list'
import { setOnlyFollow, setRhythm } from '@/usecases/lists/set-rhythm'
import { releaseRound } from '@/usecases/rounds/release-round'
import { startRound } from '@/usecases/rounds/start-round'
import { doneTask, handTask, makeTask, moveTask } from '@/usecases/team/tasks'
import { todayPage } from '@/usecases/team/today'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let marit: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const on = (day: string) => pinClock(new Date(`${day}T09:00:00Z`))

beforeAll(async () => {
  t = await freshDatabase('2026-06-15T09:00:00Z')
  await startEngine(t)
  await broughtIn(t.ines, 'people.csv', Buffer.from('Name,Role,E-mail\nMarit Ellingsgate,Head of Estates,marit@wendleside.example\n'))
  marit = (await t.app('person').first('id')).id
})

describe('a task', () => {
  let task: number

  test('is for somebody, by a day, about a record; overdue ones come first', async () => {
    task = await makeTask(t.ines, {
      what: ' Ask Marit about the roof ',
      forId: t.tam.id,
      due: '2026-06-16',
      of: 'person',
      id: String(marit),
    })
    await makeTask(t.tam, { what: 'Order cards', forId: t.tam.id })
    on('2026-06-17')
    const { tasks } = await todayPage(t.tam)
    expect(tasks.map(({ what, is, about, by }) => [what, is, about?.name ?? null, by])).toEqual([
      ['Ask Marit about the roof', 'overdue', 'Marit Ellingsgate', 'Ines Okafor'],
      ['Order cards', 'any day', null, null],
    ])
    expect((await todayPage(t.ines)).given.map(({ what, forName }) => [what, forName])).toEqual([['Ask Marit about the roof', 'Tam Reyes']])
    expect((await todayPage(t.marek)).team?.find(({ name }) => name === 'Tam Reyes')).toMatchObject({ open: 2, overdue: 1 })
    expect((await todayPage(t.ines)).team).toBeNull()
  })

  test('is moved, handed over and back, done, and opened again; each act is kept', async () => {
    await moveTask(t.tam, task, '2026-06-20')
    await handTask(t.tam, task, t.ines.id)
    await handTask(t.ines, task, t.tam.id)
    await doneTask(t.tam, task, true)
    await expect(handTask(t.tam, task, t.ines.id)).rejects.toThrow(/done already/)
    expect((await todayPage(t.tam)).tasks.map(({ what }) => what)).toEqual(['Order cards'])
    await doneTask(t.tam, task, false)
    await Promise.all([doneTask(t.tam, task, true), doneTask(t.ines, task, true)])
    await doneTask(t.ines, task, false)
    expect(await t.app('task_act').where({ task_id: task }).orderBy('id').pluck('act')).toEqual([
      'made',
      'moved',
      'handed over',
      'handed over',
      'done',
      'opened again',
      'done',
      'opened again',
    ])
  })

  test('is of those it concerns: a caller cannot settle a task of others; nothing is made for nobody or about nothing', async () => {
    const others = await makeTask(t.ines, { what: 'Plan the autumn', forId: t.marek.id })
    await expect(doneTask(t.tam, others, true)).rejects.toThrow(/task of a colleague/)
    await expect(makeTask(t.ines, { what: 'x', forId: 'nobody' })).rejects.toThrow(/no longer on the team/)
    await expect(makeTask(t.ines, { what: 'x', forId: t.ines.id, of: 'person', id: '999999' })).rejects.toThrow(/does not exist/)
    await expect(makeTask(t.ines, { what: '  ', forId: t.ines.id })).rejects.toThrow(/what is to be done/)
    await expect(moveTask(t.tam, task, '2026-02-30')).rejects.toThrow(/date/)
  })

  test('about a private list says nothing of it to somebody who may not see it', async () => {
    const list = await createList(t.ines, 'Secret plans', false, [start])
    await makeTask(t.ines, { what: 'Look through it', forId: t.tam.id, of: 'list', id: String(list) })
    const told = (await todayPage(t.tam)).tasks.find(({ what }) => what === 'Look through it')
    expect(told?.about).toBeNull()
    await expect(makeTask(t.tam, { what: 'x', forId: t.tam.id, of: 'list', id: String(list) })).rejects.toThrow(/does not exist/)
  })
})

describe('a list with a rhythm', () => {
  let list: number

  test('is due on its day, says so to whoever may work with it, and no more once its round is under way', async () => {
    on('2026-07-01')
    list = await createList(t.ines, 'Monthly letter', true, [start])
    await setRhythm(t.ines, list, { every: 'days', days: 30 })
    expect(await openList(t.ines, list)).toMatchObject({ due: '2026-07-31', rhythm: { every: 'days', days: 30 } })
    const due = async () => (await todayPage(t.ines)).moves.filter(({ group }) => group === 'lists')
    on('2026-07-30')
    expect(await due()).toEqual([])
    on('2026-07-31')
    expect(await due()).toMatchObject([{ late: false, href: `/lists/${list}/requalify` }])
    on('2026-08-02')
    expect(await due()).toMatchObject([{ late: true }])
    const round = await startRound(t.ines, list)
    expect(await due()).toEqual([])
    expect((await todayPage(t.ines)).moves.find(({ group }) => group === 'rounds')?.text).toBe('Round 1 of Monthly letter: release it')
    await releaseRound(t.ines, round)
    expect((await openList(t.ines, list)).due).toBe('2026-09-01')
  })

  test('a rhythm that is none is refused and leaves the one there was; only whoever may edit the list sets it', async () => {
    await expect(setRhythm(t.ines, list, { every: 'week', on: [] })).rejects.toThrow(/at least one day/)
    expect((await openList(t.ines, list)).rhythm).toEqual({ every: 'days', days: 30 })
    await t.owner('list').where({ id: list }).update({ team_role: 'use' })
    await expect(setRhythm(t.tam, list, null)).rejects.toThrow(/not edit it/)
    await setRhythm(t.ines, list, null)
    expect((await openList(t.ines, list)).due).toBeNull()
  })

  test('a list that is only for following never goes out in a round', async () => {
    const caretakers = await createList(t.ines, 'Caretakers we look after', true, [start])
    await setOnlyFollow(t.ines, caretakers, true)
    await expect(startRound(t.ines, caretakers)).rejects.toThrow(/only for following/)
    await setOnlyFollow(t.ines, caretakers, false)
    await startRound(t.ines, caretakers)
    await expect(setOnlyFollow(t.ines, caretakers, true)).rejects.toThrow(/open round/)
  })
})

test('an erasure takes the words of tasks about somebody, and their name out of others', async () => {
  await makeTask(t.ines, { what: 'Give the brochure of Marit Ellingsgate back', forId: t.ines.id })
  await erasePerson(t.marek, marit)
  const words = await t.app('task').orderBy('id').pluck('what')
  expect(words[0]).toBe('erased')
  expect(words.at(-1)).toBe('Give the brochure of [erased] back')
})
