import { countryName } from '../clean/country'
import { type LetterChoice, lettersCost } from './letter-choice'

/** What became of a letter of a round of premises; every letter that was released is in exactly one. */
export const LETTER_STANDS = ['stopped', 'not posted', 'answered', 'asked us to stop', 'nothing heard', 'came back'] as const
export type LetterStand = (typeof LETTER_STANDS)[number]

/** Those of letters that were posted. */
export const POSTED_STANDS = ['answered', 'asked us to stop', 'nothing heard', 'came back'] as const satisfies readonly LetterStand[]

/** A letter that was released, and what became of it. */
export interface ReleasedLetter {
  number: number
  stand: LetterStand
  /** Whether whom it named was erased on request, and with them whom it named and where it went. */
  erased: boolean
  /** ISO 3166-1 alpha-2; null at home, and once it was erased. */
  country: string | null
  /** Whom the envelope names. */
  to: 'somebody by name' | 'an organisation' | 'whoever is there'
  /** How many premises it is about. */
  premises: number
  /** The day it was posted, YYYY-MM-DD; null where it was not. */
  postedOn: string | null
}

export type LetterCounts = Record<LetterStand, number>
const noCounts = (): LetterCounts => ({
  stopped: 0,
  'not posted': 0,
  answered: 0,
  'asked us to stop': 0,
  'nothing heard': 0,
  'came back': 0,
})
/** Returns how many letters were released, from the counts of what became of them. */
export const releasedLetters = (counts: LetterCounts): number => LETTER_STANDS.reduce((sum, stand) => sum + counts[stand], 0)
/** Returns how many letters were posted, from the counts of what became of them. */
export const postedLetters = (counts: LetterCounts): number => POSTED_STANDS.reduce((sum, stand) => sum + counts[stand], 0)

/** By what letters can be counted: each is in exactly one part. */
export const LETTER_PARTS = ['to', 'country', 'premises', 'posted'] as const
export type LetterPart = (typeof LETTER_PARTS)[number]

/** What stands in place of a part that went with an erasure. */
const ERASED = 'erased on request'

/** The part of a letter, in words; of the day of posting the day itself. */
export function letterPart(letter: ReleasedLetter, by: LetterPart): string {
  if (letter.erased && (by === 'to' || by === 'country')) return ERASED
  switch (by) {
    case 'to':
      return letter.to
    case 'country':
      return letter.country === null ? 'at home' : countryName(letter.country)
    case 'premises':
      return letter.premises === 1 ? 'one' : letter.premises === 2 ? 'two' : 'three or more'
    case 'posted':
      return letter.postedOn ?? 'not posted'
  }
}

/** What is kept of a round of premises when it is closed. Costs are in minor units; null where no price is known. */
export interface LetterClosing {
  counts: LetterCounts
  /** What the letters that were posted cost. */
  cost: number | null
}

export interface LetterResults extends LetterClosing {
  parts: Record<LetterPart, { key: string; counts: LetterCounts; cost: number | null }[]>
}

/**
 * The account of what became of a round's letters. The largest part first; days in their order. A letter that was erased costs what one
 * at home does, since nothing says any more where it went.
 */
export function letterResultsOf(letters: readonly ReleasedLetter[], choice: LetterChoice): LetterResults {
  const counted = (of: readonly ReleasedLetter[]): LetterClosing => {
    const counts = noCounts()
    for (const { stand } of of) counts[stand]++
    const posted = of.filter(({ postedOn }) => postedOn !== null)
    const abroad = posted.filter(({ country }) => country !== null).length
    return { counts, cost: lettersCost({ letters: posted.length, abroad }, choice) }
  }
  const parts = LETTER_PARTS.map((by) => {
    const found = new Map<string, ReleasedLetter[]>()
    for (const letter of letters) {
      const key = letterPart(letter, by)
      found.set(key, [...(found.get(key) ?? []), letter])
    }
    const rows = [...found].map(([key, of]) => ({ key, ...counted(of) }))
    const bySize = (a: { counts: LetterCounts }, b: { counts: LetterCounts }) => releasedLetters(b.counts) - releasedLetters(a.counts)
    return [by, rows.sort((a, b) => (by === 'posted' ? 0 : bySize(a, b)) || (a.key < b.key ? -1 : 1))] as const
  })
  return { ...counted(letters), parts: Object.fromEntries(parts) as LetterResults['parts'] }
}

/** What an answer cost, in minor units: all that was posted, over the letters that were answered. Null where no price is known, or nobody answered. */
export const letterCostPerAnswer = ({ counts, cost }: LetterClosing): number | null =>
  cost === null || counts.answered === 0 ? null : cost / counts.answered
