import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { areasOf } from '@/usecases/lists/areas'
import type { Actor } from '@/usecases/team/actor'
import { batchIndex } from '@/usecases/intake/batches'
import { openPerson } from '@/usecases/directory/open-person'
import { recordsCsv } from '@/usecases/directory/export-records'
import { foldSets, pickSet } from '@/usecases/lists/list-in-hand'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { openList } from '@/usecases/lists/open-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { shareList } from '@/usecases/lists/share-list'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { latestEdition } from '@/db/lists/list-rows'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { refusedCsv } from '@/usecases/intake/refused-csv'
import { peopleBatches } from '@/usecases/intake/people-batches'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { keepArea } from '@/usecases/lists/keep-area'
import { deleteList } from '@/usecases/lists/delete-list'
import { takeInHand } from '@/usecases/lists/take-in-hand'
import { putOnList } from '@/usecases/lists/put-on-list'
import { startRound } from '@/usecases/rounds/start-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { enquiryIndex } from '@/usecases/sources/enquiry-index'
import { openEnquiry } from '@/usecases/sources/open-enquiry'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'

/** What belongs to a list is read through the list: a number alone opens nothing. */

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const AREA = {
  polygons: [
    [
      [
        [1.49, 55.29],
        [1.51, 55.29],
        [1.51, 55.31],
        [1.49, 55.31],
      ],
    ],
  ],
  circles: [],
  streets: [],
}

beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(t.ines, 'people.csv', 'Id,Name,Email\nP1,Ann Able,ann@way.example\nP2,Bob Bell,bob@way.example\n')
  await startEngine(t)
})

const everybody = async () => (await t.app('person').orderBy('id').select('id')).map((p) => p.id as number)
const picks = (set: { id: number; count: number }): Line =>
  ({ id: 'p', verb: 'pick', off: false, side: 'in', set, names: ['Ann Able'], by: 'Somebody Else', reason: 'chosen' }) as Line

async function privateList(name: string): Promise<{ id: number; set: { id: number; count: number } }> {
  const id = await createList(t.ines, name, false, [{ ...start, off: true } as Line])
  const [first] = await everybody()
  const { set } = await pickSet(t.ines, id, [first])
  await saveEdition(t.ines, id, 1, [start, picks(set)])
  return { id, set }
}

const collected = async ({ pieces }: { pieces: AsyncGenerator<string> }): Promise<string> => {
  let text = ''
  for await (const piece of pieces) text += piece
  return text
}

describe('sets of picked records and areas', () => {
  test('are read by whoever made them, and by whoever may see a list they stand in', async () => {
    const { id, set } = await privateList('Hand-picked')
    const own = await createList(t.marek, 'Of Marek', false, [start])
    const asked = (who: Actor) => listAccountFor(who, { list: own, lines: [start, picks(set)], view: { tab: 'on' } })
    await expect(asked(t.marek)).rejects.toThrow(/picks records of a list that does not exist, or is private/)
    await expect(saveEdition(t.marek, own, 1, [start, picks(set)])).rejects.toThrow(/private to somebody else/)
    await expect(foldSets(t.marek, own, [set.id])).rejects.toThrow()

    await shareList(t.ines, id, { team: null, members: [{ id: t.marek.id, role: 'see' }] })
    expect((await asked(t.marek)).figures).toBeDefined()
    // To look at it is not to take it away under a list of one's own.
    await expect(recordsCsv(t.marek, { list: own, lines: [start, picks(set)], view: { tab: 'on' } })).rejects.toThrow(/look at, not use/)
    await shareList(t.ines, id, { team: null, members: [{ id: t.marek.id, role: 'use' }] })
    expect(await collected(await recordsCsv(t.marek, { list: own, lines: [start, picks(set)], view: { tab: 'on' } }))).toMatch(/Ann Able/)
  })

  test('an area that was drawn for one line of a private list opens to nobody else by its number', async () => {
    const { id } = await keepArea(t.ines, { name: 'only here', shape: AREA, shared: false, named: false, replaces: null })
    expect(await areasOf(t.ines, [id])).toHaveLength(1)
    expect(await areasOf(t.marek, [id])).toEqual([])
    const list = await createList(t.ines, 'With an area', false, [
      start,
      { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'area', areas: [{ id, name: 'only here' }] } } as Line,
    ])
    expect(await areasOf(t.marek, [id])).toEqual([])
    await shareList(t.ines, list, { team: 'see', members: [] })
    expect(await areasOf(t.marek, [id])).toHaveLength(1)
  })
})

