import { beforeAll, describe, expect, test } from 'vitest'
import { lineText, subjectOf } from '@/core/lists/line'
import { listAccountFor } from '@/usecases/lists/list-account'
import { keepArea } from '@/usecases/lists/keep-area'
import type { These } from '@/core/views/these'
import { listOfThese } from '@/usecases/lists/list-of-these'
import { openList } from '@/usecases/lists/open-list'
import { resizeList } from '@/usecases/lists/resize-list'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let batch: number
beforeAll(async () => {
  t = await freshDatabase()
  batch = await broughtIn(
    t.ines,
    'fair.csv',
    [
      'Id,Name,Role,Organisation,Email,Address,Town',
      'F1,Ann Able,Head of estates,North School,ann@north.example,1 Mill Lane,Thornmouth',
      'F2,Bob Bell,Bursar,North School,bob@north.example,2 Mill Lane,Thornmouth',
      'F3,Cas Cole,Managing director,Sedge Brewery,,3 Weir Street,Low Wendle',
      '',
    ].join('\n'),
  )
  await broughtIn(t.ines, 'later.csv', 'Id,Name,Town\nL1,Dot Dean,Low Wendle\n')
  await startEngine(t)
})

const idOf = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id
async function made(these: These) {
  const list = await openList(t.ines, await listOfThese(t.ines, these))
  const account = await listAccountFor(t.ines, { lines: list.lines, view: { tab: 'on' } })
  return {
    name: list.name,
    shared: list.shared,
    of: subjectOf(list.lines),
    last: lineText(list.lines.at(-1) as never),
    on: account.page.records.map((record) => record.title),
  }
}

describe('a list is made of what somebody has before them', () => {
  test('of those chosen, each once', async () => {
    const [ann, cas] = [await idOf('Ann Able'), await idOf('Cas Cole')]
    expect(await made({ of: 'person', ids: [cas, ann, cas] })).toEqual({
      name: '2 people chosen',
      shared: false,
      of: 'person',
      last: 'Pick in Ann Able, Cas Cole',
      on: ['Ann Able', 'Cas Cole'],
    })
  })

  test('of one, under its name', async () => {
    expect(await made({ of: 'person', ids: [await idOf('Bob Bell')] })).toMatchObject({ name: 'Bob Bell', on: ['Bob Bell'] })
  })

  test('of all that is found, with the words it was found by', async () => {
    expect(await made({ of: 'person', find: ' thornmouth ' })).toMatchObject({
      name: 'Found: thornmouth',
      on: ['Ann Able', 'Bob Bell'],
      last: 'Pick in Ann Able, Bob Bell · found in the directory: thornmouth',
    })
    expect(await made({ of: 'organisation', find: 'school' })).toMatchObject({ of: 'organisation', on: ['North School'] })
  })

  test('of everything there is, by the line every list begins with', async () => {
    const { lines } = await openList(t.ines, await listOfThese(t.ines, { of: 'person', find: '' }))
    expect(lines.map((line) => lineText(line))).toEqual(['Start with everyone in the directory'])
  })

  test('of a file', async () => {
    expect(await made({ batch })).toMatchObject({
      name: 'From fair.csv',
      last: 'Start with everyone from fair.csv',
      on: ['Ann Able', 'Bob Bell', 'Cas Cole'],
    })
  })

  test('of an area, which only whoever may see it can use', async () => {
    const shape = { polygons: [], circles: [], streets: [{ street: 'Mill Lane', from: null, to: null, side: 'both' as const }] }
    const { id } = await keepArea(t.ines, { name: 'Mill Lane', shape, shared: false, named: true })
    expect(await made({ area: id, of: 'person' })).toMatchObject({ name: 'In Mill Lane', on: ['Ann Able', 'Bob Bell'] })
    await expect(listOfThese(t.tam, { area: id, of: 'person' })).rejects.toThrow(/no such area/)
  })

  test('of whoever decides at the organisations of a list, which follows that list', async () => {
    const schools = await listOfThese(t.ines, { of: 'organisation', find: 'school' })
    // A bursar does not decide by this wording; the director does, elsewhere.
    expect((await made({ deciders: schools })).on).toEqual(['Ann Able'])
    const everywhere = await listOfThese(t.ines, { of: 'organisation', find: '' })
    expect(await made({ deciders: everywhere })).toEqual({
      name: 'Who decides at All organisations',
      shared: false,
      of: 'person',
      last: 'Keep role is at the level of owner or partner or chief or director or head',
      on: ['Ann Able', 'Cas Cole'],
    })
    const people = await listOfThese(t.ines, { of: 'person', find: '' })
    await expect(listOfThese(t.ines, { deciders: people })).rejects.toThrow(/Choose a list of organisations/)
    // A private list of somebody else gives nothing away.
    await expect(listOfThese(t.tam, { deciders: schools })).rejects.toThrow(/no such list|private/i)
  })

  test.each<[string, () => Promise<These>, RegExp]>([
    ['nobody', async () => ({ of: 'person', ids: [] }), /Nobody was chosen/],
    ['somebody who is not there', async () => ({ of: 'person', ids: [999_999] }), /no longer in the directory/],
    ['a search that finds nothing', async () => ({ of: 'premises', find: 'lighthouse' }), /Nothing was chosen/],
    ['a file that is not there', async () => ({ batch: 999_999 }), /no such/i],
    ['an enquiry that is not there', async () => ({ enquiry: 999_999 }), /no such enquiry/],
  ])('of %s none is made', async (_, these, why) => {
    const before = await t.app('list').count('id as n').first()
    await expect(listOfThese(t.ines, await these())).rejects.toThrow(why)
    expect(await t.app('list').count('id as n').first()).toEqual(before)
  })
})

describe('towards a wanted size', () => {
  test('lines are proposed that hold what they say', async () => {
    const start = [{ id: 's', verb: 'start' as const, off: false, batch: null }]
    const { proposals } = await resizeList(t.ines, { lines: start, least: 2, most: 2 })
    expect(proposals.length).toBeGreaterThan(2)
    for (const { line, holds } of proposals) {
      const { page } = await listAccountFor(t.ines, { lines: [...start, { ...line, id: 'new' }], view: { tab: 'on' } })
      expect(page.total, lineText({ ...line, id: 'new' } as never)).toBe(holds)
    }
  })
  test('a size that cannot be is refused', async () => {
    await expect(resizeList(t.ines, { lines: [{ id: 's', verb: 'start', off: false, batch: null }], least: 3, most: 2 })).rejects.toThrow(
      /larger/,
    )
  })
})
