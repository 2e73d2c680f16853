import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Answers } from '@/core/criteria/registry'
import { listAccount } from '@/core/lists/account'
import { type Line, lineText } from '@/core/lists/line'
import { type NewLine, resizing } from '@/core/lists/resizing'
import { farFrom, type Wanted } from '@/core/lists/wanted'
import type { PersonRecord } from '@/core/records/person-record'
import { ASOF, blank, columnsOf, DAY, directory as people } from '../../support/people'
import { momentFor, plainPage } from '../../support/lines'

const START: Line = { id: 'start', verb: 'start', off: false, batch: null }

/** What is proposed for a page, and what the list would really hold with each proposal as its last line. */
function proposed(records: PersonRecord[], lines: Line[], wanted: Wanted) {
  const columns = columnsOf(records)
  const { directory } = columns
  const answers = new Answers(directory)
  const moment = momentFor(columns)
  const account = (more: NewLine[]) =>
    listAccount([...lines, ...more.map((line) => ({ ...line, id: 'new' }) as Line)], columns, answers, moment)
  const found = resizing(wanted, lines, account([]).on, { directory, answers, moment }, (line) => account([line]).on.count())
  return { found, now: account([]).on.count(), really: found.map(({ line }) => account([line]).on.count()) }
}

/** A hundred people: the first sixty in Thornmouth, the next thirty in Low Wendle, ten nobody knows where; every other one was called lately. */
const hundred: PersonRecord[] = Array.from({ length: 100 }, (_, i) => ({
  ...blank,
  id: i + 1,
  town: i < 60 ? 'Thornmouth' : i < 90 ? 'Low Wendle' : null,
  county: i < 90 ? 'Pellow' : null,
  contacts: i % 2 === 0 ? [{ at: ASOF - 10 * DAY, channel: 'phone' as const, by: 'ines' }] : [],
  addresses: i < 25 ? [{ id: i + 1, channel: 'email' as const, usable: true, failedAt: null, suppressions: [] }] : [],
}))

const texts = (found: { line: NewLine; holds: number }[]) =>
  found.map(({ line, holds }) => `${lineText({ ...line, id: 'x' } as Line)}: ${holds}`)

describe('for a list of too many', () => {
  test('places, freshness, ways to reach and a sample are proposed, the nearest to the wanted size first', () => {
    const { found } = proposed(hundred, [START], { least: 50, most: 60 })
    expect(texts(found)).toEqual([
      'Keep is in Thornmouth: 60',
      'Limit to 60 in all · at random, draw 100: 60',
      'Keep was never contacted by anyone counting any channel: 50',
      'Drop was contacted within 30 days by anyone counting any channel: 50',
      'Keep has a usable email address: 25',
    ])
  })

  test('what the list is about already is not proposed again', () => {
    const about: Line = { id: 'a', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'county', any: ['Pellow'] } }
    expect(texts(proposed(hundred, [START, about], { least: 50, most: 60 }).found).join()).not.toContain('Thornmouth')
    const off = { ...about, off: true }
    expect(texts(proposed(hundred, [START, off], { least: 50, most: 60 }).found).join()).toContain('Thornmouth')
  })

  test('several places stand in one line as long as they fit together', () => {
    expect(texts(proposed(hundred, [START], { least: 80, most: 95 }).found)[0]).toMatch(
      /^Limit to 95|^Keep county is Pellow: 90|^Keep is in Thornmouth or Low Wendle: 90/,
    )
    expect(texts(proposed(hundred, [START], { least: 80, most: 95 }).found)).toContain('Keep is in Thornmouth or Low Wendle: 90')
  })

  test('nothing is proposed where the list holds no more than is wanted', () => {
    expect(proposed(hundred, [START], { least: 0, most: 100 }).found).toEqual([])
    expect(proposed(hundred, [START], { least: 200, most: 300 }).found).toEqual([])
  })
})

test('every proposal holds what it says, comes nearer, and stands in order', () => {
  fc.assert(
    fc.property(people, plainPage, fc.integer({ min: 1, max: 30 }), fc.integer({ min: 0, max: 20 }), (records, lines, most, span) => {
      const wanted = { least: Math.max(0, most - span), most }
      const { found, now, really } = proposed(records, lines, wanted)
      expect(really).toEqual(found.map(({ holds }) => holds))
      const far = found.map(({ holds }) => farFrom(wanted, holds))
      for (const each of far) expect(each).toBeLessThan(farFrom(wanted, now))
      expect(far).toEqual([...far].sort((a, b) => a - b))
      expect(found.length).toBeLessThanOrEqual(6)
      if (now <= wanted.most) expect(found).toEqual([])
    }),
    { numRuns: 200 },
  )
})
