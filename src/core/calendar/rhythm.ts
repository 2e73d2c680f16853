import { datePlusDays } from './local-day'

/** Days of the week as RFC 5545 writes them, Monday first. */
export const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const
export type Weekday = (typeof WEEKDAYS)[number]
export const WEEKDAY_NAME: Record<Weekday, string> = {
  MO: 'Monday',
  TU: 'Tuesday',
  WE: 'Wednesday',
  TH: 'Thursday',
  FR: 'Friday',
  SA: 'Saturday',
  SU: 'Sunday',
}

/** When a list is due: on days of the week, every so many weeks; on a day of the month; or so many days after its last round. */
export type Rhythm =
  | { every: 'week'; on: Weekday[]; weeks: number }
  /** 31 is the last day of any month. */
  | { every: 'month'; day: number }
  | { every: 'days'; days: number }

/** A rhythm from outside. Throws an Error that says what is wrong. */
export function validRhythm(raw: unknown): Rhythm {
  const given = (raw ?? {}) as Record<string, unknown>
  const whole = (value: unknown, least: number, most: number, what: string): number => {
    if (typeof value !== 'number' || !Number.isInteger(value) || value < least || value > most)
      throw new Error(`${what}: a whole number from ${least} to ${most}.`)
    return value
  }
  if (given.every === 'week') {
    const on = Array.isArray(given.on) ? WEEKDAYS.filter((day) => (given.on as unknown[]).includes(day)) : []
    if (on.length === 0) throw new Error('Choose at least one day of the week.')
    return { every: 'week', on, weeks: whole(given.weeks ?? 1, 1, 52, 'Weeks') }
  }
  if (given.every === 'month') return { every: 'month', day: whole(given.day, 1, 31, 'Day of the month') }
  if (given.every === 'days') return { every: 'days', days: whole(given.days, 1, 3650, 'Days') }
  throw new Error('Choose a rhythm: by the week, by the month, or after so many days.')
}

/**
 * The first day on which a list is due after a day (YYYY-MM-DD) on which it was last worked on; that day itself does not count. Weeks
 * begin on Monday and are counted from the week of that day, as RFC 5545 counts WEEKLY from DTSTART (section 3.3.10).
 */
export function dueAfter(rhythm: Rhythm, last: string): string {
  if (rhythm.every === 'days') return datePlusDays(last, rhythm.days)
  if (rhythm.every === 'month') {
    const here = dayInMonth(last.slice(0, 7), rhythm.day)
    return here > last ? here : dayInMonth(nextMonth(last.slice(0, 7)), rhythm.day)
  }
  const monday = datePlusDays(last, -weekdayOf(last))
  for (let week = 0; ; week += rhythm.weeks) {
    for (const day of rhythm.on) {
      const due = datePlusDays(monday, week * 7 + WEEKDAYS.indexOf(day))
      if (due > last) return due
    }
  }
}

/** How a rhythm is said: every Monday and Thursday. */
export function rhythmText(rhythm: Rhythm): string {
  if (rhythm.every === 'days') return rhythm.days === 1 ? 'a day after its last round' : `${rhythm.days} days after its last round`
  if (rhythm.every === 'month') return rhythm.day === 31 ? 'on the last day of the month' : `on day ${rhythm.day} of the month`
  const days = rhythm.on.map((day) => WEEKDAY_NAME[day])
  const named = days.length === 1 ? days[0] : `${days.slice(0, -1).join(', ')} and ${days[days.length - 1]}`
  return rhythm.weeks === 1 ? `every ${named}` : `every ${rhythm.weeks} weeks on ${named}`
}

/** 0 for Monday. */
const weekdayOf = (day: string): number => (new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7

function dayInMonth(month: string, day: number): string {
  const last = Number(datePlusDays(`${nextMonth(month)}-01`, -1).slice(8))
  return `${month}-${String(Math.min(day, last)).padStart(2, '0')}`
}

function nextMonth(month: string): string {
  const [year, of] = month.split('-').map(Number)
  return of === 12 ? `${year + 1}-01` : `${year}-${String(of + 1).padStart(2, '0')}`
}
