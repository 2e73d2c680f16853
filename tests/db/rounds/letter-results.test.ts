import { parse } from 'csv-parse/sync'
import { expect, test } from 'vitest'
import { FIRST_CHOICE } from '@/core/rounds/letter-choice'
import { erasePerson } from '@/usecases/directory/erase-person'
import { pinClock } from '@/runtime/clock'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { closeRound } from '@/usecases/rounds/close-round'
import { letterResults, letterResultsFile, resultLetters } from '@/usecases/rounds/letter-results'
import { recordLetter } from '@/usecases/rounds/record-letter'
import { recordPosted } from '@/usecases/rounds/record-posted'
import { roundResults } from '@/usecases/rounds/round-results'
import { startRound } from '@/usecases/rounds/start-round'
import { suppress } from '@/usecases/screening/suppress'
import { account, givenStreets, NOW, release, street, t, WORD } from './streets'

givenStreets()

const five = { wording: 'name or resident', costHome: 85, costAbroad: 220 } as const
const counts = async (round: number) => (await letterResults(t.ines, round)).results.counts

test('the account of a round of letters closes at every step: released, stopped, posted, and what was heard', async () => {
  const { round, who } = await street(five)
  await expect(letterResults(t.ines, round)).rejects.toThrow(/not released yet/)
  await release(round)
  expect(await counts(round)).toMatchObject({ 'not posted': 5, stopped: 0 })
  await suppress(t.tam, { person: await who(3) }, WORD)
  // Who must not be written to any more counts as stopped before anybody records that the letters were posted.
  expect(await counts(round)).toMatchObject({ 'not posted': 4, stopped: 1 })
  await recordPosted(t.tam, round, '2026-06-15')
  const [first, second, third] = (await resultLetters(t.ines, round, { of: 'posted' })).letters.map(({ number }) => number as number)
  await recordLetter(t.tam, round, first, 'answered')
  await recordLetter(t.tam, round, second, 'came back')
  await recordLetter(t.tam, round, third, 'asked us to stop')
  expect(await counts(round)).toEqual({
    stopped: 1,
    'not posted': 0,
    answered: 1,
    'asked us to stop': 1,
    'nothing heard': 1,
    'came back': 1,
  })
  const { results } = await letterResults(t.ines, round)
  expect(results.cost).toBe(4 * 85)
  // What the round's own page tells is the same.
  expect((await account(round)).stand).toMatchObject({
    stopped: 1,
    toPost: 0,
    posted: 1,
    answered: 1,
    'came back': 1,
    'asked us to stop': 1,
  })
  const answered = await resultLetters(t.ines, round, { of: 'answered' })
  expect(answered).toMatchObject({ total: 1, letters: [{ number: first, outcome: 'answered' }] })
  for (const part of results.parts.to) {
    const { total } = await resultLetters(t.ines, round, { of: 'released', by: 'to', key: part.key })
    expect(total).toBe(Object.values(part.counts).reduce((sum, n) => sum + n, 0))
  }
})

test('what it came to is kept when it is closed, beside what came in later, and stands beside the next round', async () => {
  const { round, list } = await street(five)
  await release(round)
  await recordPosted(t.tam, round, '2026-06-15')
  const [{ number }] = (await resultLetters(t.ines, round, { of: 'posted' })).letters
  await closeRound(t.ines, round)
  expect((await letterResults(t.ines, round)).closing).toEqual({ counts: await counts(round), cost: 5 * 85 })
  await recordLetter(t.tam, round, number as number, 'answered')
  const { closing, results } = await letterResults(t.ines, round)
  expect([closing?.counts.answered, results.counts.answered]).toEqual([0, 1])
  const next = await startRound(t.ines, list)
  await chooseLetters(t.ines, next, { ...FIRST_CHOICE, restDays: null })
  await release(next)
  expect((await letterResults(t.ines, next)).before).toEqual([
    expect.objectContaining({ id: round, number: 1, counts: closing?.counts, cost: 5 * 85 }),
  ])
})

test('whoever asks us to stop after the round was closed does not change what it came to', async () => {
  const { round, who } = await street(five)
  await release(round)
  await closeRound(t.ines, round)
  const before = await letterResults(t.ines, round)
  pinClock(new Date('2026-06-20T09:00:00Z'))
  await suppress(t.tam, { person: await who(3) }, WORD)
  const after = await letterResults(t.ines, round)
  pinClock(NOW)
  expect(before.results.counts).toMatchObject({ 'not posted': 5, stopped: 0 })
  expect(after.results).toEqual(before.results)
  expect((await account(round)).stand).toMatchObject({ stopped: 0, toPost: 5 })
})

test('a letter whose person was erased stays in the account, and is no letter to whoever is there', async () => {
  const { round, who } = await street({ ...five, wording: 'name' })
  await release(round)
  const before = await letterResults(t.ines, round)
  await erasePerson({ ...t.marek, post: 'manager' }, await who(3))
  const { counts: after, parts } = (await letterResults(t.ines, round)).results
  expect(Object.values(after).reduce((sum, n) => sum + n, 0)).toBe(Object.values(before.results.counts).reduce((sum, n) => sum + n, 0))
  const of = (by: 'to' | 'country') => parts[by].find(({ key }) => key === 'erased on request')
  expect([of('to'), of('country')]).toEqual([expect.objectContaining({ counts: expect.anything() }), expect.anything()])
  expect((await resultLetters(t.ines, round, { of: 'released', by: 'country', key: 'erased on request' })).total).toBe(1)
})

test('a round that ends because the next one starts keeps what it came to', async () => {
  const { round, list } = await street(five)
  await release(round)
  await startRound(t.ines, list)
  expect((await letterResults(t.ines, round)).closing?.counts).toMatchObject({ 'not posted': 5 })
})

test('its file has figures alone, for those who may use the list; a round of people is another page', async () => {
  const { round, letter } = await street(five, false)
  await release(round)
  const { name, bytes } = await letterResultsFile(t.ines, round)
  expect(name).toMatch(/-round-1-results\.csv$/)
  const rows = parse(bytes, { bom: true }) as string[][]
  expect(rows[1].slice(0, 5)).toEqual(['All letters', '', '5', '0', '5'])
  expect(bytes.toString()).not.toContain(`Owner${letter}`)
  await expect(letterResultsFile(t.marek, round)).rejects.toThrow(/no such round|does not exist|private/i)
  await expect(resultLetters(t.marek, round, { of: 'released' })).rejects.toThrow(/no such round|does not exist|private/i)
  await expect(roundResults(t.ines, round)).rejects.toThrow(/premises/)
})
