import { expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList, startLine } from '@/usecases/lists/create-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { saveEdition } from '@/usecases/lists/save-edition'
import { batchAccount } from '@/usecases/intake/batch-account'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { runBatch } from '@/usecases/intake/run-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'
import { chooseChannels } from '@/usecases/sources/choose-channels'
import { enquiryItems } from '@/usecases/sources/enquiry-items'
import { startFind } from '@/usecases/sources/find-in-source'
import { runEnquiry } from '@/usecases/sources/run-enquiry'
import { buyForList, triedOnList } from '@/usecases/sources/try-on-list'
import { broughtIn } from '../../support/database'
import { givenCounty, began, t, view } from './county'

givenCounty()

const line = (id: string, verb: 'keep' | 'drop', criterion: object): Line =>
  ({ id, verb, off: false, unknownAsYes: false, criterion }) as Line
const found = async (words: string) => {
  const id = await startFind(t.ines, 'directory', { words, subKinds: [], districts: [] })
  await runEnquiry(id)
  return id
}
const inTown = line('town', 'keep', { kind: 'place', towns: ['Kettlehythe'], postcodes: [] })
const ofRole = line('role', 'drop', { kind: 'role', any: ['caretaker'] })

test('what was found is held against a list before it is bought; those who would be on are bought with one press, and come onto it', async () => {
  const id = await found('nursery')
  const open = (await view(id)).counts.open
  const list = await createList(t.ines, 'Of Kettlehythe', true, [startLine(), inTown])
  const tried = await triedOnList(t.ines, id, list)
  expect(tried).toMatchObject({ list: { name: 'Of Kettlehythe', policy: 'Team policy' }, tried: open, limits: [] })
  expect(tried.lines).toMatchObject([{ number: 2, open: 0 }])
  expect(tried.on + tried.lines[0].out).toBe(open)
  expect(Math.min(tried.on, tried.lines[0].out)).toBeGreaterThan(1)
  expect(new Map(tried.said).size).toBe(open)
  // Each says the same as the account, and as what its own place says.
  const items: Awaited<ReturnType<typeof enquiryItems>>['items'] = []
  for (let at = 0; at < open; at = items.length) items.push(...(await enquiryItems(t.ines, id, 'open', at)).items)
  for (const item of items)
    expect(new Map(tried.said).get(item.n)).toBe(
      item.detail.includes('Kettlehythe') ? 'would be on Of Kettlehythe' : 'left out by line 2 of Of Kettlehythe',
    )
  const with_ = (channel: string) => items.filter((item) => item.detail.includes('Kettlehythe') && item.has.includes(channel)).length
  expect(tried.clear).toMatchObject({ email: with_('email'), post: with_('post'), direct: 0 })

  await expect(buyForList(t.ines, id, list, { open: false, most: tried.on - 1 })).rejects.toThrow(/Nothing was bought/)
  expect((await view(id)).counts.open).toBe(open)
  await buyForList(t.ines, id, list, { open: false, most: tried.on })
  await expect(buyForList(t.ines, id, list, { open: false, most: tried.on })).rejects.toThrow('running already')
  await runEnquiry(id)
  const done = await view(id)
  expect(done).toMatchObject({ state: 'done', cost: tried.on * 4, counts: { fetched: tried.on, 'left out': open - tried.on, open: 0 } })
  const batch = await batchFromEnquiry(t.ines, id)
  const preview = await previewBatch(t.ines, batch)
  const before = (await listAccountFor(t.ines, { lines: [startLine(), inTown], view: { tab: 'on' } })).figures.totals.balance
  await startBatch(t.ines, batch, preview.batch, preview.batch.options)
  await runBatch(batch)
  const after = (await listAccountFor(t.ines, { lines: [startLine(), inTown], view: { tab: 'on' } })).figures.totals.balance
  expect((await batchAccount(t.ines, batch)).counts.new).toBe(tried.on)
  expect(after - before).toBe(tried.on)
  await expect(buyForList(t.ines, id, list, { open: true, most: 1000 })).rejects.toThrow('a batch already')
})

