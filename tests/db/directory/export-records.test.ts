import { parse } from 'csv-parse/sync'
import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { openPerson } from '@/usecases/directory/open-person'
import { recordsCsv } from '@/usecases/directory/export-records'
import { createList } from '@/usecases/lists/create-list'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { pinClock } from '@/runtime/clock'
import { addNote } from '@/usecases/contact/add-note'
import { refusedCsv } from '@/usecases/intake/refused-csv'
import { suppress } from '@/usecases/screening/suppress'

/** A working file is a second way out: it holds no address that screening closes, unless somebody says why. */

let t: TestDatabase
let list: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const WORD = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Organisation,Email,Email 2,Phone,Address,Town,Postcode
P1,Ada Open,North School,ada@export.example,,0113 496 0001,1 Mill Lane,Thornmouth,PW1 2AB
P2,Ben Stopped,North School,ben@export.example,,0113 496 0002,2 Mill Lane,Thornmouth,PW1 2AB
P3,Cyd Second,North School,cyd@export.example,cyd.two@export.example,0113 496 0003,3 Mill Lane,Thornmouth,PW1 2AB
P4,Dee Flat,North School,,,,4 Mill Lane,Thornmouth,PW1 2AB
P5,Eve Office,South School,,,,,,
P6,Fay None,West School,,,,,,
`,
  )
  await t
    .owner('organisation')
    .where({ name: 'South School' })
    .update({ street: '9 Quay Street', town: 'Low Wendle', postcode: 'PW2 1ZZ', phone: '0113 496 0009' })
  const id = async (outside: string) => (await t.app('person').where({ outside_id: outside }).first('id')).id
  await suppress(t.tam, { person: await id('P2') }, WORD)
  await suppress(t.tam, { text: 'cyd@export.example' }, WORD)
  await suppress(t.tam, { postal: { street: '4 Mill Ln', town: '', postcode: 'PW1 2AB' } }, WORD)
  await suppress(t.tam, { person: await id('P5') }, { ...WORD, channels: ['post'] })
  list = await createList(t.ines, 'Everybody', true, [start])
})

async function file(
  closedToo?: string,
  lines: Line[] = [start],
  of = list,
  table: { columns?: string[]; sort?: { key: string; back: boolean }[] } = {},
) {
  const { pieces } = await recordsCsv(t.ines, {
    list: of,
    lines,
    view: { tab: 'on' },
    ...table,
    ...(closedToo === undefined ? {} : { closedToo }),
  })
  let text = ''
  for await (const piece of pieces) text += piece
  return Object.fromEntries((parse(text, { columns: true, bom: true }) as Record<string, string>[]).map((row) => [row.Name, row]))
}

test('each channel is marked open or closed with the reason, and closed addresses are left out', async () => {
  const rows = await file()
  expect(rows['Ada Open']).toMatchObject({
    Email: 'ada@export.example',
    'Email is': 'open',
    Phone: '+441134960001',
    'Phone is': 'open',
    Street: '1 Mill Lane',
    Postcode: 'PW1 2AB',
    'Post is': 'open',
  })
  expect(rows['Ben Stopped']).toMatchObject({ Email: '', Phone: '', Street: '', Postcode: '', Town: 'Thornmouth' })
  for (const of of ['Email is', 'Phone is', 'Post is'])
    expect(rows['Ben Stopped'][of]).toBe('closed: Asked us to stop since 15 Jun 2026 · a letter')
  // The second address is open, and it is that which is given.
  expect(rows['Cyd Second']).toMatchObject({ Email: 'cyd.two@export.example', 'Email is': 'open' })
  expect(rows['Dee Flat']).toMatchObject({ Street: '', 'Email is': 'none' })
  expect(rows['Dee Flat']['Post is']).toMatch(/^closed: Asked us to stop/)
  // Where the office is stands in for an address of their own, but not past what they asked.
  expect(rows['Eve Office']).toMatchObject({ Street: '', Town: 'Low Wendle', 'Post is': 'closed: suppressed' })
  expect(rows['Fay None']).toMatchObject({ Street: '', 'Post is': 'none' })
})

test('with a reason they come along, marked, and everybody whose closed address it is has an entry that says why', async () => {
  await expect(file('  ')).rejects.toThrow(/Write why/)
  const rows = await file('the printer takes them off himself')
  expect(rows['Ben Stopped']).toMatchObject({
    Email: 'ben@export.example',
    Phone: '+441134960002',
    Street: '2 Mill Lane',
    Postcode: 'PW1 2AB',
  })
  expect(rows['Ben Stopped']['Post is']).toMatch(/^closed/)
  const told = async (outside: string) =>
    (await openPerson(t.ines, (await t.app('person').where({ outside_id: outside }).first('id')).id)).ledger.filter(
      (e) => e.kind === 'exported',
    )
  expect(await told('P2')).toMatchObject([
    {
      title: 'Saved to a file although closed: email, phone, post',
      detail: 'the printer takes them off himself (Everybody)',
      by: 'Ines Okafor',
    },
  ])
  expect(await told('P5')).toMatchObject([{ title: 'Saved to a file although closed: post' }])
  expect(await told('P1')).toEqual([])
  expect(await told('P3')).toEqual([])
})

test('a number on the register is closed, and every number is once the register is too old', async () => {
  await broughtIn(t.ines, 'register.csv', 'Phone\n0113 496 0001\n', {
    kind: 'suppressions',
    register: { name: 'County register', version: '2026-06-01' },
  })
  const rows = await file()
  expect(rows['Ada Open']).toMatchObject({ Phone: '', Street: '1 Mill Lane' })
  expect(rows['Ada Open']['Phone is']).toMatch(/^closed: Do-not-call register/)
  expect(rows['Cyd Second'].Phone).toBe('+441134960003')
  await t.owner('register_file').update({ version: '2026-01-01' })
  expect((await file())['Cyd Second']).toMatchObject({
    Phone: '',
    'Phone is': 'closed: The register file of 1 Jan 2026 is too old to call by',
  })
})

test('organisations: their own number and address go by what is suppressed by number, by place and as a whole', async () => {
  const lines: Line[] = [{ ...start, subject: 'organisation' } as Line]
  const organisations = await createList(t.ines, 'Organisations', true, lines)
  expect((await file(undefined, lines, organisations))['South School']).toMatchObject({
    Phone: '0113 496 0009',
    'Phone is': 'open',
    Street: '9 Quay Street',
    'Post is': 'open',
  })
  await suppress(t.tam, { text: '0113 496 0009' }, WORD)
  await suppress(t.tam, { postal: { street: '9 Quay St', town: '', postcode: 'PW2 1ZZ' } }, WORD)
  expect((await file(undefined, lines, organisations))['South School']).toMatchObject({
    Phone: '',
    'Phone is': 'closed: suppressed',
    Street: '',
    Postcode: '',
    'Post is': 'closed: suppressed',
    Town: 'Low Wendle',
  })
  expect((await file('asked by the manager', lines, organisations))['South School']).toMatchObject({
    Phone: '0113 496 0009',
    Street: '9 Quay Street',
  })
  expect(await t.app('entry').where({ kind: 'exported' }).whereNotNull('organisation_id')).toHaveLength(1)
})

test('rows that were refused say which of their addresses must not be used', async () => {
  const batch = await broughtIn(
    t.ines,
    'to-be-put-right.csv',
    `Name,Email,Phone,Address,Town,Postcode
