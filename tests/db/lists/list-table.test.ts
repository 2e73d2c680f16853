import { describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { openPerson } from '@/usecases/directory/open-person'
import { listAccountFor } from '@/usecases/lists/list-account'
import { pickSet } from '@/usecases/lists/list-in-hand'
import { findIndustries, industryTitles } from '@/usecases/lists/find-industries'
import { tableOf } from '@/usecases/lists/list-tables'
import { createList } from '@/usecases/lists/create-list'
import { listFor } from '@/usecases/lists/open-list'
import { pickUpload } from '@/usecases/lists/pick-upload'
import { FIELD } from '@/core/clean/standard-fields'
import { markPeople } from '@/usecases/directory/mark-people'
import { undoAct } from '@/usecases/directory/undo-act'
import { besideRecord } from '@/usecases/directory/record-beside'
import { groupList } from '@/usecases/lists/group-list'
import { presenceOf } from '@/usecases/lists/presence-of'
import { keepTable } from '@/usecases/lists/keep-table'
import { givenThreeSubjects, t, start, keep, names } from './three-subjects'

givenThreeSubjects()

describe('working with the table', () => {
  test('sorted, narrowed to a group, with the columns that were chosen', async () => {
    const { page } = await listAccountFor(t.ines, {
      lines: [start()],
      view: { tab: 'on' },
      sort: [
        { key: 'industry', back: false },
        { key: 'role', back: true },
      ],
      columns: ['role', 'languages', 'roof'],
      having: { key: 'town', label: 'Thornmouth' },
    })
    expect(page.records.map((r) => [r.title, ...(r.cells ?? [])])).toEqual([
      ['Maud Ellery', 'Head of Estates', 'English', '1,000 to 2,499 m²'],
      ['Priya Rao', 'Head Brewer', null, '500 to 999 m²'],
      ['Tomas Pike', 'Bursar', 'English', '1,000 to 2,499 m²'],
      ['Ida Owens', null, null, 'under 100 m²'],
    ])
    expect(await groupList(t.ines, { lines: [start()], view: { tab: 'on' }, key: 'organisation' })).toMatchObject({
      rows: [
        { label: 'North School', count: 2 },
        { label: 'Sedge Brewery', count: 1 },
      ],
      unknown: 1,
      total: 4,
    })
    await expect(groupList(t.ines, { lines: [start()], view: { tab: 'on' }, key: 'constructor' })).rejects.toThrow(
      'There is no column constructor.',
    )
    const { on, unknown: of } = await presenceOf(t.ines, { lines: [start()] })
    expect([on, of.role, of.languages, of['roof-area'], of.growth]).toEqual([4, 1, 2, 0, 4])
  })
  test('how a table is set up is kept for each person', async () => {
    const id = await createList(t.ines, 'Set up', true)
    await keepTable(t.ines, id, { columns: ['role', 'nonsense', 'town'], sort: [{ key: 'town', back: true }] })
    expect(await tableOf(t.ines, await listFor(t.ines, id))).toEqual({ columns: ['role', 'town'], sort: [{ key: 'town', back: true }] })
    expect((await tableOf(t.tam, await listFor(t.tam, id))).columns).toContain('reach')
  })
  test('tags, holders and notes go on those chosen or on all, with an entry each; who has it is left alone', async () => {
    const everyone = { lines: [start()], view: { tab: 'on' as const } }
    const spring = await markPeople(t.ines, everyone, { tag: 'spring' })
    expect(spring).toMatchObject({ changed: 4, already: 0 })
    expect(await markPeople(t.ines, { people: [1] }, { tag: 'spring' })).toMatchObject({ changed: 0, already: 1 })
    expect(await markPeople(t.ines, { people: [1, 2] }, { untag: 'spring' })).toMatchObject({ changed: 2 })
    expect(await markPeople(t.ines, { people: [1, 1] }, { holder: 'Tam Reyes' })).toMatchObject({ changed: 1 })
    expect(await markPeople(t.ines, { people: [1] }, { note: 'Ask about the gutters' })).toMatchObject({ changed: 1 })
    await expect(markPeople(t.ines, { people: [1] }, { holder: 'Nobody Here' })).rejects.toThrow('Nobody on the team is called')
    await expect(markPeople(t.ines, { lines: [start('premises')], view: { tab: 'on' } }, { tag: 'x' })).rejects.toThrow(
      'Only people can be tagged',
    )
    const { ledger, custom } = await openPerson(t.ines, 1)
    expect(ledger.slice(0, 4).map((e) => e.title)).toEqual([
      'Note',
      'Whose they are: none → Tam Reyes',
      'No longer tagged spring',
      'Tagged spring',
    ])
    expect(custom.find(({ field }) => field.name === 'Whose they are')?.value).toBe('Tam Reyes')
    expect(await names([start(), keep({ kind: 'holder', any: ['tam reyes'] })])).toEqual(['Maud Ellery'])
    expect((await names([start(), keep({ kind: 'tag', any: ['spring'] })])).length).toBe(2)
  })
  test('what was written on many at once is undone as one, by whoever did it or a coordinator; what was changed since stays', async () => {
    const everyone = { lines: [start()], view: { tab: 'on' as const } }
    const read = async () =>
      (await t.app('person').where({ state: 'live' }).orderBy('id').select('tags', 'custom')).map((p) => [p.tags, p.custom])
    const before = await read()
    const tagged = await markPeople(t.tam, everyone, { tag: 'winter' })
    const given = await markPeople(t.tam, everyone, { holder: 'Marek Dunn' })
    const noted = await markPeople(t.tam, everyone, { note: 'Seen at the fair' })
    await markPeople(t.ines, { people: [2] }, { holder: 'Ines Okafor' })
    await markPeople(t.ines, { people: [2] }, { untag: 'winter' })
    expect(await undoAct(t.tam, tagged.act)).toEqual({ back: 3, kept: 1 })
    expect(await undoAct(t.ines, given.act)).toEqual({ back: 3, kept: 1 })
    expect(await undoAct(t.tam, noted.act)).toEqual({ back: 4, kept: 0 })
    await expect(undoAct(t.tam, noted.act)).rejects.toThrow('undone already')
    const after = await read()
    expect(after.filter((_, i) => i !== 1)).toEqual(before.filter((_, i) => i !== 1))
    expect(after[1][1]).toMatchObject({ [FIELD.holder]: 'Ines Okafor' })
    expect((await openPerson(t.ines, 1)).ledger[0]).toMatchObject({
      title: 'An entry was reversed',
      detail: 'the note “Seen at the fair” was taken back',
    })
    const mine = await markPeople(t.ines, { people: [1] }, { tag: 'mine' })
    await expect(undoAct(t.tam, mine.act)).rejects.toThrow('nothing to undo')
    const untagged = await markPeople(t.ines, { people: [1] }, { untag: 'mine' })
    await undoAct(t.ines, untagged.act)
    expect((await t.app('person').where({ id: 1 }).first('tags')).tags).toContain('mine')
    await undoAct(t.ines, mine.act)
    expect(await undoAct(t.ines, (await markPeople(t.ines, { people: [2] }, { holder: 'Tam Reyes' })).act)).toEqual({ back: 1, kept: 0 })
    await t
      .app('person')
      .where({ id: 2 })
      .update({ custom: JSON.stringify(before[1][1]) })
  })
  test('records of any subject are picked by hand, with their names', async () => {
    const id = await createList(t.ines, 'Picked', true, [start('premises')])
    const picked = await pickSet(t.ines, id, [1, 3, 3])
    expect(picked).toMatchObject({ set: { count: 2 }, names: ['North School', '7 Mill Lane'] })
    expect(
      await names([start('premises'), { id: 'p', verb: 'pick', off: false, side: 'out', ...picked, reason: '', until: null }]),
    ).toEqual(['Lock House', 'Sedge Brewery'])
    await expect(pickSet(t.ines, id, [999])).rejects.toThrow('no longer in the directory')
  })
  test('a record stands beside the list, of any subject', async () => {
    expect((await besideRecord(t.ines, 'premises', 1)).facts).toContainEqual({ name: 'Loan on it', value: '£160,000' })
    expect((await besideRecord(t.ines, 'organisation', 1)).facts).toContainEqual({ name: 'founded', value: '1904' })
    expect((await besideRecord(t.ines, 'person', 1)).lately.length).toBeGreaterThan(0)
    await expect(besideRecord(t.ines, 'premises', 999)).rejects.toThrow('no such record')
  })
})

describe('whom a file of one’s own names', () => {
  const file = (text: string, name = 'good-customers.csv') => ({
    name,
    bytes: (async function* () {
      yield Buffer.from(text)
    })(),
  })

  test('is found by number, id, email, phone or name, picked as a line, and every row accounted for; nothing is stored', async () => {
    const id = await createList(t.ines, 'From a file', true, [start(), keep({ kind: 'role', any: ['bursar'] })])
    const before = await t.app('batch').count('id as n').first()
    const came = await pickUpload(
      t.ines,
      id,
      file(
        'Name,Email\nMaud Ellery,MAUD@north.example\nSomebody Else,nobody@example.org\nPriya Rao,\nM. Ellery,maud@north.example\nNo Mail,not an address\n',
      ),
    )
    expect(came).toMatchObject({
      set: { count: 2 },
      names: ['Maud Ellery', 'Priya Rao'],
      by: 'Ines Okafor',
      rows: 5,
      nobody: { count: 1, some: ['Somebody Else, nobody@example.org'] },
      several: 0,
      unclear: 1,
    })
    expect(await t.app('batch').count('id as n').first()).toEqual(before)
    const line: Line = {
      id: 'u',
      verb: 'pick',
      off: false,
      side: 'in',
      set: came.set,
      names: came.names,
      by: came.by,
      reason: 'from good-customers.csv',
      until: null,
    }
    expect(await names([start(), keep({ kind: 'role', any: ['bursar'] }), line])).toEqual(
      ['Maud Ellery', 'Tomas Pike', 'Priya Rao'].sort((a, b) => (a.split(' ')[1] < b.split(' ')[1] ? -1 : 1)),
    )
    // What our own files call a record is enough, and so is the number another system has for it.
    const { id: ida } = await t.app('person').where({ name: 'Ida Owens' }).first('id')
    expect((await pickUpload(t.tam, id, file(`Record number\n${ida}\n999999\n`))).names).toEqual(['Ida Owens'])
    expect((await pickUpload(t.tam, id, file('Id\nP2\nP3\n'))).set.count).toBe(2)
  })

  test('is refused where nothing says who, nobody is found, or the list is of something else', async () => {
    const id = await createList(t.ines, 'From no file', true, [start()])
    await expect(pickUpload(t.ines, id, file('Colour,Size\nred,3\n'))).rejects.toThrow(/No column of good-customers.csv says who/)
    await expect(pickUpload(t.ines, id, file('Email\nnobody@example.org\n'))).rejects.toThrow(
      /None of the 1 rows of good-customers.csv is about one person of the directory: 1 about nobody, 0 that could be about several/,
    )
    await expect(pickUpload(t.ines, id, file(''))).rejects.toThrow(/empty|no rows|nothing/i)
    const buildings = await createList(t.ines, 'Of buildings', true, [start('premises')])
    await expect(pickUpload(t.ines, buildings, file('Email\nmaud@north.example\n'))).rejects.toThrow(/a list of people/)
    const hidden = await createList(t.ines, 'Hidden from Tam', false, [start()])
    await expect(pickUpload(t.tam, hidden, file('Email\nmaud@north.example\n'))).rejects.toThrow(/no such list/)
  })
})

test('industries are found by words of their title, branches before leaves', () => {
  expect(findIndustries(t.ines, 'brewery')).toEqual([
    { code: 'NAICS 31212', title: 'Breweries' },
    { code: 'NAICS 312120', title: 'Breweries' },
  ])
  expect(findIndustries(t.ines, 'elementary schools')[0]).toEqual({ code: 'NAICS 6111', title: 'Elementary and Secondary Schools' })
  expect(findIndustries(t.ines, '')).toEqual([])
  expect(findIndustries(t.ines, 'no such industry')).toEqual([])
  expect(findIndustries(t.ines, 'education').slice(0, 2)).toEqual([
    { code: 'NACE P', title: 'Education' },
    { code: 'NACE 85', title: 'Education' },
  ])
  expect(findIndustries(t.ines, 'beverages').map(({ code }) => code)).toEqual(expect.arrayContaining(['NACE 11', 'NACE 56']))
  expect(industryTitles(t.ines, ['NAICS 312120', '6111', 'NACE 11.05', 'nothing'])).toEqual({
    'NAICS 312120': 'Breweries',
    '6111': 'Elementary and Secondary Schools',
    'NACE 11.05': 'in 11, Manufacture of beverages',
  })
})
