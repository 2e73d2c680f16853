import type { Bitset } from '../columns/bitset'
import type { ListAccount } from './account'

/** Who is on by two editions on the same data: opening − left + joined = closing. */
export interface EditionFigures {
  opening: number
  left: number
  joined: number
  stayed: number
  closing: number
}

export interface EditionComparison {
  figures: EditionFigures
  left: Bitset
  joined: Bitset
  stayed: Bitset
}

/** Holds two editions against each other on today's data. */
export function compareEditions(earlier: ListAccount, later: ListAccount): EditionComparison {
  const [left, joined, stayed] = [earlier.on.andNot(later.on), later.on.andNot(earlier.on), earlier.on.and(later.on)]
  return {
    left,
    joined,
    stayed,
    figures: { opening: earlier.on.count(), left: left.count(), joined: joined.count(), stayed: stayed.count(), closing: later.on.count() },
  }
}
