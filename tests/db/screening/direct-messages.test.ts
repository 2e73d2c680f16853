import { parse } from 'csv-parse/sync'
import { beforeAll, describe, expect, test } from 'vitest'
import { aboutRoundFiles } from '@/usecases/rounds/about-round-files'
import { openPerson } from '@/usecases/directory/open-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { recordContact } from '@/usecases/contact/record-contact'
import { createList } from '@/usecases/lists/create-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { startRound } from '@/usecases/rounds/start-round'
import { letThrough } from '@/usecases/screening/let-through'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { screenRound } from '@/usecases/rounds/screen-round'
import { suppress } from '@/usecases/screening/suppress'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { runUndo } from '@/usecases/intake/run-undo'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const HEADER = 'Id,Name,Email,Handle,Direct messages\n'
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const reach = async (outside: string) => (await openPerson(t.ines, await idOf(outside))).view.reach
const WORD = { reason: 'opt-out', channels: ['direct'], word: 'a message' }
const profiles = async (outside: string): Promise<string[]> =>
  (
    await t
      .app('address')
      .where({ person_id: await idOf(outside), channel: 'direct' })
      .orderBy('id')
      .select('value')
  ).map((a) => a.value)

beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `${HEADER}D1,Ada Able,,https://www.Pellow.example/in/Ada-Able/,open
D2,Ben Bell,ben@direct.example,@ben_bell,by request
D3,Cas Cole,,Cas Cole,
D4,Dot Dean,dot@direct.example,,open
D5,Eve East,,@eve@pellow.example,after an introduction
`,
  )
  await startEngine(t)
})

test('a profile link or handle comes in as an address of its own, and one that cannot be is kept and told', async () => {
  expect([await profiles('D1'), await profiles('D2'), await profiles('D3'), await profiles('D5')]).toEqual([
    ['https://pellow.example/in/Ada-Able'],
    ['@ben_bell'],
    ['Cas Cole'],
    ['https://pellow.example/@eve'],
  ])
  expect(await reach('D1')).toEqual({ email: 'none', phone: 'none', post: 'none', direct: 'open' })
  expect((await reach('D3')).direct).toBe('none')
  const told = (await openPerson(t.ines, await idOf('D3'))).addresses.find((a) => a.channel === 'direct')
  expect(told).toMatchObject({ value: 'Cas Cole', usable: false, why: 'it has a space' })
})

test('the same file again, and another spelling, bring no second profile; another one is told and can be undone', async () => {
  const spelled = 'D1,Ada Able,,PELLOW.example/in/ada-able?utm_source=x,\n'
  await broughtIn(t.ines, 'again.csv', HEADER + spelled)
  expect(await profiles('D1')).toEqual(['https://pellow.example/in/Ada-Able'])
  const batch = await broughtIn(t.ines, 'other.csv', `${HEADER}D1,Ada Able,,@ada,\n`)
  expect(await profiles('D1')).toEqual(['https://pellow.example/in/Ada-Able', '@ada'])
  expect((await openPerson(t.ines, await idOf('D1'))).ledger.some((e) => JSON.stringify(e).includes('@ada'))).toBe(true)
  await undoBatch(t.ines, batch)
  await runUndo(batch)
  expect(await profiles('D1')).toEqual(['https://pellow.example/in/Ada-Able'])
})

