import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { pinClock } from '@/runtime/clock'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { movementPage } from '@/usecases/changes/movement'
import { reportByHand } from '@/usecases/changes/report-by-hand'
import { createList } from '@/usecases/lists/create-list'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const HEAD = 'Name,Role,Organisation,E-mail,Status\n'
const row = (name: string, role: string, organisation: string, status = '') =>
  `${name},${role},${organisation},${name.split(' ')[0].toLowerCase()}@mail.example,${status}\n`
const bring = (file: string, ...rows: string[]) => broughtIn(t.ines, file, Buffer.from(HEAD + rows.join('')))
let larch: number

beforeAll(async () => {
  t = await freshDatabase('2026-01-10T09:00:00Z')
  await startEngine(t)
  await bring(
    'january.csv',
    row('Anna Reed', 'Site Manager', 'Larch House'),
    row('Bert Moss', 'Director of Estates', 'Larch House'),
    row('Cara Fenn', 'Bursar', 'Larch House'),
    row('Dan Weir', 'Head Brewer', 'Sedge Brewery', 'customer'),
    row('Edda Holt', 'Porter', 'Sedge Brewery'),
  )
  larch = (await t.app('organisation').where({ name: 'Larch House' }).first('id')).id
  await createList(t.ines, 'Everybody', true, [{ id: 's', verb: 'start', off: false, batch: null } as Line])
  pinClock(new Date('2026-05-20T09:00:00Z'))
  await bring(
    'may.csv',
    row('Anna Reed', 'Head of Estates', 'Larch House'),
    row('Bert Moss', 'Director of Estates', 'Sedge Brewery'),
    row('Dan Weir', 'Operations Director', 'Larch House'),
    row('Finn Sallow', 'Trainee Gardener', 'Larch House'),
  )
  pinClock(new Date('2026-06-01T09:00:00Z'))
  // Only reported: nobody has confirmed that Cara left, so she is there.
  const cara = (await t.app('person').where({ name: 'Cara Fenn' }).first('id')).id
  await reportByHand(t.ines, { of: 'person', record: cara, moved: 'left', day: '2026-05-28' })
  await bringChanges()
})

const told = async (of: { organisation?: number; list?: number }, days = 90) => {
  const { people, levels } = await movementPage(t.ines, { organisation: of.organisation ?? null, list: of.list ?? null }, days)
  const sum = (key: 'opening' | 'arrived' | 'known' | 'left' | 'closing') => levels.reduce((n, level) => n + level[key], 0)
  expect(sum('opening') + sum('arrived') + sum('known') - sum('left')).toBe(sum('closing'))
  return { moves: people.map((p) => `${p.name} ${p.movement}`).sort(), people, closing: sum('closing') }
}

test('at one organisation: who arrived and from where, who left and where to, who rose, who was only just learned of', async () => {
  const { moves, people, closing } = await told({ organisation: larch })
  expect(moves).toEqual(['Anna Reed raised', 'Bert Moss left', 'Cara Fenn stayed', 'Dan Weir arrived', 'Finn Sallow newly known'])
  expect(people.find((p) => p.name === 'Dan Weir')).toMatchObject({ other: 'Sedge Brewery', dealt: false, roleThen: 'Head Brewer' })
  expect(people.find((p) => p.name === 'Bert Moss')).toMatchObject({ other: 'Sedge Brewery', organisation: 'Larch House' })
  expect(closing).toBe(4)
  expect((await told({ organisation: larch }, 10)).moves).toEqual([
    'Anna Reed stayed',
    'Cara Fenn stayed',
    'Dan Weir stayed',
    'Finn Sallow stayed',
  ])
})

test('at the organisations of everybody one follows, somebody who goes from one to the other has stayed among them', async () => {
  const { moves } = await told({})
  expect(moves).toContain('Bert Moss stayed')
  expect(moves).toContain('Dan Weir raised')
  expect(moves).toContain('Edda Holt stayed')
})

test('of a private list of a colleague nothing is told', async () => {
  const own = await createList(t.marek, 'Private', false, [{ id: 's', verb: 'start', off: false, batch: null } as Line])
  await bringChanges()
  await expect(movementPage(t.ines, { organisation: null, list: own }, 90)).rejects.toThrow(/no such list/)
  await expect(movementPage(t.ines, { organisation: 999_999, list: null }, 90)).rejects.toThrow(/no such organisation/)
})

test('undoing the file takes the movement back', async () => {
  const batch = (await t.app('batch').where({ file_name: 'may.csv' }).first('id')).id
  await undoBatch(t.ines, batch)
  await runUndo(batch)
  await bringChanges()
  expect((await told({ organisation: larch })).moves).toEqual(['Anna Reed stayed', 'Bert Moss stayed', 'Cara Fenn stayed'])
})
