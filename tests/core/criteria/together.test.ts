import { describe, expect, test } from 'vitest'
import type { Verdict } from '@/core/criteria/kind'
import { asks, type Criterion, type Question, questionsOf, thingsNamed, validCriterion } from '@/core/criteria/registry'
import { joinedVerdict } from '@/core/criteria/together'
import { type Line, lineText, validLines } from '@/core/lists/line'
import { namesFrom } from '@/core/lists/naming'
import { territoriesIn, withoutPostcodes, withPostcodes } from '@/core/lists/territories'

const estates: Question = { kind: 'role', any: ['estates'] }
const school: Question = { kind: 'industry', any: ['school'] }
const both = (parts: Question[], every = true): Criterion => ({ kind: 'together', every, parts })
const START = { id: 's', verb: 'start', off: false, batch: null } as const
const keep = (criterion: Criterion): Line => ({ id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion })

// S. C. Kleene, Introduction to Metamathematics (1952), § 64: the strong tables for “and” and “or” with t, f and u (from memory).
describe('three values are joined as in Kleene’s strong tables', () => {
  test.each([
    ['yes', 'yes', 'yes', 'yes'],
    ['yes', 'no', 'no', 'yes'],
    ['yes', 'unknown', 'unknown', 'yes'],
    ['no', 'yes', 'no', 'yes'],
    ['no', 'no', 'no', 'no'],
    ['no', 'unknown', 'no', 'unknown'],
    ['unknown', 'yes', 'unknown', 'yes'],
    ['unknown', 'no', 'no', 'unknown'],
    ['unknown', 'unknown', 'unknown', 'unknown'],
  ] as [Verdict, Verdict, Verdict, Verdict][])('%s, %s: and %s, or %s', (a, b, and, or) => {
    expect(joinedVerdict(true, [a, b])).toBe(and)
    expect(joinedVerdict(false, [a, b])).toBe(or)
  })
})

test('its sentence says how its questions are joined, and a list is named by it', () => {
  expect(lineText(keep(both([estates, school], false)))).toBe('Keep role says estates in any wording or else organisation is a school')
  expect(lineText({ ...keep(both([estates, school])), verb: 'add' } as Line)).toBe(
    'Add everyone whose role says estates in any wording and also organisation is a school',
  )
  expect(namesFrom([START, keep(both([estates, school]))])[0]).toBe('Role says estates in any wording and also organisation is a school')
})

test.each([
  ['one question alone', [estates], 'ask at least two questions'],
  ['more than six', Array(7).fill(estates), 'ask at most 6 questions'],
  ['several questions among them', [estates, both([estates, school])], 'question 2: no such kind of criterion: together'],
  ['a question that is not whole', [estates, { kind: 'industry', any: [] }], 'question 2: name at least one industry'],
  ['nothing', [estates, null], 'a question is missing'],
])('%s is refused', (_, parts, said) => {
  expect(() => validCriterion(both(parts as Question[]))).toThrow(said)
})

test('what a list cannot ask is refused in it, too', () => {
  const start = { ...START, subject: 'premises' as const }
  const roof: Question = { kind: 'roof-area', least: 100, most: null }
  expect(() => validLines([start, keep(both([roof, estates]))])).toThrow('line 2: a list of premises cannot ask “Role wording”')
  expect(validLines([start, keep(both([roof, { kind: 'year-built', least: 1950, most: null }]))])).toHaveLength(2)
})

test('the fields, lists and territories of each of its questions are found', () => {
  const c = both([estates, { kind: 'list', list: { id: 7, name: 'Mills' }, edition: null }, { kind: 'county', any: ['Pellow'] }])
  expect(asks(c)).toEqual(expect.arrayContaining(['role', 'list', 'county']))
  expect(thingsNamed(c)).toEqual([{ what: 'list', edition: null, of: null, id: 7, name: 'Mills' }])
  const lines = [START, keep(both([estates, { kind: 'territory', territories: [{ id: 4, name: 'North' }] }]))] as Line[]
  expect(territoriesIn(lines)).toEqual([4])
  const asked = withPostcodes(lines, new Map([[4, ['PW1', 'PW2']]]))
  expect(questionsOf((asked[1] as Extract<Line, { criterion: Criterion }>).criterion)[1]).toMatchObject({ postcodes: ['PW1', 'PW2'] })
  expect(withoutPostcodes(asked)).toEqual(lines)
})