test('whoever may look at a list sees its rounds, and takes none of their files', async () => {
  const list = await createList(t.ines, 'Released', false, [start])
  await shareList(t.ines, list, { team: 'see', members: [] })
  const round = await startRound(t.ines, list)
  const { basis, figures } = await screenRound(t.ines, round, { tab: 'clear' })
  await releaseRound(t.ines, round, { basis: basis as string, clear: figures.clear })
  const channel = (await t.app('round_file').where({ round_id: round }).first('channel')).channel
  expect((await roundFile(t.ines, round, channel)).bytes.length).toBeGreaterThan(0)
  await expect(roundFile(t.marek, round, channel)).rejects.toThrow(/not use it/)
  await expect(recordsCsv(t.marek, { list, lines: [start], view: { tab: 'on' } })).rejects.toThrow(/not use it/)
})

test('what an enquiry about a private list brought belongs to that list, and does not carry its name about', async () => {
  const { id: list } = await privateList('Secret plan')
  const [first] = await everybody()
  const [{ id: enquiry }] = await t.owner('enquiry').insert(
    {
      kind: 'fill',
      source: 'checker',
      name: 'Gaps of Secret plan',
      asked: JSON.stringify({ kind: 'fill', of: { list, name: 'Secret plan' }, fields: ['phone'] }),
      state: 'done',
      parts: '[]',
      actor_id: t.ines.id,
      created_at: new Date(),
      list_id: list,
    },
    'id',
  )
  await t.owner('enquiry_item').insert({
    enquiry_id: enquiry,
    n: 1,
    key: `person:${first}`,
    data: JSON.stringify({ title: 'Ann Able', person: first, lacks: ['phone'] }),
    state: 'fetched',
    answer: JSON.stringify({ Phone: '0113 496 0001' }),
  })
  const made = await Promise.allSettled([batchFromEnquiry(t.ines, enquiry), batchFromEnquiry(t.ines, enquiry)])
  expect(made.map((m) => m.status).sort()).toEqual(['fulfilled', 'rejected'])
  const batch = (made.find((m) => m.status === 'fulfilled') as PromiseFulfilledResult<number>).value
  expect((await t.app('batch').where({ id: batch }).first('file_name')).file_name).not.toMatch(/Secret/)

  const { runBatch } = await import('@/usecases/intake/run-batch')
  const { startBatch } = await import('@/usecases/intake/start-batch')
  const { batch: read } = await previewBatch(t.ines, batch)
  await startBatch(t.ines, batch, { kind: read.kind, mapping: read.mapping, shaping: {} }, { rules: { name: 'blanks' } } as never)
  await runBatch(batch)

  for (const theirs of [
    () => batchAccount(t.marek, batch),
    () => batchRows(t.marek, batch, { outcome: 'updated' }),
    () => refusedCsv(t.marek, batch, 'updated'),
    () => previewBatch(t.marek, batch),
    () => undoBatch(t.marek, batch),
    () => openEnquiry(t.marek, enquiry),
    () => batchFromEnquiry(t.marek, enquiry),
  ])
    await expect(theirs()).rejects.toThrow(/no such/)
  expect((await batchIndex(t.marek)).some((b) => b.id === batch)).toBe(false)
  expect((await peopleBatches(t.marek)).some((b) => b.id === batch)).toBe(false)
  expect((await enquiryIndex(t.marek)).some((e) => e.id === enquiry)).toBe(false)
  const own = await createList(t.marek, 'By its batch', false, [start])
  await expect(
    listAccountFor(t.marek, { list: own, lines: [{ ...start, batch: { id: batch, name: 'x' } } as Line], view: { tab: 'on' } }),
  ).rejects.toThrow(/batch that does not exist/)
  expect(JSON.stringify(await openPerson(t.marek, first))).not.toMatch(/Secret/)
  expect((await batchIndex(t.ines)).some((b) => b.id === batch)).toBe(true)
})