describe('a suppression', () => {
  test('of a profile catches every spelling of it, now and later, and nothing else', async () => {
    const id = await suppress(t.tam, { text: 'http://pellow.example/in/ADA-able#me' }, WORD)
    expect((await reach('D1')).direct).toBe('closed')
    expect((await reach('D2')).direct).toBe('open')
    await broughtIn(t.ines, 'later.csv', `${HEADER}D6,Ada Able-Marsh,,https://pellow.example/in/ada-able,\n`)
    expect((await reach('D6')).direct).toBe('closed')
    const { rows } = await suppressionIndex(t.ines, 'pellow.example/in/ada-able')
    expect(rows.map((r) => [r.id, r.scope, r.channels, r.catches])).toEqual([[id, 'direct', ['direct'], 2]])
    // What is shown of it does not tell the profile whole.
    expect(JSON.stringify(rows)).not.toContain('ada-able')
    await liftSuppression(t.ines, id, 'they wrote again')
  })
  test('of a person is keyed on their profile as well, so that it catches it when it comes in again', async () => {
    await suppress(t.tam, { person: await idOf('D5') }, WORD)
    await broughtIn(t.ines, 'newcomer.csv', `${HEADER}D7,Somebody Else,,https://pellow.example/@Eve,\n`)
    expect((await reach('D7')).direct).toBe('closed')
  })
  test('of what may be a handle or a domain is of the handle where somebody has it, and refused where both are', async () => {
    await broughtIn(t.ines, 'dotted.csv', `${HEADER}D8,Fay Fell,,@fay.example,\n`)
    await suppress(t.tam, { text: '@fay.example' }, WORD)
    expect((await reach('D8')).direct).toBe('closed')
    await broughtIn(t.ines, 'both.csv', `${HEADER}D9,Gus Gale,,@direct.example,\n`)
    await expect(suppress(t.tam, { text: '@direct.example' }, WORD)).rejects.toThrow(
      /handle of somebody in the directory, and also a domain/,
    )
    expect((await reach('D9')).direct).toBe('open')
  })
  test('by a file names profiles in a column', async () => {
    await broughtIn(t.ines, 'stops.csv', 'Handle,Reason\n@BEN_bell,opt-out\nnot a profile,opt-out\n', { kind: 'suppressions' })
    expect((await reach('D2')).direct).toBe('closed')
    expect((await reach('D2')).email).toBe('open')
  })
})

test('a contact by direct message after which they asked to stop closes their profile', async () => {
  await broughtIn(t.ines, 'hal.csv', `${HEADER}E1,Hal Hart,hal@direct.example,@hal_hart,open\n`)
  await recordContact(t.tam, await idOf('E1'), { channel: 'direct', result: 'asked us to stop', date: '2026-06-14' })
  expect(await reach('E1')).toMatchObject({ direct: 'closed', email: 'open' })
})

test('merging takes the profile along, and taking the merge back gives it back', async () => {
  await broughtIn(t.ines, 'ida.csv', `${HEADER}F1,Ida Iles,ida@direct.example,,\nF2,Ida Isles,isles@direct.example,@ida,\n`)
  const [keep, merge] = [await idOf('F1'), await idOf('F2')]
  await mergePeople(t.ines, keep, merge)
  expect((await reach('F1')).direct).toBe('open')
  await takeBackMerge(t.ines, merge)
  expect([(await reach('F1')).direct, (await reach('F2')).direct]).toEqual(['none', 'open'])
})

test('a round has a column for it, freezes profile and way, and gives a file', async () => {
  const round = await startRound(t.ines, await createList(t.ines, 'Everybody', true))
  const before = await screenRound(t.ines, round, { tab: 'channel', channel: 'direct' })
  const people = before.page.people.map((p) => p.name)
  expect(people).toContain('Ada Able')
  expect(people).not.toContain('Ben Bell')
  // Nobody can let somebody through who asked to stop, by this channel either.
  await expect(letThrough(t.ines, round, await idOf('D2'), 'direct', 'they know me')).rejects.toThrow()
  await expect(
    t.owner('let_through').insert({
      round_id: round,
      person_id: await idOf('D2'),
      channel: 'direct',
      reason: 'x',
      actor_id: t.ines.id,
      at: new Date('2026-06-15T10:00:00Z'),
    }),
  ).rejects.toThrow(/cannot be let through/)
  await releaseRound(t.ines, round)
  const file = await roundFile(t.ines, round, 'direct')
  const rows = parse(file.bytes, { columns: true }) as Record<string, string>[]
  expect(rows.find((row) => row.Name === 'Ada Able')).toMatchObject({ 'Direct message': 'https://pellow.example/in/Ada-Able', Way: 'open' })
  // How somebody takes messages is not known of everybody; a spreadsheet would take a bare @ for a formula.
  expect(rows.find((row) => row.Name === 'Ida Isles')).toMatchObject({ 'Direct message': "'@ida", Way: '' })
  expect(rows.map((row) => row.Name)).not.toContain('Ben Bell')
  const page = await openRound(t.ines, round)
  expect(page.files.map((f) => [f.channel, f.rows])).toContainEqual(['direct', rows.length])
  expect((await aboutRoundFiles(t.ines, round)).bytes.toString()).toContain('Direct message')
})
