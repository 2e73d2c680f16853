import { beforeAll, expect, test } from 'vitest'
import type { Criterion, Question } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { latestEdition } from '@/db/lists/list-rows'
import { createList } from '@/usecases/lists/create-list'
import { deleteList } from '@/usecases/lists/delete-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { saveEdition } from '@/usecases/lists/save-edition'
import { shareList } from '@/usecases/lists/share-list'
import { keepArea } from '@/usecases/lists/keep-area'
import { areasOf } from '@/usecases/lists/areas'
import { saveTerritory } from '@/usecases/team/save-territory'
import { recordContact } from '@/usecases/contact/record-contact'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

/** What a line names is found in each of its questions: no right, name or order is got round by asking two things at once. */

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const both = (...parts: Question[]): Criterion => ({ kind: 'together', every: true, parts })
const keep = (criterion: Criterion): Line => ({ id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion })
const estates: Question = { kind: 'role', any: ['estates'] }
const on = (id: number): Question => ({ kind: 'list', list: { id, name: 'whatever it was called' }, edition: null })

beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    'Id,Name,Role,Email,Postcode\nP1,Ann Able,Estates lead,ann@way.example,PW1 2AB\nP2,Bob Bell,Estates lead,bob@way.example,PW9 1AA\nP3,Cas Cole,Bursar,,PW1 3AC\nP4,Dot Dean,,dot@way.example,PW1 2AB\n',
  )
  await startEngine(t)
})

const account = (list: number, lines: Line[], who = t.ines) => listAccountFor(who, { list, lines, view: { tab: 'on' } })
const names = async (list: number, lines: Line[]) => (await account(list, lines)).page.records.map((p) => p.title)

test('a line with two questions keeps whoever both are true of, and counts who is not known', async () => {
  const list = await createList(t.ines, 'Estates with email', true, [start])
  const lines = [start, keep(both(estates, { kind: 'reach', channel: 'email' }))]
  expect(await names(list, lines)).toEqual(['Ann Able', 'Bob Bell'])
  const { figures } = await account(list, lines)
  // Cas is no; of Dot no role is known.
  expect(figures.lines[1]).toMatchObject({ out: 1, unknown: 1, balance: 2 })
  const either = [start, keep({ kind: 'together', every: false, parts: [estates, { kind: 'reach', channel: 'email' }] })]
  expect(await names(list, either)).toEqual(['Ann Able', 'Bob Bell', 'Dot Dean'])
})

test('a list that one of its questions names is not deleted, is called by its name, and makes no loop', async () => {
  const named = await createList(t.ines, 'Named', true, [start])
  const list = await createList(t.ines, 'Names another', true, [start])
  await saveEdition(t.ines, list, 1, [start, keep(both(estates, on(named)))])
  const { lines } = await latestEdition(list)
  expect((lines[1] as { criterion: { parts: Question[] } }).criterion.parts[1]).toMatchObject({ list: { id: named, name: 'Named' } })
  await expect(deleteList(t.ines, named)).rejects.toThrow(/Names another/)
  await expect(saveEdition(t.ines, named, 1, [start, keep(both(estates, on(list)))])).rejects.toThrow()
})

test('a private list is not read through one of two questions', async () => {
  const secret = await createList(t.ines, 'Of Ines alone', false, [start])
  const own = await createList(t.marek, 'Of Marek', false, [start])
  const lines = [start, keep(both(estates, on(secret)))]
  await expect(account(own, lines, t.marek)).rejects.toThrow(/does not exist, or is private/)
  await expect(saveEdition(t.marek, own, 1, lines)).rejects.toThrow()
  const shared = await createList(t.ines, 'Shared', true, [start])
  await expect(saveEdition(t.ines, shared, 1, lines)).rejects.toThrow()
})

test('an area in one of its questions opens with the list', async () => {
  const square = [
    [1.49, 55.29],
    [1.51, 55.29],
    [1.51, 55.31],
    [1.49, 55.31],
  ] as [number, number][]
  const shape = { polygons: [[square]], circles: [], streets: [] }
  const { id } = await keepArea(t.ines, { name: 'only here', shape, shared: false, named: false, replaces: null })
  const list = await createList(t.ines, 'With an area', false, [
    start,
    keep(both(estates, { kind: 'area', areas: [{ id, name: 'only here' }] })),
  ])
  expect(await areasOf(t.marek, [id])).toEqual([])
  await shareList(t.ines, list, { team: 'see', members: [] })
  expect(await areasOf(t.marek, [id])).toHaveLength(1)
})

test('a territory in one of its questions is asked with its postcodes as they stand', async () => {
  const territory = await saveTerritory(t.marek, { id: null, name: 'North', postcodes: ['PW1'], holders: [t.ines.id] } as never)
  const list = await createList(t.ines, 'North estates', true, [start])
  const lines = [start, keep(both(estates, { kind: 'territory', territories: [{ id: Number(territory), name: 'North' }] } as Question))]
  expect(await names(list, lines)).toEqual(['Ann Able'])
})

test('“by me” in one of its questions is whoever saves the line', async () => {
  const [{ id: ann }] = await t.app('person').where({ name: 'Ann Able' }).select('id')
  await recordContact(t.ines, ann, { channel: 'phone', result: 'spoke' })
  const list = await createList(t.ines, 'Spoken to', true, [start])
  const byMe: Question = { kind: 'contacted', how: 'within', days: 30, by: { id: 'me', name: 'me' } }
  await saveEdition(t.ines, list, 1, [start, keep(both(estates, byMe))])
  const { lines } = await latestEdition(list)
  expect((lines[1] as { criterion: { parts: Question[] } }).criterion.parts[1]).toMatchObject({ by: { id: t.ines.id, name: t.ines.name } })
  expect(await names(list, lines as Line[])).toEqual(['Ann Able'])
})

test('a round of such a list is released, and the next one asks about the last', async () => {
  const list = await createList(t.ines, 'In rounds', true, [start, keep(both(estates, { kind: 'reach', channel: 'email' }))])
  const round = await startRound(t.ines, list)
  const { figures } = await screenRound(t.ines, round, { tab: 'clear' })
  expect(figures.opening).toBe(2)
  await releaseRound(t.ines, round)
  const last: Question = { kind: 'round', list: { id: list, name: 'In rounds' }, which: 'last', stood: 'listed' } as Question
  const own = await createList(t.ines, 'Not in the last round', true, [start])
  expect(await names(own, [start, { ...keep(both(last, estates)), verb: 'drop' } as Line])).toEqual(['Cas Cole', 'Dot Dean'])
})
