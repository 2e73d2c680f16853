import { describe, expect, test } from 'vitest'
import { prepareCheck } from '@/usecases/sources/check-emails'
import { openPerson } from '@/usecases/directory/open-person'
import { startFind } from '@/usecases/sources/find-in-source'
import { runBatch } from '@/usecases/intake/run-batch'
import { runEnquiry } from '@/usecases/sources/run-enquiry'
import { broughtIn } from '../../support/database'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { enquiryIndex } from '@/usecases/sources/enquiry-index'
import { enquiryItems } from '@/usecases/sources/enquiry-items'
import { beginEnquiry } from '@/usecases/sources/begin-enquiry'
import { stopEnquiry } from '@/usecases/sources/stop-enquiry'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'
import { splitFind } from '@/usecases/sources/split-find'
import { chooseChannels } from '@/usecases/sources/choose-channels'
import { givenCounty, began, calmAgain, standins, startAgain, t, view } from './county'

givenCounty()

const found = async (words: string, more: { subKinds?: string[]; districts?: string[] } = {}): Promise<number> => {
  const id = await startFind(t.ines, 'directory', { words, subKinds: [], districts: [], ...more })
  await runEnquiry(id)
  return id
}
const titles = async (id: number) => (await t.app('enquiry_item').where({ enquiry_id: id }).orderBy('key').select('key')).map((i) => i.key)

describe('finding in a source', () => {
  test('words in any order, singular or plural, find the same; sub-kinds and districts narrow it', async () => {
    const [a, b] = [await found('tree nurseries Kettlehythe'), await found('kettlehythe NURSERY trees')]
    expect((await view(a)).total).toBeGreaterThan(2)
    expect(await titles(a)).toEqual(await titles(b))
    const all = await view(await found('nursery Kettlehythe'))
    const one = await view(await found('nursery', { districts: ['Kettlehythe'], subKinds: ['tree nursery'] }))
    expect(one.total).toBeLessThanOrEqual(all.total)
    expect((await enquiryItems(t.ines, one.id, 'open')).items.every((i) => /tree nursery, Kettlehythe/.test(i.detail))).toBe(true)
    expect(await view(await found('zeppelin'))).toMatchObject({ state: 'ready', total: 0, cost: 0 })
    await expect(startFind(t.tam, 'directory', { words: 'x', subKinds: [], districts: [] })).rejects.toThrow(/coordinators and managers/)
    await expect(startFind(t.ines, 'checker' as never, { words: 'x', subKinds: [], districts: [] })).rejects.toThrow('no such source')
  })

  test('more than the source gives out is told, and split it comes whole and without doubles', async () => {
    const id = await found('clinic')
    const first = await view(id)
    expect(first).toMatchObject({ state: 'ready', total: 120, narrowing: { most: 120 } })
    const whole = first.narrowing?.total as number
    expect(whole).toBeGreaterThan(120)
    await splitFind(t.ines, id, 'district')
    await runEnquiry(id)
    const split = await view(id)
    expect(split).toMatchObject({ state: 'ready', total: whole, asked: { split: 'district' } })
    expect(split.parts.reduce((sum, p) => sum + (p.total ?? 0), 0)).toBe(whole)
    expect(new Set(await titles(id)).size).toBe(whole)
    await expect(splitFind(t.ines, id, 'district')).rejects.toThrow('split by district already')
  })

  test('what we have is not paid for; what has no wanted channel is left out and taken back', async () => {
    const id = await found('school Thornmouth infant')
    const before = await view(id)
    expect(before.counts.known).toBeGreaterThan(0)
    expect(before.counts.known + before.counts.open).toBe(before.total)
    expect((await enquiryItems(t.ines, id, 'known')).items[0].why).toMatch(/^in the directory with (one person|\d+ people)$/)
    await chooseChannels(t.ines, id, ['email'])
    const left = await view(id)
    expect(left.counts['left out']).toBeGreaterThan(0)
    expect((await enquiryItems(t.ines, id, 'open')).items.every((i) => i.has.includes('email'))).toBe(true)
    expect(left.most).toBe(left.counts.open * 4)
    await chooseChannels(t.ines, id, [])
    expect((await view(id)).counts).toEqual(before.counts)
  })

  test('a cap is honoured, what came is a batch like any other, and is never paid for again', async () => {
    const id = await found('storage')
    const open = (await view(id)).counts.open
    await expect(beginEnquiry(t.ines, id, 3)).rejects.toThrow('does not allow for one more record')
    await expect(beginEnquiry(t.ines, id, -1)).rejects.toThrow('not an amount')
    const capped = await began(id, 41)
    expect(capped).toMatchObject({
      state: 'stopped',
      cost: 40,
      note: 'The most it may cost, £0.41, allows for no more. What came is kept.',
      counts: { fetched: 10, open: open - 10 },
    })
    const done = await began(id, null)
    expect(done).toMatchObject({ state: 'done', cost: open * 4, counts: { fetched: open, open: 0 } })
    const batch = await batchFromEnquiry(t.ines, id)
    await expect(batchFromEnquiry(t.ines, id)).rejects.toThrow('a batch already')
    const preview = await previewBatch(t.ines, batch)
    expect(preview.lacks).toBeNull()
    expect(preview.batch.mapping).toEqual(expect.arrayContaining(['name', 'organisation', 'street', 'postcode']))
    await startBatch(t.ines, batch, preview.batch, {})
    await runBatch(batch)
    const { counts } = await batchAccount(t.ines, batch)
    expect(counts.new + counts.same + counts.updated + counts['in doubt']).toBe(open)
    expect(await view(await found('storage'))).toMatchObject({ counts: { open: 0 } })
    expect((await enquiryIndex(t.tam)).find((e) => e.id === id)).toMatchObject({ cost: open * 4, state: 'done', by: 'Ines Okafor' })
  })
})

