import { beforeAll, describe, expect, test } from 'vitest'
import { type Line, lineText, type PickLine } from '@/core/lists/line'
import { pinClock } from '@/runtime/clock'
import { compareEditionsOf, editionIndex } from '@/usecases/lists/compare-editions'
import { keepDraft } from '@/usecases/lists/drafts'
import { aboutRecords } from '@/usecases/directory/about-records'
import { recordsCsv } from '@/usecases/directory/export-records'
import { listAccountFor } from '@/usecases/lists/list-account'
import { balanceInHand, foldSets, listInHand } from '@/usecases/lists/list-in-hand'
import { createList } from '@/usecases/lists/create-list'
import { listFor, openList } from '@/usecases/lists/open-list'
import { listIndex } from '@/usecases/lists/list-index'
import { saveEdition } from '@/usecases/lists/save-edition'
import { shareList } from '@/usecases/lists/share-list'
import { freshOf, markLook } from '@/usecases/lists/last-looked'
import { mergePeople } from '@/usecases/directory/merge-people'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { latestEdition } from '@/db/lists/list-rows'
import { deleteList } from '@/usecases/lists/delete-list'
import { takeInHand } from '@/usecases/lists/take-in-hand'
import { putOnList } from '@/usecases/lists/put-on-list'

let t: TestDatabase
const ROWS = [
  'L1,Ann Able,Estates lead,North School,school,120,ann@north.example,1 Mill Lane,Thornmouth,Pellow,large roof',
  'L2,Bob Bell,Estates lead,North School,school,120,bob@north.example,1 Mill Lane,Thornmouth,Pellow,',
  'L3,Cas Cole,Bursar,North School,school,120,,1 Mill Lane,Thornmouth,Pellow,newsletter',
  'L4,Dot Dean,Head brewer,Sedge Brewery,brewery,8,dot@sedge.example,2 Quay Street,Low Wendle,Marle,large roof; newsletter',
  'L5,Eli East,Owner,,,,eli@example.org,3 Weir Street,Thornmouth,,',
]
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Role,Organisation,Organisation type,Employees,Email,Address,Town,County,Tags\n${ROWS.join('\n')}\n`,
  )
  await startEngine(t)
})

const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const keep = (id: string, criterion: Extract<Line, { criterion: unknown }>['criterion']): Line => ({
  id,
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion,
})
const on = (list: number, name = 'x', edition: number | null = null) => ({ kind: 'list' as const, list: { id: list, name }, edition })
const names = async (lines: Line[]) => (await listAccountFor(t.ines, { lines, view: { tab: 'on' } })).page.records.map((p) => p.title)
const idOf = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id

describe('criteria of organisations, tags, files', () => {
  test.each([
    [{ kind: 'industry', any: ['School'] }, ['Ann Able', 'Bob Bell', 'Cas Cole']],
    [{ kind: 'head-count', any: ['1 to 9'] }, ['Dot Dean']],
    [{ kind: 'county', any: ['marle'] }, ['Dot Dean']],
    [{ kind: 'tag', any: ['newsletter'] }, ['Cas Cole', 'Dot Dean']],
    [{ kind: 'batch', batch: { id: 1, name: 'people.csv' } }, ['Ann Able', 'Bob Bell', 'Cas Cole', 'Dot Dean', 'Eli East']],
  ] as const)('%o', async (criterion, expected) => expect(await names([start, keep('k', criterion as never)])).toEqual(expected))

  test('no organisation is unknown, not a no', async () => {
    const { figures } = await listAccountFor(t.ines, {
      lines: [start, keep('k', { kind: 'industry', any: ['school'] })],
      view: { tab: 'on' },
    })
    expect(figures.lines[1]).toMatchObject({ out: 1, unknown: 1, balance: 3 })
  })
  test('a limit of one for each organisation keeps the easiest to reach, and tells whom it does not limit', async () => {
    const lines: Line[] = [start, { id: 'l', verb: 'limit', off: false, most: 1, per: 'organisation', rank: 'easiest to reach' }]
    expect(await names(lines)).toEqual(['Ann Able', 'Dot Dean', 'Eli East'])
    expect((await listAccountFor(t.ines, { lines, view: { tab: 'on' } })).figures.lines[1]).toMatchObject({
      out: 2,
      notLimited: 1,
      balance: 3,
    })
  })
})

describe('lists that name lists', () => {
  test('follow the latest edition, or stay with the one that is named', async () => {
    const schools = await createList(t.ines, 'Schools', true, [start, keep('k', { kind: 'industry', any: ['school'] })])
    const lines = (edition: number | null): Line[] => [start, keep('k', on(schools, 'Schools', edition))]
    expect(await names(lines(null))).toEqual(['Ann Able', 'Bob Bell', 'Cas Cole'])
    await saveEdition(t.ines, schools, 1, [start, keep('k', { kind: 'industry', any: ['brewery'] })])
    expect(await names(lines(null))).toEqual(['Dot Dean'])
    expect(await names(lines(1))).toEqual(['Ann Able', 'Bob Bell', 'Cas Cole'])
  })

  test('never in a loop, however long, and not when two are saved at once', async () => {
    const a = await createList(t.ines, 'Loop A', true)
    const b = await createList(t.ines, 'Loop B', true, [start, keep('k', on(a, 'Loop A'))])
    const c = await createList(t.ines, 'Loop C', true, [start, keep('k', on(b, 'Loop B'))])
    await expect(saveEdition(t.ines, a, 1, [start, keep('k', on(c, 'Loop C'))])).rejects.toThrow(/a loop/)
    await expect(saveEdition(t.ines, a, 1, [start, keep('k', on(a, 'Loop A'))])).rejects.toThrow(/cannot name itself/)
    const d = await createList(t.ines, 'Loop D', true)
    const e = await createList(t.ines, 'Loop E', true)
    const both = await Promise.allSettled([
      saveEdition(t.ines, d, 1, [start, keep('k', on(e, 'Loop E'))]),
      saveEdition(t.marek, e, 1, [start, keep('k', on(d, 'Loop D'))]),
    ])
    expect(both.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected'])
  })

  test('a shared list names no private one, nobody names what they cannot see, and what is named stays', async () => {
    const mine = await createList(t.ines, 'Private', false)
    await expect(createList(t.ines, 'Shared', true, [start, keep('k', on(mine, 'Private'))])).rejects.toThrow(/cannot name “Private”/)
    await expect(listAccountFor(t.tam, { lines: [start, keep('k', on(mine, 'Private'))], view: { tab: 'on' } })).rejects.toThrow(
      /private to somebody else/,
    )
    const both = await createList(t.ines, 'Both private', false, [start, keep('k', on(mine, 'Private'))])
    await expect(shareList(t.ines, both, { team: 'edit' })).rejects.toThrow(/cannot name “Private”/)
    await shareList(t.ines, mine, { team: 'edit' })
    await shareList(t.ines, both, { team: 'edit' })
    await expect(shareList(t.ines, mine, { team: null })).rejects.toThrow(/cannot name “Private”/)
    await expect(deleteList(t.ines, mine)).rejects.toThrow(/names this list/)
  })
})

test('two editions are held against each other line by line and by who joined and left', async () => {
  const id = await createList(t.ines, 'Compared', true, [
    start,
    keep('a', { kind: 'industry', any: ['school'] }),
    keep('b', { kind: 'reach', channel: 'email' }),
  ])
  await saveEdition(t.ines, id, 1, [
    start,
    keep('a', { kind: 'industry', any: ['school', 'brewery'] }),
    keep('c', { kind: 'reach', channel: 'post' }),
  ])
  expect((await editionIndex(t.tam, id)).editions.map((e) => [e.number, e.balance])).toEqual([
    [2, 4],
    [1, 2],
  ])
  const { lines, figures, page } = await compareEditionsOf(t.tam, id, 1, 2, 'joined')
  expect(lines.map((l) => [l.is, l.number])).toEqual([
    ['same', 1],
    ['changed', 2],
    ['removed', 3],
    ['added', 3],
  ])
  expect(figures).toEqual({ opening: 2, left: 0, joined: 2, stayed: 2, closing: 4 })
  expect(page.records.map((p) => [p.title, p.because?.title])).toEqual([
    ['Cas Cole', 'Left out by line 3 of edition 1'],
    ['Dot Dean', 'Left out by line 2 of edition 1'],
  ])
})

describe('the list in hand', () => {
  test('what was chosen, all that was found, and another list are put on it or taken off, as lines of the draft', async () => {
    const id = await createList(t.ines, 'In hand', true, [start, keep('k', { kind: 'industry', any: ['brewery'] })])
    const other = await createList(t.ines, 'Other', true, [start, keep('k', { kind: 'tag', any: ['newsletter'] })])
    await expect(putOnList(t.ines, 'in', { of: 'person', ids: [1] })).rejects.toThrow(/no list in hand/)
    await takeInHand(t.ines, id)
    expect(await listInHand(t.ines)).toEqual({ id, name: 'In hand', subject: 'person' })
    expect(await putOnList(t.ines, 'in', { of: 'person', ids: [await idOf('Ann Able')] })).toMatchObject({
      list: 'In hand',
      count: 1,
      before: { basedOn: 1, lines: null },
    })
    await expect(putOnList(t.ines, 'in', { of: 'person', find: 'nobody is called this' })).rejects.toThrow(/Nobody was chosen/)
    await putOnList(t.ines, 'in', { of: 'person', find: 'east' })
    const draft = (await openList(t.ines, id)).draft?.lines as Line[]
    // Picks say where they came from; those of one origin that follow each other share a line, and others can be folded.
    expect(draft.slice(2).map((l) => lineText(l))).toEqual(['Pick in Ann Able', 'Pick in Eli East · found in the directory: east'])
    const [one, two] = draft.slice(2) as PickLine[]
    expect(await foldSets(t.ines, id, [one.set.id, two.set.id])).toMatchObject({ set: { count: 2 } })
    expect(await balanceInHand(t.ines)).toBe(3)
    expect(await names(draft)).toEqual(['Ann Able', 'Dot Dean', 'Eli East'])
    await putOnList(t.ines, 'out', { list: other, lines: (await latestEdition(other)).lines, view: { tab: 'on' } })
    const after = (await openList(t.ines, id)).draft?.lines as Line[]
    expect(await names(after)).toEqual(['Ann Able', 'Eli East'])
    await putOnList(t.ines, 'in', { list: other, lines: (await latestEdition(other)).lines, view: { tab: 'out' } })
    expect(await names((await openList(t.ines, id)).draft?.lines as Line[])).toEqual(['Ann Able', 'Bob Bell', 'Eli East'])
    // Nobody else sees it until it is saved; then the draft is gone.
    expect((await openList(t.tam, id)).draft).toBeNull()
    expect((await openList(t.tam, id)).lines).toHaveLength(2)
    expect(await saveEdition(t.ines, id, 1, (await openList(t.ines, id)).draft?.lines)).toEqual({ edition: 2 })
    expect((await openList(t.ines, id)).draft).toBeNull()
    await takeInHand(t.ines, null)
    expect(await listInHand(t.ines)).toBeNull()
  })
  test('a draft that arrives after it was saved is no draft any more', async () => {
    const lines: Line[] = [start, keep('k', { kind: 'tag', any: ['newsletter'] })]
    const id = await createList(t.ines, 'Saved meanwhile', true)
    await saveEdition(t.ines, id, 1, lines)
    await keepDraft(t.ines, id, 1, lines)
    expect((await openList(t.ines, id)).draft).toBeNull()
    await keepDraft(t.ines, id, 2, [start])
    expect((await openList(t.ines, id)).draft).toMatchObject({ basedOn: 2, lines: [start] })
    await keepDraft(t.ines, id, 2, null)
    expect((await openList(t.ines, id)).draft).toBeNull()
  })
  test('of two pages that keep drafts, the second is told, and neither is lost', async () => {
    const id = await createList(t.ines, 'On two pages', true)
    const [a, b]: Line[][] = [
      [start, keep('a', { kind: 'tag', any: ['newsletter'] })],
      [start, keep('b', { kind: 'tag', any: ['roof'] })],
    ]
    // Both opened it with nothing kept; they keep at once, and one of them finds the other.
    const ends = await Promise.all([keepDraft(t.ines, id, 1, a, null), keepDraft(t.ines, id, 1, b, null)])
    expect(ends.map((e) => e.elsewhere).sort()).toEqual([false, true])
    const kept = (await openList(t.ines, id)).draft?.lines as Line[]
    expect(kept).toEqual(ends[0].elsewhere ? b : a)
    expect(await keepDraft(t.ines, id, 1, null, null)).toEqual({ elsewhere: true, kept })
    expect(await keepDraft(t.ines, id, 1, b, kept)).toEqual({ elsewhere: false })
    expect(await keepDraft(t.ines, id, 1, a)).toEqual({ elsewhere: false })
    expect((await openList(t.ines, id)).draft?.lines).toEqual(a)
  })
  test('a private list of somebody else cannot be taken in hand, nor drafted on', async () => {
    const id = await createList(t.ines, 'Mine alone', false)
    await expect(takeInHand(t.tam, id)).rejects.toThrow(/private to somebody else/)
    await expect(keepDraft(t.tam, id, 1, [start])).rejects.toThrow(/private to somebody else/)
  })
  test('a pick holds for a record that was merged into another since, and to the end of its last day', async () => {
    await broughtIn(t.ines, 'twice.csv', 'Id,Name,Email\nL90,Fay Fell,fay@example.org\nL91,Fay Fellows,fellows@example.org\n')
    const id = await createList(t.ines, 'Picked', false)
    await takeInHand(t.ines, id)
    await putOnList(t.ines, 'in', { of: 'person', ids: [await idOf('Fay Fell')] }, 'rang us')
    const { draft } = await openList(t.ines, id)
    const picked = draft?.lines[1] as Extract<Line, { verb: 'pick' }>
    expect(picked).toMatchObject({ side: 'in', reason: 'rang us', names: ['Fay Fell'], set: { count: 1 }, by: 'Ines Okafor' })
    const onlyPicked: Line[] = [start, keep('none', { kind: 'tag', any: ['nobody has this'] }), picked]
    expect(await names(onlyPicked)).toEqual(['Fay Fell'])
    await mergePeople(t.ines, await idOf('Fay Fellows'), await idOf('Fay Fell'))
    expect(await names(onlyPicked)).toEqual(['Fay Fellows'])
    expect(await names([...onlyPicked.slice(0, 2), { ...picked, until: '2026-06-14' }])).toEqual([])
  })
})

test('how many came on since one last looked, in the index and as a tab, for each person by themselves', async () => {
  const id = await createList(t.ines, 'Watched', true, [start, keep('k', { kind: 'tag', any: ['watched'] })])
  const look = async (who = t.ines) => markLook(who, await listFor(who, id))
  const fresh = async (who = t.ines) => (await freshOf(who, await listIndex(who))).get(id)?.fresh ?? null
  expect(await fresh()).toBeNull()
  expect(await look()).toBeNull()
  await broughtIn(t.ines, 'watched.csv', 'Name,Email,Tags\nGus Gale,gus@example.org,watched\n')
  expect(await fresh()).toBe(1)
  const before = new Date('2026-06-15T10:00:00Z')
  pinClock(new Date('2026-06-16T10:00:00Z'))
  expect((await look())?.getTime()).toBeLessThanOrEqual(before.getTime() + 86_400_000)
  const asked = { lines: (await latestEdition(id)).lines, list: id, view: { tab: 'new' as const } }
  const shown = await listAccountFor(t.ines, asked)
  expect([shown.fresh, shown.page.records.map((p) => p.title)]).toEqual([1, ['Gus Gale']])
  // Coming back within half an hour is the same look; the index counts from the last opening.
  pinClock(new Date('2026-06-16T10:20:00Z'))
  await look()
  expect((await listAccountFor(t.ines, asked)).fresh).toBe(1)
  expect(await fresh()).toBe(0)
  expect(await fresh(t.tam)).toBeNull()
  pinClock(new Date('2026-06-16T11:00:00Z'))
  await look()
  expect((await listAccountFor(t.ines, asked)).fresh).toBe(0)
})

test('any tab goes out as CSV with the reason of each', async () => {
  const id = await createList(t.ines, 'To file', true, [start, keep('k', { kind: 'industry', any: ['school'] })])
  const { name, pieces } = await recordsCsv(t.tam, { list: id, lines: (await latestEdition(id)).lines, view: { tab: 'unknown' } })
  let text = ''
  for await (const piece of pieces) text += piece
  expect(name).toBe('to-file-unknown.csv')
  const lines = text.replace('\uFEFF', '').trim().split('\r\n')
  expect(lines[0]).toContain('Reason,Line')
  expect(lines.find((l) => l.includes('Eli East'))).toContain('Unknown by line 2,Keep organisation is a school')

  const asked = { list: id, lines: (await latestEdition(id)).lines, view: { tab: 'unknown' as const } }
  const details = await aboutRecords(t.tam, asked)
  expect(details.name).toBe('to-file-unknown-csv-metadata.json')
  const about = JSON.parse(details.bytes.toString())
  expect(about).toMatchObject({ 'dc:title': 'To file: unknown', 'dc:creator': 'Tam Reyes' })
  const [table] = about.tables
  expect(table).toMatchObject({ url: name, 'dc:extent': lines.length - 1 })
  // Titles of columns are those of the file's first row, in its order (Metadata Vocabulary for Tabular Data, W3C 2015, section 5.6).
  expect(table.tableSchema.columns.map((column: { titles: string }) => column.titles)).toEqual(lines[0].split(','))
  const looking = await createList(t.ines, 'Looked at', false)
  await shareList(t.ines, looking, { team: 'see', members: [] })
  await expect(aboutRecords(t.tam, { list: looking, lines: [start], view: { tab: 'on' } })).rejects.toThrow(/not use it/)
})
