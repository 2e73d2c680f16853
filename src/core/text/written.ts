/**
 * How the team writes figures, dates and money: the one place that decides it, for screens, errors and sentences of lines. Files are
 * written for machines instead, and have nothing of this.
 */
export interface Writing {
  /** BCP 47 tag of the language and country: en-GB. */
  locale: string
  /** ISO 4217 code of the money that prices and values are in. */
  currency: string
  /** IANA name of the time zone that days and times are told in. */
  zone: string
}

let writing: Writing = { locale: 'en-GB', currency: 'GBP', zone: 'Europe/London' }
let formats = new Map<string, Intl.DateTimeFormat | Intl.NumberFormat>()

/** Sets how everything is written from here on in this process; the same for everybody of the team. */
export function writeFor(next: Writing): void {
  if (next.locale === writing.locale && next.currency === writing.currency && next.zone === writing.zone) return
  writing = { ...next }
  formats = new Map()
}

/** Formats are slow to make, and asked for once for every cell of a table. */
function kept<F extends Intl.DateTimeFormat | Intl.NumberFormat>(name: string, make: () => F): F {
  let format = formats.get(name)
  if (!format) formats.set(name, (format = make()))
  return format as F
}

/** A number with its thousands set apart: 12,340. */
export function countText(n: number): string {
  return kept('count', () => new Intl.NumberFormat(writing.locale)).format(n)
}

/** A share of one as a percentage with one decimal at most: 0.125 is 12.5 %. */
export function shareText(share: number): string {
  return `${kept('share', () => new Intl.NumberFormat(writing.locale, { maximumFractionDigits: 1 })).format(share * 100)} %`
}

/** An amount of money: £1,240, or £0.04 where it is not whole. `currency` is an ISO 4217 code, the team's where it is not said. */
export function moneyText(amount: number, currency = writing.currency): string {
  const digits = Number.isInteger(amount) ? { maximumFractionDigits: 0 } : {}
  return kept(
    `${currency} ${Number.isInteger(amount)}`,
    () => new Intl.NumberFormat(writing.locale, { style: 'currency', currency, ...digits }),
  ).format(amount)
}

/** How the team's money is written: £. */
export function moneySign(): string {
  const parts = kept('sign', () => new Intl.NumberFormat(writing.locale, { style: 'currency', currency: writing.currency })).formatToParts(
    0,
  )
  return parts.find(({ type }) => type === 'currency')?.value ?? writing.currency
}

/** A price in words, from minor units of a currency: £1.25, £2.00. */
export function priceText(minor: number, currency: string): string {
  return kept(`price ${currency}`, () => new Intl.NumberFormat(writing.locale, { style: 'currency', currency })).format(minor / 100)
}

const DAY = { day: 'numeric', month: 'short', year: 'numeric' } as const

/** A calendar date (YYYY-MM-DD) in words: 21 Nov 2026. A text that is no date is given back as it is. */
export function dateText(date: string): string {
  const at = new Date(`${date}T12:00:00Z`)
  return Number.isNaN(at.getTime())
    ? date
    : kept('date', () => new Intl.DateTimeFormat(writing.locale, { ...DAY, timeZone: 'UTC' })).format(at)
}

/** The month of a calendar date (YYYY-MM-DD) in words: November. */
export function writtenMonth(date: string): string {
  return kept('month', () => new Intl.DateTimeFormat(writing.locale, { month: 'long', timeZone: 'UTC' })).format(
    new Date(`${date}T12:00:00Z`),
  )
}

/** A calendar date (YYYY-MM-DD) with its weekday: Saturday 28 November. */
export function weekdayText(date: string): string {
  return kept(
    'weekday',
    () => new Intl.DateTimeFormat(writing.locale, { weekday: 'long', day: 'numeric', month: 'long', timeZone: 'UTC' }),
  ).format(new Date(`${date}T12:00:00Z`))
}

/** The day of an instant in the team's zone: 21 Nov 2026. */
export function dayText(at: Date): string {
  return kept('day', () => new Intl.DateTimeFormat(writing.locale, { ...DAY, timeZone: writing.zone })).format(at)
}

/** The same without its year where that is the year of `now`: 21 Nov. */
export function shortDayText(at: Date, now = new Date()): string {
  const year = kept('year', () => new Intl.DateTimeFormat(writing.locale, { year: 'numeric', timeZone: writing.zone }))
  if (year.format(at) !== year.format(now)) return dayText(at)
  return kept(
    'short day',
    () => new Intl.DateTimeFormat(writing.locale, { day: 'numeric', month: 'short', timeZone: writing.zone }),
  ).format(at)
}

/** The time of an instant on the clock in the team's zone: 14:05. */
export function timeText(at: Date): string {
  return kept('time', () => new Intl.DateTimeFormat(writing.locale, { hour: '2-digit', minute: '2-digit', timeZone: writing.zone })).format(
    at,
  )
}