test('a private list that blocks another is not called by its name', async () => {
  const shared = await createList(t.ines, 'Named by others', false, [start])
  await shareList(t.ines, shared, { team: 'edit', members: [] })
  await createList(t.marek, 'Quiet hopes', false, [
    start,
    {
      id: 'd',
      verb: 'drop',
      off: false,
      criterion: { kind: 'list', list: { id: shared, name: 'Named by others' }, edition: null },
    } as Line,
  ])
  await expect(deleteList(t.ines, shared)).rejects.toThrow(/^(?!.*Quiet hopes).*$/s)
  await expect(shareList(t.ines, shared, { team: null, members: [] })).rejects.toThrow(/^(?!.*Quiet hopes).*$/s)
})

test('who picked, and what a colleague is called, is what the database says', async () => {
  const { id } = await privateList('Signed')
  expect((await latestEdition(id)).lines.find((line) => line.verb === 'pick')).toMatchObject({ by: t.ines.name })
  const mine = await createList(t.ines, 'Of whom', false, [
    start,
    {
      id: 'k',
      verb: 'keep',
      off: false,
      unknownAsYes: false,
      criterion: { kind: 'contacted', how: 'within', days: 30, by: { id: t.marek.id, name: 'The Queen' } },
    } as never,
  ])
  const { lines } = await latestEdition(mine)
  expect(lines[1]).toMatchObject({ criterion: { by: { id: t.marek.id, name: t.marek.name } } })
  await expect(
    saveEdition(t.ines, mine, 1, [
      start,
      { ...lines[1], criterion: { kind: 'contacted', how: 'within', days: 30, by: { id: 'nobody', name: 'Nobody' } } } as Line,
    ]),
  ).rejects.toThrow(/colleague who does not exist/)
})

test('what is behind a tab of a list is picked by whoever may use the list, and a private list is not named where others read', async () => {
  const { id: theirs, set } = await privateList('Hush hush')
  await shareList(t.ines, theirs, { team: null, members: [{ id: t.marek.id, role: 'see' }] })
  const own = await createList(t.marek, 'Seen by all', true, [start])
  await takeInHand(t.marek, own)
  const lines = [
    start,
    picks(set),
    { id: 'd', verb: 'drop', off: false, unknownAsYes: false, criterion: { kind: 'tag', any: ['x'] } } as Line,
  ]
  for (const tab of ['on', 'never', 'out'] as const)
    await expect(putOnList(t.marek, 'in', { list: theirs, lines, view: { tab } })).rejects.toThrow(/not use it/)
  await expect(pickSet(t.marek, own, { lines: [start, picks(set)], view: { tab: 'on' } })).rejects.toThrow(/look at, not use/)
  await shareList(t.ines, theirs, { team: null, members: [{ id: t.marek.id, role: 'use' }] })
  expect((await pickSet(t.marek, own, { lines: [start, picks(set)], view: { tab: 'on' } })).set.count).toBe(2)
  await putOnList(t.marek, 'in', { list: theirs, lines: [{ ...start, off: true } as Line, picks(set)], view: { tab: 'never' } })
  expect(JSON.stringify((await openList(t.marek, own)).draft)).not.toMatch(/Hush/)
  expect((await openList(t.marek, own)).draft?.lines).toHaveLength(2)
})
