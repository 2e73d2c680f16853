import { datePlusDays, monthsBefore } from '../calendar/local-day'
import { writtenMonth } from '../text/written'
import type { Day, Interval } from './sighting'

/**
 * What may be said of when something happened: a day where it is proved, else the month or the two months that hold the whole
 * interval, else the least number of months back that does. Null where nothing says how long ago it may have been.
 */
export function provedWhen({ after, by }: Interval, today: Day): string | null {
  if (after === null) return null
  const earliest = datePlusDays(after, 1)
  if (earliest === by) return `on ${Number(by.slice(8))} ${monthOf(by, today)}`
  if (earliest.slice(0, 7) === by.slice(0, 7)) return `in ${monthOf(by, today)}`
  if (monthsApart(earliest, by) === 1) {
    const sameYear = earliest.slice(0, 4) === by.slice(0, 4)
    return `in ${sameYear ? writtenMonth(earliest) : monthOf(earliest, today)} or ${monthOf(by, today)}`
  }
  let months = 2
  while (monthsBefore(today, months) > earliest) months++
  return `in the last ${months} months`
}

const monthOf = (day: Day, today: Day) => `${writtenMonth(day)}${day.slice(0, 4) === today.slice(0, 4) ? '' : ` ${day.slice(0, 4)}`}`
const monthsApart = (from: Day, to: Day) =>
  (Number(to.slice(0, 4)) - Number(from.slice(0, 4))) * 12 + Number(to.slice(5, 7)) - Number(from.slice(5, 7))

/** What an opener can name. */
export const OPENER_WORDS = ['when', 'before', 'after', 'organisation', 'given'] as const
export type OpenerWords = Record<(typeof OPENER_WORDS)[number], string | null>

/** What is wrong with an opener as it was written, or null. */
export function openerTrouble(text: string): string | null {
  const outside = text.replace(/\{[^{}]*\}/g, '')
  if (/[{}]/.test(outside)) return `A brace in “${text}” is not closed, or not opened. A word stands between two of them: {when}.`
  const unknown = [...text.matchAll(/\{([^{}]*)\}/g)].map((m) => m[1]).find((w) => !(OPENER_WORDS as readonly string[]).includes(w))
  return unknown === undefined ? null : `“{${unknown}}” is not known. An opener can name ${OPENER_WORDS.map((w) => `{${w}}`).join(', ')}.`
}

/** An opener in words. What is not known of the day is left out; where another word is missing there is no opener. */
export function openerText(opener: string, words: OpenerWords): string | null {
  const said = words.when === null ? opener.replace(/\s*\{when\}/g, '') : opener
  let missing = false
  const text = said.replace(/\{(\w+)\}/g, (_, word: keyof OpenerWords) => {
    const value = words[word] ?? ''
    if (value === '') missing = true
    return value
  })
  return missing || text.trim() === '' ? null : text
}
