import { beforeAll, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { doublesPage } from '@/usecases/directory/possible-duplicates'
import { openPerson } from '@/usecases/directory/open-person'
import { runSearch } from '@/usecases/directory/find-duplicates'
import { mergePeople } from '@/usecases/directory/merge-people'
import { recordContact } from '@/usecases/contact/record-contact'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { corrupted } from '../../../bench/corrupt'
import { startEngine } from '../../support/engine'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { addNote } from '@/usecases/contact/add-note'
import { startSearch } from '@/usecases/directory/start-search'
import { openPair } from '@/usecases/directory/open-pair'
import { decidePair } from '@/usecases/directory/decide-pair'
import { reopenPair } from '@/usecases/directory/reopen-pair'
import { suppress } from '@/usecases/screening/suppress'

let t: TestDatabase
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const cell = (text: string) => `"${text.replaceAll('"', '""')}"`

beforeAll(async () => {
  t = await freshDatabase()
  pinClock(new Date('2026-06-15T09:00:00Z'))
  const { records } = corrupted(1500, 150, 8)
  // By keys alone, and with an outside id each, a row is never taken for another as it comes in.
  const rows = records.map((r, i) =>
    [`C${i}`, r.given, r.family, r.organisation, r.email, '', r.street, r.town, r.postcode].map(cell).join(','),
  )
  await broughtIn(t.ines, 'many.csv', `Id,First name,Last name,Organisation,Email,Phone,Address,Town,Postcode\n${rows.join('\n')}\n`, {
    kind: 'people',
    byKeysAlone: true,
  })
})

const search = async () => {
  const id = await startSearch(t.ines)
  await runSearch(id)
  return id
}

test('a search accounts for everybody, one at a time, and by a coordinator', async () => {
  const people = Number((await t.app('person').where({ state: 'live' }).count('id as n').first())?.n)
  await expect(startSearch(t.tam)).rejects.toThrow(/coordinators and managers/)
  const id = await startSearch(t.ines)
  await expect(startSearch(t.ines)).rejects.toThrow('A search for duplicates is already running.')
  expect((await doublesPage(t.ines)).search).toMatchObject({ state: 'queued', people: null })
  await runSearch(id)
  const page = await doublesPage(t.ines)
  expect(page.search).toMatchObject({ state: 'done', people, by: 'Ines Okafor', done: 1 })
  expect(page.open).toBeGreaterThan(60)
  expect(page.sure).toBeGreaterThan(40)
  expect(page.pairs).toHaveLength(60)
  expect(page.pairs[0].chance).toBeGreaterThan(0.99)
  for (const [i, pair] of page.pairs.entries()) if (i > 0) expect(pair.chance).toBeLessThanOrEqual(page.pairs[i - 1].chance)
  // Again: the same pairs, none twice.
  await runSearch(id)
  await search()
  expect((await doublesPage(t.ines)).open).toBe(page.open)
})

test('two records stand side by side with what agrees; what is decided stays decided', async () => {
  const [first, second] = (await doublesPage(t.ines)).pairs
  const pair = await openPair(t.ines, first.b, first.a)
  expect(pair.a.id).toBe(first.a)
  expect(pair.agrees.map((x) => x.field)).toEqual(['family', 'given', 'organisation', 'address', 'email', 'phone'])
  expect(pair.agrees.find((x) => x.field === 'phone')).toEqual({ field: 'phone', level: null, rank: null })
  await decidePair(t.ines, second.a, second.b, 'different')
  await expect(decidePair(t.ines, second.a, second.b, { same: second.a })).rejects.toThrow(/decided about these two just now: they are two/)
  await expect(decidePair(t.tam, first.a, first.b, 'different')).rejects.toThrow(/coordinators and managers/)
  await expect(decidePair(t.ines, first.a, first.b, { same: second.a })).rejects.toThrow(/Choose which of the two/)
  await decidePair(t.ines, first.a, first.b, { same: first.b })
  expect((await openPerson(t.ines, first.a)).mergedInto?.id).toBe(first.b)
  await search()
  const after = await doublesPage(t.ines)
  expect(after.pairs.some((p) => [p.a, p.b].join() === [second.a, second.b].join())).toBe(false)
  expect(after).toMatchObject({ same: 1, different: 1 })
  await reopenPair(t.ines, second.a, second.b)
  expect((await doublesPage(t.ines)).pairs.some((p) => p.a === second.a && p.b === second.b)).toBe(true)
})

test('a merge is taken back: both stand as they did, but for what was worked on since', async () => {
  const HEADER = 'Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status,Tags'
  await broughtIn(
    t.ines,
    'two.csv',
    `${HEADER}\nK1,Priya Nandakumar,,,priya@example.org,,,,,,garden\nK2,Pria Nandakumar,Site manager,Hallow Home,pria@example.net,0113 496 0009,7 Mill Lane,Thornmouth,PW1 2AB,customer,roof\nK3,P Nandakumar,,,p3@example.org,,,,,,\n`,
    { kind: 'people', byKeysAlone: true },
  )
  const [keep, merged, third] = [await idOf('K1'), await idOf('K2'), await idOf('K3')]
  await recordContact(t.tam, merged, { channel: 'phone', result: 'spoke' })
  await suppress(t.tam, { person: merged }, { reason: 'opt-out', channels: ['post'], word: 'a letter' })
  const engine = await startEngine(t)
  const seen = async () => {
    await engine.model.catchUp()
    return Promise.all(
      [keep, merged, third].map(async (id) => {
        const { view, addresses, suppressions } = await openPerson(t.ines, id)
        return {
          view,
          addresses: addresses.map((a) => [a.channel, a.value]),
          suppressions: suppressions.map((s) => s.id),
          live: engine.model.columns.live.has(engine.model.columns.numberFor(id) as number),
        }
      }),
    )
  }
  await mergePeople(t.ines, merged, third)
  const before = await seen()
  await mergePeople(t.ines, keep, merged)
  const between = await seen()
  expect(between.map((p) => p.live)).toEqual([true, false, false])
  expect(between[0].view).toMatchObject({ role: 'Site manager', last: { channel: 'phone' }, reach: { post: 'closed' } })
  await addNote(t.tam, keep, 'spoke of the roof')
  expect(await takeBackMerge(t.ines, merged)).toEqual({ stays: [] })
  expect(await seen()).toEqual(before)
  expect((await openPerson(t.ines, third)).mergedInto?.id).toBe(merged)
  const titles = (await openPerson(t.ines, keep)).ledger.map((e) => e.title)
  expect(titles).toEqual(
    expect.arrayContaining(['Merge taken back: Pria Nandakumar stands apart again', 'Merged: took in Pria Nandakumar', 'Note']),
  )
  await expect(takeBackMerge(t.ines, merged)).rejects.toThrow(/was not merged/)
  await expect(takeBackMerge(t.tam, third)).rejects.toThrow(/coordinators and managers/)

  // Once more, and this time the role of the kept one changes in the meantime.
  await mergePeople(t.ines, keep, merged)
  await broughtIn(t.ines, 'later.csv', `${HEADER}\nK1,Priya Nandakumar,Head of Estates,,,,,,,,\n`, { kind: 'people' })
  expect(await takeBackMerge(t.ines, merged)).toEqual({ stays: [{ field: 'role', now: 'Head of Estates' }] })
  const [kept, other] = await seen()
  expect([kept.view.role, other.view.role, kept.view.organisation]).toEqual(['Head of Estates', 'Site manager', null])
  // An outside id that was taken over goes back to whose it was.
  await broughtIn(t.ines, 'card.csv', 'Name,Organisation\nQuentin Cardless,Sedge School\n', { kind: 'people' })
  await broughtIn(t.ines, 'listed.csv', 'Id,Name,Organisation,Town\nK9,Q Cardless,Sedge School,Thornmouth\n', {
    kind: 'people',
    byKeysAlone: true,
  })
  const [card, listed] = [(await t.app('person').where({ name: 'Quentin Cardless' }).first('id')).id, await idOf('K9')]
  await mergePeople(t.ines, card, listed)
  expect((await t.app('person').where({ id: card }).first('outside_id')).outside_id).toBe('K9')
  await takeBackMerge(t.ines, listed)
  expect(await t.app('person').whereIn('id', [card, listed]).orderBy('id').select('outside_id', 'state')).toEqual([
    { outside_id: null, state: 'live' },
    { outside_id: 'K9', state: 'live' },
  ])
  // And one whose keeper was merged since has to wait for that.
  await mergePeople(t.ines, keep, merged)
  await mergePeople(t.ines, await idOf('C1'), keep)
  await expect(takeBackMerge(t.ines, merged)).rejects.toThrow(/was merged into another record since. Take that back first/)
})
