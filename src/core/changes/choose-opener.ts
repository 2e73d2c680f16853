import type { Asks } from './asks'
import { freshnessOf } from './freshness'
import { openerText, type OpenerWords, provedWhen } from './opener'
import type { Day, Interval, Sure } from './sighting'

/** A change of somebody, of their organisation or of their premises, of a kind that a list takes openers from. */
export interface OpenerCandidate extends Interval {
  change: number
  asks: Exclude<Asks, 'lead'>
  sure: Sure
  state: 'open' | 'taken' | 'handled' | 'set aside'
  freshDays: number | null
  /** The first sentence as it was written, with words in braces. */
  opener: string
  /** Whether the record still is what the change made it: always so for what changes no field. */
  holds: boolean
  words: Omit<OpenerWords, 'when'>
}

/** What somebody got before: changes, and sentences. */
export interface OpenersGot {
  changes: ReadonlySet<number>
  texts: ReadonlySet<string>
}

export const NO_OPENERS: OpenersGot = { changes: new Set(), texts: new Set() }

/**
 * The opener for one person: of the latest change that is fresh on the day, still holds, is nobody's to deal with and was never used for
 * them. Null where there is none. The order of the candidates makes no difference.
 */
export function chooseOpener(candidates: readonly OpenerCandidate[], got: OpenersGot, today: Day): { change: number; text: string } | null {
  const latestFirst = candidates
    .filter((own) => isOfUse(own, today))
    .sort((a, b) => (a.by < b.by ? 1 : a.by > b.by ? -1 : b.change - a.change))
  for (const own of latestFirst) {
    if (got.changes.has(own.change)) continue
    const text = openerText(own.opener, { ...own.words, when: provedWhen(own, today) })
    if (text !== null && !got.texts.has(text)) return { change: own.change, text }
  }
  return null
}

/** Somebody who took a change writes their own sentence; an answer or an opening that was handled was used by whoever handled it. */
function isOfUse(own: OpenerCandidate, today: Day): boolean {
  if (own.state === 'taken' || own.state === 'set aside') return false
  if (own.state === 'handled' && (own.asks === 'answer' || own.asks === 'opening')) return false
  return own.holds && own.sure !== 'to be confirmed' && own.by <= today && freshnessOf(own, own.freshDays, today) === 'fresh'
}
