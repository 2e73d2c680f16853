import { beforeAll, expect, test } from 'vitest'
import { columnSets } from '@/usecases/lists/column-sets'
import { dropColumnSet } from '@/usecases/lists/delete-column-set'
import { saveColumnSet } from '@/usecases/lists/save-column-set'
import { freshDatabase, type TestDatabase } from '../../support/database'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

const sets = async (who = t.ines, of: 'person' | 'organisation' = 'person') =>
  (await columnSets(who, of)).map(({ name, columns, by, mine }) => ({ name, columns, by, mine }))

test('columns are saved for the team under a name, which is one however it is written', async () => {
  await saveColumnSet(t.tam, 'person', '  For  calls ', {
    columns: ['reach', 'last'],
    pinned: 1,
    sort: [{ key: 'town', back: true }],
    wanted: { least: 1, most: 2 },
  })
  expect(await columnSets(t.tam, 'person')).toMatchObject([
    { name: 'For calls', columns: ['reach', 'last'], pinned: 1, by: t.tam.name, mine: true },
  ])
  await saveColumnSet(t.tam, 'person', 'FOR calls', { columns: ['reach'] })
  expect(await sets()).toEqual([{ name: 'FOR calls', columns: ['reach'], by: t.tam.name, mine: true }])
})

test('those of one subject are not offered for another; the same name may stand for each', async () => {
  await saveColumnSet(t.tam, 'organisation', 'For calls', { columns: ['people', 'industry'] })
  expect(await sets(t.tam, 'organisation')).toEqual([{ name: 'For calls', columns: ['people', 'industry'], by: t.tam.name, mine: true }])
  expect(await sets()).toHaveLength(1)
})

test('columns there are not are left out; none at all are those a table begins with', async () => {
  await saveColumnSet(t.ines, 'person', 'Odd', { columns: ['reach', 'constructor', 'reach', 7] })
  expect((await sets()).find(({ name }) => name === 'Odd')?.columns).toEqual(['reach'])
  await saveColumnSet(t.ines, 'person', 'Odd', null)
  expect((await sets()).find(({ name }) => name === 'Odd')?.columns).toEqual(['place', 'reach', 'strip', 'last'])
})

test('of two who save under one name at once, one does, and the other is told', async () => {
  const said = await Promise.allSettled(
    [t.tam, t.ines, t.marek, t.tam].map((who, i) => saveColumnSet(who, 'premises', i % 2 ? 'At Once' : 'at once', { columns: ['town'] })),
  )
  const saved = said.flatMap((s, i) => (s.status === 'fulfilled' ? [[t.tam, t.ines, t.marek, t.tam][i].name] : []))
  const [set] = await columnSets(t.ines, 'premises')
  expect(new Set(saved)).toEqual(new Set([set.by]))
  for (const s of said) if (s.status === 'rejected') expect(s.reason.message).toMatch(/saved columns as “at once”. Nothing was saved/i)
})

test('a coordinator deletes a colleague’s, and does not overwrite them unseen', async () => {
  await saveColumnSet(t.tam, 'organisation', 'Tam’s', { columns: ['people'] })
  await expect(saveColumnSet(t.ines, 'organisation', 'tam’s', { columns: ['industry'] })).rejects.toThrow(
    `${t.tam.name} saved columns as “Tam’s”. Nothing was saved; choose another name.`,
  )
  expect((await sets(t.ines, 'organisation')).find((set) => set.name === 'Tam’s')).toMatchObject({ columns: ['people'], by: t.tam.name })
})

test('one’s own are deleted, and a coordinator deletes anybody’s', async () => {
  const idOf = async (name: string) => (await columnSets(t.ines, 'person')).find((set) => set.name === name)?.id as number
  await expect(dropColumnSet(t.tam, await idOf('Odd'))).rejects.toThrow(/a colleague saved them/)
  await expect(saveColumnSet(t.tam, 'person', 'odd', { columns: ['last'] })).rejects.toThrow(/choose another name/)
  expect((await columnSets(t.tam, 'person')).map(({ name, mine }) => [name, mine])).toEqual([
    ['FOR calls', true],
    ['Odd', false],
  ])
  await dropColumnSet(t.ines, await idOf('FOR calls'))
  await dropColumnSet(t.ines, await idOf('Odd'))
  expect(await sets()).toEqual([])
  await expect(dropColumnSet(t.ines, 1)).rejects.toThrow(/no such saved columns/)
})

test.each(['', '   ', 'x'.repeat(61)])('a name of %j is refused', async (name) => {
  await expect(saveColumnSet(t.ines, 'person', name, { columns: ['reach'] })).rejects.toThrow(/a name of 1 to 60/)
})