,ben@export.example,,,,
,CYD@Export.example,0113 496 0003,4 Mill Ln,Thornmouth,PW1 2AB
,open@export.example,,,,
`,
  )
  const { bytes } = await refusedCsv(t.ines, batch)
  expect((parse(bytes.toString(), { columns: true, bom: true }) as Record<string, string>[]).map((row) => row['Do not use'])).toEqual([
    'ben@export.example: asked us to stop',
    'cyd@export.example: asked us to stop; the postal address: asked us to stop',
    '',
  ])
  // Where none is, there is no such column.
  const plain = await broughtIn(t.ines, 'nothing-closed.csv', 'Name,Email\n,nobody@export.example\n')
  expect((await refusedCsv(t.ines, plain)).bytes.toString()).not.toContain('Do not use')
})

test('the columns that the table shows come along, in its order, where the file has not them anyway', async () => {
  const rows = await file(undefined, [start], list, { columns: ['town', 'district', 'contacts'], sort: [{ key: 'town', back: false }] })
  expect(Object.keys(rows['Ada Open']).slice(-4)).toEqual(['Postcode district', 'Times contacted', 'Reason', 'Line'])
  expect(rows['Ada Open']).toMatchObject({ 'Postcode district': 'PW1', Town: 'Thornmouth' })
  const order = Object.values(rows).map((row) => row.Town)
  expect(order.indexOf('Low Wendle')).toBeLessThan(order.indexOf('Thornmouth'))
})

test('the latest notes come along, the newest first; what was taken back does not', async () => {
  const ada = (await t.app('person').where({ outside_id: 'P1' }).first('id')).id
  for (const [at, note] of [
    ['2026-06-01T10:00:00Z', 'has two roofs'],
    ['2026-06-03T10:00:00Z', 'asked to ring\nin spring'],
    ['2026-06-05T10:00:00Z', 'moved desks'],
    ['2026-06-07T10:00:00Z', 'prefers email, never Mondays'],
  ] as const) {
    pinClock(new Date(at))
    await addNote(t.tam, ada, note)
  }
  const wrong = await t
    .app('entry as e')
    .join('entry_value as v', 'v.id', 'e.value_id')
    .where({ 'e.person_id': ada, 'v.note': 'moved desks' })
    .first('e.id')
  await t
    .app('entry')
    .insert({ person_id: ada, kind: 'reversed', at: new Date(), recorded_at: new Date(), actor_id: t.tam.id, reverses_id: wrong.id })
  expect((await file())['Ada Open'].Notes).toBe(
    `7 Jun 2026, ${t.tam.name}: prefers email, never Mondays | 3 Jun 2026, ${t.tam.name}: asked to ring in spring | 1 Jun 2026, ${t.tam.name}: has two roofs`,
  )
  expect((await file())['Fay None'].Notes).toBe('')
})
