import type { PeopleColumns } from '../columns/people-columns'
import { type ALL_RESULTS, ANSWERS, resultCode } from '../records/results'
import type { Contact } from '../records/person-record'
import { CHANNELS, WAYS } from '../records/channels'

/** Contacts of somebody that nothing was heard after: how many, the first and the last of them (UTC milliseconds), and by which ways. */
export interface Unanswered {
  count: number
  first: number
  last: number
  /** When each was, in ascending order. */
  times: readonly number[]
  /** A bit a way, by its place in WAYS. */
  ways: number
}

const CODES_ANSWER = new Set(ANSWERS.map(resultCode))
const OF_CHANNELS = CHANNELS.reduce((bits, way) => bits | (1 << WAYS.indexOf(way)), 0)

/**
 * The contacts since the last sign that ends a row of them: each way and result in codes, as columns have them. A contact with such
 * a sign counts as none; two of one instant stand in any order, so one with a sign ends the others of its instant.
 */
function since(
  contacts: Iterable<readonly [at: number, way: number, result: number]>,
  counts: number,
  signs: ReadonlySet<number>,
): Unanswered | null {
  const all = [...contacts]
  const heard = all.reduce((latest, [at, , result]) => (signs.has(result) && at > latest ? at : latest), Number.NEGATIVE_INFINITY)
  const after = all.filter(([at, way, result]) => at > heard && (counts >> way) & 1 && !signs.has(result))
  if (after.length === 0) return null
  const times = after.map(([at]) => at).sort((a, b) => a - b)
  return {
    count: after.length,
    first: times[0],
    last: times[times.length - 1],
    times,
    ways: after.reduce((bits, [, way]) => bits | (1 << way), 0),
  }
}

interface Counting {
  /** Ways that count, in bits; the four channels where it is not said. */
  ways?: number
  /** Results that end a row of contacts; answers where it is not said. */
  signs?: ReadonlySet<number>
}

/** Of a record: contacts by the ways that count since the last sign, as far as they were made by `asOf`. */
export const unansweredOf = (contacts: readonly Contact[], asOf: number, { ways = OF_CHANNELS, signs = CODES_ANSWER }: Counting = {}) =>
  since(
    contacts.filter(({ at }) => at <= asOf).map(({ at, channel, result }) => [at, WAYS.indexOf(channel), resultCode(result)] as const),
    ways,
    signs,
  )

/** The same out of columns. */
export function unansweredAt(columns: PeopleColumns, n: number, asOf: number, { ways = OF_CHANNELS, signs = CODES_ANSWER }: Counting = {}) {
  const { at, channel, result } = columns.contacts.fields
  const first = columns.contacts.first(n)
  const rows: [number, number, number][] = []
  for (let i = first; i < first + columns.contacts.count(n); i++) if (at[i] <= asOf) rows.push([at[i], channel[i], result[i]])
  return since(rows, ways, signs)
}

/** Codes of results, for what counts as a sign. */
export const codesOf = (results: readonly (typeof ALL_RESULTS)[number][]): ReadonlySet<number> => new Set(results.map(resultCode))
