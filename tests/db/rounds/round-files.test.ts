import { createHash } from 'node:crypto'
import { parse } from 'csv-parse/sync'
import { beforeAll, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { addNote } from '@/usecases/contact/add-note'
import { mergePeople } from '@/usecases/directory/merge-people'
import { shareList } from '@/usecases/lists/share-list'
import { createList } from '@/usecases/lists/create-list'
import { aboutRoundFiles } from '@/usecases/rounds/about-round-files'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let round: number
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Role,Email,Phone
N1,Ada Able,Bursar,ada@files.example,0113 496 0001
N2,Ben Bell,Head,ben@files.example,0113 496 0002
N3,Benjamin Bell,Head,benjamin@files.example,
N4,Cas Cole,Head,cas@files.example,0113 496 0004
`,
  )
  await startEngine(t)
  const idOf = async (outside: string) => (await t.app('person').where({ outside_id: outside }).first('id')).id
  pinClock(new Date('2026-06-15T09:10:00Z'))
  await addNote(t.tam, await idOf('N3'), 'knows the caretaker')
  pinClock(new Date('2026-06-15T09:20:00Z'))
  await mergePeople(t.ines, await idOf('N2'), await idOf('N3'))
  pinClock(new Date('2026-06-15T09:30:00Z'))
  await addNote(t.ines, await idOf('N2'), '=HYPERLINK("http://elsewhere.example")')
  for (const [i, note] of ['first', 'second', 'third', 'fourth'].entries()) {
    pinClock(new Date(Date.UTC(2026, 5, 15, 10, i)))
    await addNote(t.tam, await idOf('N4'), note)
  }
  round = await startRound(t.ines, await createList(t.ines, 'Everybody', true))
  await releaseRound(t.ines, round)
})

const rowsOf = async (channel: 'email' | 'phone') =>
  Object.fromEntries(
    (parse((await roundFile(t.ines, round, channel)).bytes, { columns: true }) as Record<string, string>[]).map((row) => [row.Name, row]),
  )

test.each(['email', 'phone'] as const)('the %s file takes the latest three notes on each along, the newest first', async (channel) => {
  const rows = await rowsOf(channel)
  expect(rows['Cas Cole'].Notes).toBe(['fourth', 'third', 'second'].map((note) => `15 Jun 2026, ${t.tam.name}: ${note}`).join(' | '))
  expect(rows['Ada Able'].Notes).toBe('')
})

test('notes on a record that was merged into another stand with the one that stays, and do nothing in a spreadsheet', async () => {
  const { Notes } = (await rowsOf('phone'))['Ben Bell']
  expect(Notes).toBe(
    `15 Jun 2026, ${t.ines.name}: =HYPERLINK("http://elsewhere.example") | 15 Jun 2026, ${t.tam.name}: knows the caretaker`,
  )
  expect(Notes).toMatch(/^[^=+\-@]/)
})

/** W3C, Metadata Vocabulary for Tabular Data (2015): 5.3 table groups, 5.4 tables, 5.6 columns, 5.9 dialects. */
test('what the files are is told by a file beside them: columns, rows and checksums as they are in them', async () => {
  const { name, bytes } = await aboutRoundFiles(t.ines, round)
  const about = JSON.parse(bytes.toString())
  expect(name).toMatch(/-metadata\.json$/)
  expect(about['@context'][0]).toBe('http://www.w3.org/ns/csvw')
  expect(about['dc:title']).toBe('Round 1 of Everybody')
  expect(about['dc:creator']).toBe(t.ines.name)
  expect(about['dc:issued']['@value']).toBe('2026-06-15T10:03:00.000Z')
  expect(about.tables.map((table: { url: string }) => table.url)).toEqual([
    'everybody-round-1-email.csv',
    'everybody-round-1-phone.csv',
    'everybody-round-1-post.csv',
    'everybody-round-1-direct.csv',
  ])
  for (const [i, channel] of ['email', 'phone', 'post', 'direct'].entries()) {
    const file = await roundFile(t.ines, round, channel)
    const [heading, ...rows] = parse(file.bytes) as string[][]
    const table = about.tables[i]
    const { columns } = table.tableSchema
    expect(columns.map((c: { titles: string }) => c.titles)).toEqual(heading)
    // 5.6: names are unique and begin with no underscore.
    expect(new Set(columns.map((c: { name: string }) => c.name)).size).toBe(heading.length)
    expect(columns.every((c: { name: string }) => /^[a-z][a-z0-9_]*$/.test(c.name))).toBe(true)
    expect(table['dc:extent']).toBe(rows.length)
    expect(table['schema:contentSize']).toBe(file.bytes.length)
    expect(table['schema:sha256']).toBe(createHash('sha256').update(file.bytes).digest('hex'))
  }
})

test('what the files are is told to whoever may download them, of a round that is released', async () => {
  await broughtIn(t.ines, 'one-more.csv', 'Id,Name,Role,Email\nN5,Dot Dole,Head,dot@files.example\n')
  const list = await createList(t.ines, 'Of Ines alone', false)
  const own = await startRound(t.ines, list)
  await expect(aboutRoundFiles(t.ines, own)).rejects.toThrow('This round is not released, so it has no files yet.')
  await releaseRound(t.ines, own)
  await expect(aboutRoundFiles(t.marek, own)).rejects.toThrow()
  await shareList(t.ines, list, { team: null, members: [{ id: t.marek.id, role: 'see' }] })
  await expect(aboutRoundFiles(t.marek, own)).rejects.toThrow(/not use it/)
})

test('what is written later is in no file that was handed over', async () => {
  const before = (await roundFile(t.ines, round, 'phone')).bytes
  await addNote(t.ines, (await t.app('person').where({ outside_id: 'N1' }).first('id')).id, 'written after the release')
  expect((await roundFile(t.ines, round, 'phone')).bytes.equals(before)).toBe(true)
})