test('what a line asks that only comes with what is bought is told so, and bought only where asked; what it left out can be taken back', async () => {
  const id = await found('brewery')
  const open = (await view(id)).counts.open
  const list = await createList(t.ines, 'No caretakers', true, [startLine(), ofRole])
  expect(await triedOnList(t.ines, id, list)).toMatchObject({ on: 0, lines: [{ number: 2, out: 0, open }], clear: { email: 0 } })
  await expect(buyForList(t.ines, id, list, { open: false, most: 1000 })).rejects.toThrow('None of the results would be on this list')
  const other = await createList(t.ines, 'Elsewhere', true, [startLine(), inTown])
  const tried = await triedOnList(t.ines, id, other)
  await buyForList(t.ines, id, other, { open: false, most: tried.on })
  await runEnquiry(id)
  expect((await view(id)).counts['left out']).toBe(open - tried.on)
  // Another choice of channels takes back nothing that a list left out.
  await chooseChannels(t.ines, id, [])
  expect((await view(id)).counts).toMatchObject({ 'left out': open - tried.on, open: 0 })
  // Another list takes them in.
  const rest = await triedOnList(t.ines, id, list)
  expect(rest).toMatchObject({ tried: open - tried.on, lines: [{ open: open - tried.on }] })
  await buyForList(t.ines, id, list, { open: true, most: open - tried.on })
  await runEnquiry(id)
  expect((await view(id)).counts).toMatchObject({ fetched: open, 'left out': 0, open: 0 })
})

test('an organisation that is suppressed by name is clear by no channel, although nobody of it is in the directory', async () => {
  const id = await found('clinic')
  const list = await createList(t.ines, 'Anybody', true, [startLine()])
  const before = await triedOnList(t.ines, id, list)
  const [item] = (await enquiryItems(t.ines, id, 'open')).items.filter((own) => own.has.includes('email') && own.has.includes('post'))
  await broughtIn(t.ines, 'stop.csv', `Organisation,Reason\n"${item.title}",opt-out\n`, { kind: 'suppressions' })
  const after = await triedOnList(t.ines, id, list)
  expect(after.on).toBe(before.on)
  expect(after.clear?.email).toBe((before.clear?.email ?? 0) - 1)
  expect(after.clear?.post).toBe((before.clear?.post ?? 0) - 1)
})

test('only what a search found, on lists of what its source has, by whoever may use them', async () => {
  const id = await found('dairy')
  const buildings = await createList(t.ines, 'Buildings', true, [startLine('premises')])
  await expect(triedOnList(t.ines, id, buildings)).rejects.toThrow('no records of the kind this list holds')
  const own = await createList(t.marek, 'Marek’s own', false, [startLine()])
  await expect(triedOnList(t.ines, id, own)).rejects.toThrow(/no such list/)
  await expect(triedOnList(t.tam, id, own)).rejects.toThrow(/coordinators and managers/)
  const list = await createList(t.ines, 'Changing', true, [startLine()])
  const { on } = await triedOnList(t.ines, id, list)
  await saveEdition(t.ines, list, 1, [startLine(), inTown], {})
  await buyForList(t.ines, id, list, { open: false, most: on }).catch(() => undefined)
  // A search that broke off is gone on with before anything is bought: what it has not found yet was not looked at.
  const half = await found('bakery')
  await t
    .owner('enquiry')
    .where({ id: half })
    .update({ state: 'failed', parts: t.owner.raw(`jsonb_set(parts, '{0,through}', 'false')`) })
  await expect(buyForList(t.ines, half, list, { open: true, most: 1000 })).rejects.toThrow('The search is not complete')
  expect((await view(half)).counts.fetched).toBe(0)
  // The list as it is now decides, not the one that was looked at.
  expect((await began(id).catch(() => view(id))).counts.fetched).toBeLessThan(on)
})
