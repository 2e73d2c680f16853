import fc from 'fast-check'
import { expect, test } from 'vitest'
import { FIRST_CHOICE } from '@/core/rounds/letter-choice'
import {
  LETTER_PARTS,
  LETTER_STANDS,
  letterCostPerAnswer,
  letterResultsOf,
  POSTED_STANDS,
  postedLetters,
  type ReleasedLetter,
  releasedLetters,
} from '@/core/rounds/letter-results'
import { LETTER_RESULTS_HEADING, letterResultsRows } from '@/core/text/letter-results-csv'

const letter = (of: Partial<ReleasedLetter>): ReleasedLetter => ({
  number: 1,
  stand: 'nothing heard',
  erased: false,
  country: null,
  to: 'whoever is there',
  premises: 1,
  postedOn: '2026-06-15',
  ...of,
})
const PRICED = { ...FIRST_CHOICE, costHome: 85, costAbroad: 220 }

test('three letters at home and two abroad: one answered, one came back, one was not posted', () => {
  const letters = [
    letter({ stand: 'answered', to: 'somebody by name' }),
    letter({ number: 2, premises: 3 }),
    letter({ number: 3, stand: 'not posted', postedOn: null }),
    letter({ number: 4, stand: 'came back', country: 'FR', postedOn: '2026-06-16' }),
    letter({ number: 5, stand: 'stopped', country: 'FR', postedOn: null }),
  ]
  const results = letterResultsOf(letters, PRICED)
  expect(results.counts).toEqual({
    stopped: 1,
    'not posted': 1,
    answered: 1,
    'asked us to stop': 0,
    'nothing heard': 1,
    'came back': 1,
  })
  // Two at 85 and one at 220; what was not posted cost nothing.
  expect(results.cost).toBe(390)
  expect(letterCostPerAnswer(results)).toBe(390)
  expect(results.parts.country.map(({ key, counts, cost }) => [key, releasedLetters(counts), cost])).toEqual([
    ['at home', 3, 170],
    ['France', 2, 220],
  ])
  expect(results.parts.posted.map(({ key }) => key)).toEqual(['2026-06-15', '2026-06-16', 'not posted'])
  expect(results.parts.premises.map(({ key, counts }) => [key, releasedLetters(counts)])).toEqual([
    ['one', 4],
    ['three or more', 1],
  ])
  const rows = letterResultsRows(results)
  expect(rows[0]).toEqual(['All letters', '', '5', '1', '1', '3', '1', '0', '1', '1', '3.90'])
  expect(rows).toContainEqual(['Country', 'France', '2', '1', '0', '1', '0', '0', '0', '1', '2.20'])
  for (const row of rows) expect(row).toHaveLength(LETTER_RESULTS_HEADING.length)
})

test('without a price nothing is said of costs, and abroad costs what home does where only that is known', () => {
  expect(letterResultsOf([letter({})], FIRST_CHOICE).cost).toBeNull()
  expect(letterCostPerAnswer(letterResultsOf([letter({ stand: 'answered' })], FIRST_CHOICE))).toBeNull()
  expect(letterResultsOf([letter({ country: 'FR' })], { ...FIRST_CHOICE, costHome: 85 }).cost).toBe(85)
  expect(letterCostPerAnswer(letterResultsOf([letter({})], PRICED))).toBeNull()
})

test('every letter is in exactly one line and in exactly one of each kind of part, and costs add up', () => {
  const made = fc.record({
    number: fc.nat(),
    stand: fc.constantFrom(...LETTER_STANDS),
    erased: fc.boolean(),
    country: fc.option(fc.constantFrom('FR', 'IE')),
    to: fc.constantFrom('somebody by name' as const, 'an organisation' as const, 'whoever is there' as const),
    premises: fc.integer({ min: 1, max: 4 }),
    day: fc.constantFrom('2026-06-15', '2026-06-20'),
  })
  fc.assert(
    fc.property(fc.array(made), (rows) => {
      const letters = rows.map(({ day, ...own }) => ({
        ...own,
        postedOn: (POSTED_STANDS as readonly string[]).includes(own.stand) ? day : null,
      }))
      const { counts, cost, parts } = letterResultsOf(letters, PRICED)
      expect(releasedLetters(counts)).toBe(letters.length)
      expect(postedLetters(counts) + counts.stopped + counts['not posted']).toBe(letters.length)
      for (const by of LETTER_PARTS) {
        for (const stand of LETTER_STANDS) expect(parts[by].reduce((sum, own) => sum + own.counts[stand], 0)).toBe(counts[stand])
        expect(parts[by].reduce((sum, own) => sum + (own.cost ?? 0), 0)).toBe(cost ?? 0)
      }
    }),
  )
})