describe('a source that does not do what it should', () => {
  test('dead half-way, what came is kept; it goes on from there, and nothing comes or costs twice', async () => {
    const id = await found('creamery')
    const { counts } = await view(id)
    expect(counts.open).toBeGreaterThan(60)
    await beginEnquiry(t.ines, id, null)
    // It takes the prices and the first fifty, then it is gone.
    const until = standins.asked() + 1
    const watch = setInterval(() => standins.asked() >= until && standins.switched(false), 0)
    await runEnquiry(id)
    clearInterval(watch)
    const broken = await view(id)
    expect(broken).toMatchObject({
      state: 'failed',
      note: expect.stringMatching(/^The source did not answer after 4 tries: it cannot be reached\. What came is kept/),
    })
    expect(broken.counts.fetched).toBe(broken.cost / 4)
    standins.switched(true)
    const done = await began(id)
    expect(done).toMatchObject({ state: 'done', counts: { open: 0, fetched: counts.open }, cost: counts.open * 4 })
  })

  test('a search that broke off goes on where it was', async () => {
    const id = await startFind(t.ines, 'directory', { words: 'housing', subKinds: [], districts: [] })
    standins.switched(false)
    await runEnquiry(id)
    expect(await view(id)).toMatchObject({ state: 'failed', total: 0 })
    standins.switched(true)
    await began(id)
    expect(await view(id)).toMatchObject({ state: 'ready', note: null })
    expect((await view(id)).total).toBeGreaterThan(50)
    await expect(prepareCheck(t.ines, { batch: 1, name: 'x' })).resolves.toBeGreaterThan(0)
    standins.switched(false)
    await expect(prepareCheck(t.ines, { batch: 1, name: 'x' })).rejects.toThrow(/did not answer.*Nothing was begun/)
    standins.switched(true)
  })

  test('one that is busy, slow and now and then broken is asked again until all has come', async () => {
    await startAgain({ latency: [1, 5], perSecond: 40, failsOneIn: 4 }, [5, 10, 20, 40, 80, 160])
    const id = await found('swimming')
    expect((await began(id)).state).toBe('done')
    await calmAgain()
  })

  test('stopped by hand it keeps what came', async () => {
    const id = await found('delicatessen')
    await beginEnquiry(t.ines, id, null)
    await expect(beginEnquiry(t.ines, id, null)).rejects.toThrow('running already')
    await stopEnquiry(t.ines, id)
    await runEnquiry(id)
    expect(await view(id)).toMatchObject({ state: 'stopped', counts: { fetched: 0 } })
    await expect(stopEnquiry(t.ines, id)).rejects.toThrow('is not running')
    expect((await began(id)).state).toBe('done')
  })
})

test('a row that names a record of ours goes to it, or to the one it was merged into; a number we do not have is refused', async () => {
  const [a, b] = (await t.app('person').where({ state: 'live' }).orderBy('id').limit(2).select('id')).map((p) => p.id)
  const { mergePeople } = await import('@/usecases/directory/merge-people')
  await mergePeople(t.ines, a, b)
  const id = await broughtIn(
    t.ines,
    'back.csv',
    `Record number,Name,Tags\n${b},Whoever Else,round trip\n999999999,Nobody Known,\nx1,Bad Number,\n`,
    { rules: { name: 'blanks' } },
  )
  expect((await batchAccount(t.ines, id)).counts).toMatchObject({ updated: 1, refused: 2 })
  expect((await batchRows(t.ines, id, { outcome: 'updated' })).rows[0].person?.id).toBe(a)
  expect((await batchRows(t.ines, id, { outcome: 'refused' })).rows.map((r) => r.reason)).toEqual([
    'there is nobody with the record number 999999999 in the directory',
    '“x1” is not a record number of ours',
  ])
})

test('contacts and suppressions may name a record of ours, too', async () => {
  const { id } = await t.app('person').where({ state: 'live' }).orderBy('id', 'desc').first('id')
  const contacts = await broughtIn(
    t.ines,
    'calls.csv',
    `Record number,Date,Channel,Result\n${id},2026-06-01,phone,spoke\n999999999,2026-06-01,phone,spoke\n`,
  )
  expect((await batchAccount(t.ines, contacts)).counts).toMatchObject({ new: 1, refused: 1 })
  expect((await batchRows(t.ines, contacts, { outcome: 'new' })).rows[0].person?.id).toBe(id)
  const stops = await broughtIn(t.ines, 'stops.csv', `Record number,Reason\n${id},opt-out\n999999999,opt-out\n`, { kind: 'suppressions' })
  expect((await batchAccount(t.ines, stops)).counts).toMatchObject({ new: 1, refused: 1 })
  expect((await openPerson(t.ines, id)).suppressions[0]).toMatchObject({ reason: 'opt-out', scope: 'person' })
})
