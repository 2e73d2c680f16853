import Holidays from 'date-holidays'
import { LRUCache } from 'lru-cache'
import { datePlusDays } from './local-day'

const OPTIONS = { types: ['public' as const], languages: ['en'] }
/** Where a country has no calendar of its own, that of its largest part. */
const REGION: Record<string, string> = { GB: 'ENG' }

/** The calendars of a few dozen countries, each some milliseconds to make. */
const calendars = new LRUCache<string, Holidays>({ max: 60 })

function calendarOf(country: string): Holidays {
  let calendar = calendars.get(country)
  if (!calendar)
    calendars.set(country, (calendar = REGION[country] ? new Holidays(country, REGION[country], OPTIONS) : new Holidays(country, OPTIONS)))
  return calendar
}

/** The name of the public holiday that a day (YYYY-MM-DD) is in a country (ISO 3166-1 alpha-2), or null. Source: date-holidays. */
export function publicHoliday(country: string, day: string): string | null {
  const year = Number(day.slice(0, 4))
  return (
    calendarOf(country)
      .getHolidays(year)
      .find((own) => own.date.startsWith(day))?.name ?? null
  )
}

/** Whether people work on a day in a country: Monday to Friday, but for public holidays. */
export function isBusinessDay(country: string, day: string): boolean {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay()
  return weekday !== 0 && weekday !== 6 && publicHoliday(country, day) === null
}

/** The day (YYYY-MM-DD) that lies so many business days of a country after another: the day itself does not count. */
export function businessDaysAfter(country: string, day: string, days: number): string {
  let next = day
  for (let left = days; left > 0; ) {
    next = datePlusDays(next, 1)
    if (isBusinessDay(country, next)) left--
  }
  return next
}
