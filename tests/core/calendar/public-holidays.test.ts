import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { datePlusDays, daysBetween } from '@/core/calendar/local-day'
import { businessDaysAfter, isBusinessDay, publicHoliday } from '@/core/calendar/public-holidays'
import { carryBy } from '@/core/screening/carry-by'

describe('public holidays', () => {
  // 5 USC 6103: the federal holidays, as the Office of Personnel Management lists them for 2026 (from memory).
  test.each([
    '2026-01-01',
    '2026-01-19',
    '2026-02-16',
    '2026-05-25',
    '2026-06-19',
    '2026-07-03',
    '2026-09-07',
    '2026-11-11',
    '2026-11-26',
    '2026-12-25',
  ])('%s is one in the United States', (day) => expect(publicHoliday('US', day)).not.toBeNull())
  // The bank holidays of England and Wales in 2026, as gov.uk lists them (from memory).
  const BANK = ['2026-01-01', '2026-04-03', '2026-04-06', '2026-05-04', '2026-05-25', '2026-08-31', '2026-12-25', '2026-12-28']
  test.each(BANK)('%s is one in the United Kingdom', (day) => expect(publicHoliday('GB', day)).not.toBeNull())
  test('and on working days of the United Kingdom there are no others that year', () => {
    const found = []
    for (let day = '2026-01-01'; day <= '2026-12-31'; day = datePlusDays(day, 1)) {
      const weekday = new Date(`${day}T00:00:00Z`).getUTCDay()
      if (weekday !== 0 && weekday !== 6 && publicHoliday('GB', day)) found.push(day)
    }
    expect(found).toEqual(BANK)
  })
  test.each([
    ['DE', '2026-10-03'],
    ['FR', '2026-07-14'],
    ['IE', '2026-03-17'],
    ['PL', '2026-11-11'],
  ])('of %s: %s', (country, day) => expect(publicHoliday(country, day)).not.toBeNull())
  test('of a country nobody has a calendar of there are none', () => expect(publicHoliday('ZZ', '2026-12-25')).toBeNull())
})

describe('business days', () => {
  // 15 USC 7704(a)(4)(A): ten business days after an opt-out. Thanksgiving, 26 November 2026, is none of them.
  test('an opt-out of Monday 16 November 2026 must be carried by 1 December', () => {
    expect(businessDaysAfter('US', '2026-11-16', 10)).toBe('2026-12-01')
    expect(carryBy('2026-11-16', 'US')).toMatchObject({ by: '2026-12-01', rule: expect.stringContaining('15 USC 7704(a)(4)') })
  })
  test('where the country is not known, or has no such rule here, at once', () => {
    expect(carryBy('2026-11-16', null).by).toBe('2026-11-16')
    expect(carryBy('2026-11-16', 'NZ').by).toBe('2026-11-16')
    expect(carryBy('2026-11-16', 'DE').by).toBe('2026-11-16')
  })
  test('so many lie between, and the last is one', () => {
    const days = fc
      .date({ min: new Date('2024-01-01'), max: new Date('2027-06-30'), noInvalidDate: true })
      .map((at) => at.toISOString().slice(0, 10))
    fc.assert(
      fc.property(days, fc.integer({ min: 1, max: 15 }), fc.constantFrom('US', 'GB', 'DE'), (day, n, country) => {
        const after = businessDaysAfter(country, day, n)
        expect(isBusinessDay(country, after)).toBe(true)
        let counted = 0
        for (let i = 1; i <= daysBetween(day, after); i++) if (isBusinessDay(country, datePlusDays(day, i))) counted++
        expect(counted).toBe(n)
      }),
      { numRuns: 40 },
    )
  })
})
