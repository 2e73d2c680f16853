import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import type { FitPage } from '@/core/views/fit-views'
import { tellChanges } from '@/usecases/changes/tell-changes'
import { createList } from '@/usecases/lists/create-list'
import { openList } from '@/usecases/lists/open-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { beginFitCheck } from '@/usecases/rounds/begin-fit-check'
import { closeRound } from '@/usecases/rounds/close-round'
import { fitPage } from '@/usecases/rounds/fit-page'
import { judgeFit } from '@/usecases/rounds/judge-fit'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const PLAN = { kind: 'fixed', wanted: 0.9, sure: 95, size: 12 }
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  const rows = Array.from({ length: 16 }, (_, i) => `F${i},Person Sample${'abcdefghijklmnop'[i]},f${i}@sample.example`)
  await broughtIn(t.ines, 'sample.csv', `Id,Name,Email\n${rows.join('\n')}\n`)
})

let made = 0
async function round(): Promise<{ list: number; round: number }> {
  const list = await createList(t.ines, `Sampled ${++made}`, true, [start])
  return { list, round: await startRound(t.ines, list) }
}
const page = (id: number) => fitPage(t.ines, id, false)
const check = (of: FitPage) => of.check as NonNullable<FitPage['check']>

test('a sample is spread over files as well: each part is told and looked at in proportion', async () => {
  const { round: id } = await round()
  await broughtIn(
    t.ines,
    'late.csv',
    `Id,Name,Email\n${['Una', 'Vic', 'Wyn', 'Xan'].map((own, i) => `L${i},${own} Late,l${i}@late.example`).join('\n')}\n`,
  )
  await expect(beginFitCheck(t.ines, id, { ...PLAN, by: 'colour' })).rejects.toThrow(/no such way/)
  await beginFitCheck(t.ines, id, { ...PLAN, size: 10, by: 'batch' })
  const told = check(await page(id)).strata.map(({ detail, size }) => [detail, size])
  expect(told).toEqual(
    expect.arrayContaining([
      ['from sample.csv', expect.any(Number)],
      ['from late.csv', 4],
    ]),
  )
  expect(told.reduce((sum, [, size]) => sum + (size as number), 0)).toBe((await screenRound(t.ines, id, { tab: 'clear' })).figures.anyone)
  expect(check(await page(id)).plan).toMatchObject({ by: 'batch' })
  await beginFitCheck(t.ines, id, { ...PLAN, size: 10, by: 'age' })
  expect(check(await page(id)).strata.map(({ detail }) => detail)).toContain('nothing about them changed for a year')
  // One after the other looks at everybody alike.
  await beginFitCheck(t.ines, id, { kind: 'sequential', wanted: 0.9, sure: 95, size: 20, poor: 0.6, by: 'batch' })
  expect(check(await page(id)).strata).toHaveLength(1)
})

test('a sample is spread over the ranks of a limit: the first third, the second and the last', async () => {
  const { list, round: id } = await round()
  await expect(beginFitCheck(t.ines, id, { ...PLAN, by: 'rank' })).rejects.toThrow(/has no limit/)
  const { lines, edition } = await openList(t.ines, list)
  const limit = (most: number): Line => ({ id: 'lim', verb: 'limit', off: false, most, per: 'all', rank: 'at random', seed: 5 })
  await saveEdition(t.ines, list, edition, [...lines, limit(9)])
  await beginFitCheck(t.ines, id, { ...PLAN, size: 6, by: 'rank' })
  const { strata, sample } = check(await page(id))
  expect(strata.map(({ detail, size }) => [detail, size])).toEqual([
    ['the first third by the limit', 3],
    ['the second third by the limit', 3],
    ['the last third by the limit', 3],
  ])
  expect(sample).toBe(6)
  // Those of the first third are who a limit of three would keep.
  const three = await createList(t.ines, 'The first three', true, [start, limit(3)])
  const kept = (await screenRound(t.ines, await startRound(t.ines, three), { tab: 'clear' })).page.people.map((own) => own.id)
  const drawn = await t
    .app('fit_sample as f')
    .join('fit_check as c', 'c.id', 'f.check_id')
    .where({ 'c.round_id': id, 'f.stratum': 0 })
    .select('f.person_id')
  expect(drawn.length).toBeGreaterThan(0)
  expect(drawn.every((row) => kept.includes(row.person_id))).toBe(true)
})

test('a verdict on somebody known to us tells where else they stand, as far as whoever judges may see it', async () => {
  const { list, round: id } = await round()
  const checkId = await beginFitCheck(t.ines, id, PLAN)
  const [{ person }, { person: another }] = check(await page(id)).cards
  const others = await createList(t.ines, 'Others who know', true, [start])
  const hidden = await createList(t.marek, 'Hidden from Ines', false, [start])
  const [theirs, unseen] = [await startRound(t.ines, others), await startRound(t.marek, hidden)]
  await releaseRound(t.ines, theirs)
  await tellChanges()
  const said = await judgeFit(t.ines, checkId, person, { verdict: 'does not', reason: 'known to us', relation: 'customer' })
  expect(said?.lists.map(({ id: own }) => own)).toContain(others)
  expect(said?.lists.map(({ id: own }) => own)).not.toContain(hidden)
  expect(said?.lists.map(({ id: own }) => own)).not.toContain(list)
  expect(said?.rounds).toEqual([{ id: theirs, called: '1', list: 'Others who know' }])
  expect(await judgeFit(t.ines, checkId, another, { verdict: 'does not', reason: 'role' })).toBeNull()
  await closeRound(t.ines, theirs)
  expect((await judgeFit(t.ines, checkId, person, { verdict: 'does not', reason: 'known to us' }))?.rounds).toEqual([])
  expect(unseen).toBeGreaterThan(0)
})
