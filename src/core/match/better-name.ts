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
  const sameFamily = a.family === b.family
  if (sameFamily && a.given !== b.given && standsFor(first(a.given), first(b.given))) return first(a.given).length < first(b.given).length ? 'it is a short form' : null
  const givenSlip = a.given !== b.given && closeNames(a.given, b.given)
  const familySlip = !sameFamily && closeNames(a.family, b.family)
  if (!(givenSlip && (sameFamily || familySlip)) && !(familySlip && a.given === b.given)) return null
  // Two names a letter apart are two names; and where ours is none, theirs may mend it.
  if (givenSlip && isName(first(a.given)) && !isName(first(b.given))) return null
  return 'it is a slip of the pen away'
}

/** Digits among letters: *Sm1th*. A number behind a name is none. */
const DIGIT = /\p{L}\d|\d\p{L}/u
const first = (given: string): string => given.split(' ')[0]
const folded = ({ given, family }: Name): Name => ({ given: inLatin(fold(given)), family: generationOf(inLatin(fold(family))).family })
