import { parse } from 'csv-parse/sync'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { newRule } from '@/core/screening/new-rule'
import type { Rule } from '@/core/screening/rules'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { variantsOfPlan } from '@/usecases/rounds/plan-variants'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { letThrough } from '@/usecases/screening/let-through'
import { suppress } from '@/usecases/screening/suppress'
import { todayPage } from '@/usecases/team/today'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let list: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const id = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  const rows = ['Ada', 'Ben', 'Cyd', 'Dov', 'Eve', 'Fay'].map(
    (given, i) => `S${i},${given} Split,House ${i},${i < 4 ? `0113 496 01${i}0` : ''},${i} Mill Lane,Thornmouth,PW1 2AB`,
  )
  await broughtIn(t.ines, 'split.csv', `Id,Name,Organisation,Phone,Address,Town,Postcode\n${rows.join('\n')}\n`)
  list = await createList(t.ines, 'Split', true, [start])
})

/** A round of the list in which everybody is contacted by one channel. */
async function split(of: object = {}): Promise<number> {
  const round = await startRound(t.ines, list)
  const { rules } = await openRound(t.ines, round)
  const own = rules.map(({ rule }) => rule)
  await setRules(t.ines, round, [...own, { ...newRule('one-channel', own), ...of } as Rule], 'one contact each')
  return round
}
const namesIn = async (round: number, channel: string) =>
  (parse((await roundFile(t.ines, round, channel)).bytes, { columns: true }) as Record<string, string>[])
    .map((row) => row['Given name'])
    .sort()

describe('a round that is split by channel', () => {
  test('puts everybody into one file, says why the others are closed, and is frozen so', async () => {
    const round = await split({ mostPhone: 3, costPhone: 120, costPost: 85 })
    const { figures, page } = await screenRound(t.ines, round, { tab: 'rule', rule: 'one-channel', channel: 'post' })
    expect([figures.clear.phone, figures.clear.post, figures.anyone]).toEqual([3, 3, 6])
    expect(page.people.map(({ because }) => because?.detail)).toEqual(Array(3).fill('Contacted by phone instead'))
    await releaseRound(t.ines, round)
    const [calls, letters] = [await namesIn(round, 'phone'), await namesIn(round, 'post')]
    expect([calls.length, letters.length]).toEqual([3, 3])
    expect([...calls, ...letters].sort()).toEqual(['Ada', 'Ben', 'Cyd', 'Dov', 'Eve', 'Fay'])
    expect(letters).toEqual(expect.arrayContaining(['Eve', 'Fay']))
    expect((await openRound(t.ines, round)).ruleChanges).toMatchObject({ by: 'Ines Okafor', why: 'one contact each' })
    await closeRound(t.ines, round)
  })

  test('turns to the next channel where the preferred one is closed, and two contacts are let through by name', async () => {
    await suppress(t.tam, { person: await id('Ada Split') }, { reason: 'opt-out', channels: ['phone'], word: 'a call' })
    const round = await split({ mostPhone: 2, mostPost: 2 })
    const { figures } = await screenRound(t.ines, round, { tab: 'clear' })
    expect([figures.clear.phone, figures.clear.post, figures.anyone, figures.heldBack]).toEqual([2, 2, 4, 2])
    const { page } = await screenRound(t.ines, round, { tab: 'held' })
    expect(page.people.map(({ because }) => because?.detail)).toEqual(
      Array(2).fill('No contacts are left in the weeks and limits of the plan'),
    )
    await letThrough(t.ines, round, page.people[0].id, 'post', 'she asked for the letter')
    await releaseRound(t.ines, round)
    expect((await namesIn(round, 'post')).length).toBe(3)
    expect(await namesIn(round, 'phone')).not.toContain('Ada')
  })

  test('spreads its contacts over weeks: the first of the list first, in the files and on the first page', async () => {
    const round = await split({ callers: 1, callsEach: 2, weeks: 2, weekPost: 1, second: 'post' })
    const { figures, page } = await screenRound(t.ines, round, { tab: 'held' })
    // Two calls and a letter a week for two weeks: who can be called is, as far as it goes, and the letters go to the others.
    expect([figures.clear.phone, figures.clear.post]).toEqual([3, 2])
    expect(page.people.map(({ because }) => because?.detail)).toContain('No contacts are left in the weeks and limits of the plan')
    const variants = await variantsOfPlan(t.tam, round)
    expect(variants.map(({ title, people }) => [title, people])).toEqual([
      ['', 5],
      ['One more caller', 5],
      ['One caller fewer', 2],
      ['One more week', 6],
      ['A tenth more letters a week', 6],
    ])
    await releaseRound(t.ines, round)
    const calls = parse((await roundFile(t.ines, round, 'phone')).bytes, { columns: true, bom: true }) as Record<string, string>[]
    expect(calls.map((row) => row['Planned week'])).toEqual(['from 15 Jun 2026', 'from 15 Jun 2026', 'from 22 Jun 2026'])
    expect((await openRound(t.ines, round)).weeks).toEqual([
      { week: 1, from: '2026-06-15', by: { phone: { planned: 2, open: 2 }, post: { planned: 1, open: 1 } } },
      { week: 2, from: '2026-06-22', by: { phone: { planned: 1, open: 1 }, post: { planned: 1, open: 1 } } },
    ])
    const move = async () => (await todayPage(t.ines)).moves.find(({ key }) => key === `round ${round}`)
    expect(await move()).toMatchObject({ n: 3, text: expect.stringMatching(/planned up to today$/) })
    for (const person of await t.app('contact_to_come').where({ round_id: round, week: 1 }).select('person_id', 'channel'))
      await recordContact(t.tam, person.person_id, { channel: person.channel, result: person.channel === 'post' ? 'sent' : 'no answer' })
    // What is planned for next week is nobody's move yet.
    expect(await move()).toBeUndefined()
    pinClock(new Date('2026-06-22T09:00:00Z'))
    expect(await move()).toMatchObject({ n: 2 })
    expect((await openRound(t.ines, round)).weeks[0].by).toEqual({ phone: { planned: 2, open: 0 }, post: { planned: 1, open: 0 } })
    expect(await variantsOfPlan(t.ines, round)).toEqual([])
    pinClock(new Date('2026-06-15T09:00:00Z'))
    await closeRound(t.ines, round)
  })

  test('keeps to a number of people wanted, and says who waits for it', async () => {
    const round = await split({ wanted: 1, who: 'longest in the directory' })
    const { figures } = await screenRound(t.ines, round, { tab: 'clear' })
    expect(figures.anyone).toBe(1)
    const { page } = await screenRound(t.ines, round, { tab: 'rule', rule: 'one-channel', channel: 'post' })
    expect(page.people.map(({ because }) => because?.detail)).toContain('The plan has as many people as are wanted')
  })
})
