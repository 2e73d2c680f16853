import fc from 'fast-check'
import rrule from 'rrule'
import { describe, expect, test } from 'vitest'
import { datePlusDays, daysBetween } from '@/core/calendar/local-day'
import { dueAfter, type Rhythm, rhythmText, validRhythm, WEEKDAYS } from '@/core/calendar/rhythm'

const { RRule } = rrule
const at = (day: string) => new Date(`${day}T00:00:00Z`)

/** The first occurrence after a day by a rule of RFC 5545 that begins on it. */
function byRule(rule: string, last: string): string {
  return (RRule.fromString(`DTSTART:${last.replaceAll('-', '')}T000000Z\nRRULE:${rule}`).after(at(last)) as Date).toISOString().slice(0, 10)
}

// The examples of the standard, from memory; the reference below reads the rules themselves.
describe('occurrences of RFC 5545, section 3.8.5.3', () => {
  const run = (rhythm: Rhythm, from: string, n: number) => {
    const days = [from]
    while (days.length < n) days.push(dueAfter(rhythm, days[days.length - 1]))
    return days
  }
  test('weekly on Tuesday and Thursday for five weeks', () => {
    // DTSTART 2 September 1997, FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH: September 2, 4, 9, 11, 16, 18, 23, 25, 30; October 2.
    expect(run({ every: 'week', on: ['TU', 'TH'], weeks: 1 }, '1997-09-02', 10).map((day) => day.slice(5))).toEqual([
      '09-02',
      '09-04',
      '09-09',
      '09-11',
      '09-16',
      '09-18',
      '09-23',
      '09-25',
      '09-30',
      '10-02',
    ])
  })
  test('every other week on Tuesday and Sunday, weeks beginning on Monday', () => {
    // DTSTART 5 August 1997, FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO: August 5, 10, 19, 24.
    expect(run({ every: 'week', on: ['TU', 'SU'], weeks: 2 }, '1997-08-05', 4)).toEqual([
      '1997-08-05',
      '1997-08-10',
      '1997-08-19',
      '1997-08-24',
    ])
  })
  test('monthly on the 2nd, and on the last day', () => {
    // FREQ=MONTHLY;BYMONTHDAY=2 and FREQ=MONTHLY;BYMONTHDAY=-1 from 30 September 1997: the last days of months.
    expect(run({ every: 'month', day: 2 }, '1997-09-02', 4)).toEqual(['1997-09-02', '1997-10-02', '1997-11-02', '1997-12-02'])
    expect(run({ every: 'month', day: 31 }, '1997-09-30', 6)).toEqual([
      '1997-09-30',
      '1997-10-31',
      '1997-11-30',
      '1997-12-31',
      '1998-01-31',
      '1998-02-28',
    ])
  })
})

describe('beside a reference that reads such rules', () => {
  const day = fc.integer({ min: 0, max: 4000 }).map((n) => datePlusDays('2020-01-01', n))
  test('by the week', () => {
    fc.assert(
      fc.property(day, fc.subarray([...WEEKDAYS], { minLength: 1 }), fc.integer({ min: 1, max: 6 }), (last, on, weeks) => {
        expect(dueAfter({ every: 'week', on, weeks }, last)).toBe(
          byRule(`FREQ=WEEKLY;INTERVAL=${weeks};WKST=MO;BYDAY=${on.join(',')}`, last),
        )
      }),
      { numRuns: 200 },
    )
  })
  test('by the month; the 31st is the last day of every month', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: 1, max: 28 }), (last, of) => {
        expect(dueAfter({ every: 'month', day: of }, last)).toBe(byRule(`FREQ=MONTHLY;BYMONTHDAY=${of}`, last))
        expect(dueAfter({ every: 'month', day: 31 }, last)).toBe(byRule('FREQ=MONTHLY;BYMONTHDAY=-1', last))
      }),
      { numRuns: 200 },
    )
  })
  test('after so many days', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: 1, max: 400 }), (last, days) => {
        expect(daysBetween(last, dueAfter({ every: 'days', days }, last))).toBe(days)
        expect(dueAfter({ every: 'days', days }, last)).toBe(byRule(`FREQ=DAILY;INTERVAL=${days}`, last))
      }),
      { numRuns: 100 },
    )
  })
})

test('a rhythm that is none is refused, and one that is reads as people say it', () => {
  expect(() => validRhythm({ every: 'week', on: [] })).toThrow(/at least one day/)
  expect(() => validRhythm({ every: 'month', day: 32 })).toThrow(/1 to 31/)
  expect(() => validRhythm({ every: 'days', days: 1.5 })).toThrow(/whole number/)
  expect(() => validRhythm('soon')).toThrow(/Choose a rhythm/)
  expect(rhythmText(validRhythm({ every: 'week', on: ['TH', 'MO'] }))).toBe('every Monday and Thursday')
  expect(rhythmText({ every: 'week', on: ['MO'], weeks: 2 })).toBe('every 2 weeks on Monday')
  expect(rhythmText({ every: 'month', day: 31 })).toBe('on the last day of the month')
  expect(rhythmText({ every: 'days', days: 30 })).toBe('30 days after its last round')
})
