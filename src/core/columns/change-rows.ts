import { ASKS } from '../changes/asks'
import { CHANGE_STATES, type RecordChange } from '../records/record-change'
import { Slices } from './slices'
import { Words } from './words'

/** No day at all: before every day there is. */
export const NO_DAY = -(2 ** 31)

/** Days since 1 January 1970 of a calendar date (YYYY-MM-DD). */
export const dayNumber = (day: string): number => Math.floor(Date.parse(`${day}T00:00:00Z`) / 86_400_000)

/** Changes of records as columns: the kind; in `what` what it asks and its state; the days after and by which it happened; when we learned of it; the codes of its sources and of its text, −1 where it has none. */
export const changeSlices = () =>
  new Slices({ kind: 'int32', what: 'uint8', after: 'int32', by: 'int32', learned: 'float64', sources: 'int32', text: 'int32' })
export type ChangeSlices = ReturnType<typeof changeSlices>

/** Packs what a change asks of us (3 bits) and its state into one number. */
export const packWhat = (asks: number, state: number): number => asks | (state << 3)
/** Returns what a packed change asks of us. */
export const asksOf = (what: number): number => what & 7
/** Returns the state of a packed change. */
export const stateOf = (what: number): number => what >> 3

/** The words of changes: who reported them, and what was said. */
export class ChangeWords {
  readonly sources = new Words()
  readonly texts = new Words()
}

/** Returns what writes a change into its place in the columns. A day that is not known is `NO_DAY`. */
export const changeWriter = (words: ChangeWords) => (fields: ChangeSlices['fields'], at: number, change: RecordChange) => {
  fields.kind[at] = change.kind
  fields.what[at] = packWhat(ASKS.indexOf(change.asks), CHANGE_STATES.indexOf(change.state))
  fields.after[at] = change.after === null ? NO_DAY : dayNumber(change.after)
  fields.by[at] = dayNumber(change.by)
  fields.learned[at] = change.learnedAt
  fields.sources[at] = words.sources.code(change.sources)
  fields.text[at] = change.text === null ? -1 : words.texts.code(change.text)
}
