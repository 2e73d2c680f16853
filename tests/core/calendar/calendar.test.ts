import { addDays, differenceInCalendarDays, format, parseISO } from 'date-fns'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import { datePlusDays, daysBetween, localDate, startOfDate, withinDaysFrom } from '@/core/calendar/local-day'

const zones = ['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'UTC']
const date = fc.date({ min: new Date('2000-01-01'), max: new Date('2060-01-01'), noInvalidDate: true })

test('a local day begins where its date begins, in any zone, over every change of the clock', () => {
  fc.assert(
    fc.property(date, fc.constantFrom(...zones), (at, zone) => {
      const day = localDate(at.getTime(), zone)
      const start = startOfDate(day, zone)
      expect(start).toBeLessThanOrEqual(at.getTime())
      expect(localDate(start, zone)).toBe(day)
      expect(localDate(start - 1, zone)).toBe(datePlusDays(day, -1))
    }),
  )
})

test('within N days begins with the calendar day N days ago, whatever the hour', () => {
  fc.assert(
    fc.property(date, fc.integer({ min: 1, max: 400 }), fc.constantFrom(...zones), (at, days, zone) => {
      const from = withinDaysFrom(at.getTime(), days, zone)
      expect(localDate(from, zone)).toBe(datePlusDays(localDate(at.getTime(), zone), -days))
      expect(from).toBe(startOfDate(localDate(from, zone), zone))
    }),
  )
})

test('dates are counted as date-fns counts them', () => {
  fc.assert(
    fc.property(date, fc.integer({ min: -800, max: 800 }), (at, days) => {
      const from = at.toISOString().slice(0, 10)
      const to = datePlusDays(from, days)
      expect(to).toBe(format(addDays(parseISO(from), days), 'yyyy-MM-dd'))
      expect(daysBetween(from, to)).toBe(differenceInCalendarDays(parseISO(to), parseISO(from)))
    }),
  )
})

// 47 CFR 64.1200(c)(1) has calling hours where the called party is: one instant is two times of day.
test('one instant is another date in another zone', () => {
  const at = Date.UTC(2026, 0, 1, 3)
  expect(localDate(at, 'Europe/London')).toBe('2026-01-01')
  expect(localDate(at, 'America/New_York')).toBe('2025-12-31')
})
