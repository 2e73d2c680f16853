import { TZDate } from '@date-fns/tz'
import { addDays, differenceInCalendarDays, formatISO, startOfDay, subMonths } from 'date-fns'

/** The same again for the same question: rules ask it for every address of a round, and time zones are slow to work out. */
function lastAnswer<A extends (number | string)[], T>(of: (...asked: A) => T): (...asked: A) => T {
  let last: { asked: A; answer: T } | null = null
  return (...asked) => {
    if (!last || last.asked.some((value, i) => value !== asked[i])) last = { asked, answer: of(...asked) }
    return last.answer
  }
}

/** The calendar date of an instant (UTC milliseconds) in a named time zone, as YYYY-MM-DD. */
export const localDate = lastAnswer((instant: number, zone: string): string => {
  const day = new TZDate(instant, zone)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`
})

/** Whether a text is a calendar date as YYYY-MM-DD that there is: no 30 February. */
export function isDay(text: string): boolean {
  if (!/^\d{4}-\d\d-\d\d$/.test(text)) return false
  const at = new Date(`${text}T00:00:00Z`)
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text)
}

/** The instant at which a calendar date (YYYY-MM-DD) begins in a named time zone, in UTC milliseconds. */
export function startOfDate(date: string, zone: string): number {
  const [year, month, day] = date.split('-').map(Number)
  return new TZDate(year, month - 1, day, zone).getTime()
}

/**
 * The instant at which a clock on the wall shows a time (HH:MM) on a calendar date in a named time zone, in UTC milliseconds, on days
 * the clock changes, too: a time that is skipped is that much later, of one that comes twice it is the first.
 */
export function wallTime(date: string, time: string, zone: string): number {
  const [year, month, day] = date.split('-').map(Number)
  const [hours, minutes] = time.split(':').map(Number)
  return new TZDate(year, month - 1, day, hours, minutes, zone).getTime()
}

/**
 * The instant from which on something counts as *within the last N days*: the beginning of the calendar day N days
 * before the local day of `asOf`. So "within 30 days" of any moment of 31 March takes in all of 1 March.
 */
export const withinDaysFrom = lastAnswer((asOf: number, days: number, zone: string): number =>
  startOfDay(addDays(new TZDate(asOf, zone), -days)).getTime(),
)

/** A calendar date so many days on, as YYYY-MM-DD. */
export function datePlusDays(date: string, days: number): string {
  return written(addDays(dayOf(date), days))
}

/** Whole calendar days from one date (YYYY-MM-DD) to another; negative when it lies before. */
export function daysBetween(from: string, to: string): number {
  return differenceInCalendarDays(dayOf(to), dayOf(from))
}

/** The same day so many months before a date (YYYY-MM-DD), the last of the month where it has no such day. */
export function monthsBefore(date: string, months: number): string {
  return written(subMonths(dayOf(date), months))
}

/** A calendar date as the beginning of its day in UTC, where no day is longer than another. */
const dayOf = (date: string) => new TZDate(`${date}T00:00:00Z`, 'UTC')
const written = (at: TZDate) => formatISO(at, { representation: 'date' })
