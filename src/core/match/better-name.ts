import { fold, inLatin } from '../clean/fold'
import { generationOf } from '../clean/name'
import { closeNames, partOf } from './compare'
import { standsFor } from './nicknames'

interface Name {
  given: string
  family: string
}

/**
 * Why a name that a file brings for somebody known is a worse spelling of the one we have, in words; null where it is as good, better or
 * another name. Newer is not better: a slip of the pen, a short form or a name with a part left out takes nobody's name away. `isName`
 * tells a given name from a slip of one.
 */
export function worseSpelling(next: Name, known: Name, isName: (folded: string) => boolean): string | null {
  const [a, b] = [folded(next), folded(known)]
  if (DIGIT.test(next.given + next.family) && !DIGIT.test(known.given + known.family)) return 'it has a digit among its letters'
  if (DIGIT.test(known.given + known.family)) return null
  if (a.given === b.family && a.family === b.given) return 'given and family name changed places'
  if (partOf(a, b)) return 'a part of the name is left out'
  const given =
    a.given === b.given
      ? 'same'
      : standsFor(first(a.given), first(b.given))
        ? first(a.given).length < first(b.given).length
          ? 'short form'
          : 'longer'
        : closeNames(a.given, b.given)
          ? 'slip'
          : 'other'
  const family = a.family === b.family ? 'same' : closeNames(a.family, b.family) ? 'slip' : 'other'
  if (given === 'other' || family === 'other' || (given === 'same' && family === 'same') || given === 'longer') return null
  // Where our given name is none, theirs may mend it.
  if (given === 'slip' && isName(first(a.given)) && !isName(first(b.given))) return null
  return given === 'short form' ? 'it is a short form' : 'it is a slip of the pen away'
}

/** Digits among letters: *Sm1th*. A number behind a name is none. */
const DIGIT = /\p{L}\d|\d\p{L}/u
const first = (given: string): string => given.split(' ')[0]
const folded = ({ given, family }: Name): Name => ({ given: inLatin(fold(given)), family: generationOf(inLatin(fold(family))).family })
