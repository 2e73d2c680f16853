import { describe, expect, test } from 'vitest'
import { firstPolicy, newRuleId, type Rule } from '@/core/screening/rules'
import type { Line } from '@/core/lists/line'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'
import { createList, startLine } from '@/usecases/lists/create-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { saveEdition } from '@/usecases/lists/save-edition'
import { runBatch } from '@/usecases/intake/run-batch'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { prepareCheck } from '@/usecases/sources/check-emails'
import { dearestPrices } from '@/usecases/sources/source-prices'
import { prepareFill } from '@/usecases/sources/fill-gaps'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { givenCounty, began, t, view } from './county'

givenCounty()

const keep = (id: string, more: object = {}): Line => ({
  id,
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: ['estates', 'site', 'manager', 'owner', 'director'] },
  ...more,
})

describe('those whom a line of a list does not know what to make of', () => {
  const lines = [startLine(), keep('of-role')]
  let list: number
  const account = async () => (await listAccountFor(t.ines, { lines, view: { tab: 'unknown' } })).figures

  test('are asked about alone, and what came back is told as a change of the balance', async () => {
    list = await createList(t.ines, 'People of estates', true, lines)
    const before = await account()
    expect(before.lines[1].unknown).toBeGreaterThan(15)
    const id = await prepareFill(t.ines, { list, name: '', line: 'of-role' }, ['role'])
    const ready = await view(id)
    expect(ready).toMatchObject({ name: 'Gaps of People of estates, line 2', total: before.lines[1].unknown })
    const prices = await dearestPrices(t.ines)
    expect(ready.most).toBe(ready.counts.open * prices.fill)
    const then = { aside: before.lines[1].unknown, on: before.totals.balance }
    expect(ready.balance).toMatchObject({ then, now: then, at: `/lists/${list}` })
    const done = await began(id)
    expect(done.counts.verified).toBeGreaterThan(3)
    const batch = await batchFromEnquiry(t.ines, id)
    const preview = await previewBatch(t.ines, batch)
    await startBatch(t.ines, batch, preview.batch, preview.batch.options)
    await runBatch(batch)
    const after = await account()
    expect(after.lines[1].unknown).toBe(before.lines[1].unknown - (done.counts.verified + done.counts.uncertain))
    expect((await view(id)).balance).toMatchObject({
      then,
      now: { aside: after.lines[1].unknown, on: after.totals.balance },
    })
    expect(after.totals.balance).toBeGreaterThan(before.totals.balance)
  })

  test('of a drop are those who stayed; without the line, or for others than its list’s, nothing is asked', async () => {
    const drop = { ...keep('not-them'), verb: 'drop' } as Line
    await saveEdition(t.ines, list, 1, [startLine(), drop], { why: 'the others' })
    await expect(prepareFill(t.ines, { list, name: '', line: 'of-role' }, ['role'])).rejects.toThrow(/no such line, as it was last saved/)
    const id = await prepareFill(t.ines, { list, name: '', line: 'not-them' }, ['role'])
    const stayed = (await listAccountFor(t.ines, { lines: [startLine(), drop], view: { tab: 'on' } })).figures.lines[1].stayedUnknown
    expect((await view(id)).total).toBe(stayed)
    // Once the line is gone there is no balance to tell, and the enquiry is there all the same.
    await saveEdition(t.ines, list, 2, [startLine()], { why: 'everybody' })
    expect((await view(id)).balance).toBeNull()
    await expect(prepareFill(t.tam, { list, name: '', line: 'not-them' }, ['role'])).rejects.toThrow(/coordinators and managers/)
  })
})

test('emails that a rule about their quality closes are checked from its line, and the round tells what came of it', async () => {
  const list = await createList(t.ines, 'Whose emails', true, [startLine()])
  const round = await startRound(t.ines, list)
  const quality = {
    kind: 'address-quality',
    off: false,
    emails: 'verified',
    phones: 'any that is not wrong',
    unknown: 'is closed',
  } as const
  const rules = firstPolicy() as Rule[]
  const rule = newRuleId('address-quality', rules)
  await setRules(t.ines, round, [...rules, { id: rule, ...quality }])
  const screened = async () => {
    const { figures, page } = await screenRound(t.ines, round, { tab: 'rule', rule, channel: 'email' })
    return { aside: page.total, on: figures.clear.email }
  }
  const then = await screened()
  expect(then.on).toBe(0)
  const id = await prepareCheck(t.ines, { round, name: '', rule })
  expect(await view(id)).toMatchObject({
    name: expect.stringMatching(/^E-mail addresses of Whose emails, round 1, Address quality/),
    total: then.aside,
    balance: { then, now: then, at: `/rounds/${round}` },
  })
  const { counts, balance } = await began(id)
  expect(counts.verified).toBeGreaterThan(50)
  const now = await screened()
  expect(balance).toMatchObject({ then, now })
  // A bad one cannot be used at all any more, which another line says.
  expect(now).toEqual({ aside: then.aside - counts.verified - counts.bad, on: counts.verified })
  await expect(prepareCheck(t.ines, { round, name: '', rule: 'no-such-rule' })).rejects.toThrow(/does not go by this rule any more/)
  await expect(prepareCheck(t.tam, { round, name: '', rule })).rejects.toThrow(/coordinators and managers/)
})
