import { distance } from 'fastest-levenshtein'
import { standsFor } from './nicknames'
import { inLatin } from '../clean/fold'
import { numbersOf, unitOf } from './dwelling'
import { jaroWinkler, lettersApart, oneSlip, sharedWords, slipped } from './similar'

/** What of a record two are compared by, each folded or in its comparable form; empty where it is not known. */
export interface Comparable {
  given: string
  family: string
  /** *jr*, *sr*, *ii* and so on, where the name says so. */
  generation?: string
  organisation: string
  /** Street and house number, folded. */
  street: string
  postcode: string
  town: string
  emails: readonly string[]
  phones: readonly string[]
}

/**
 * How far two records agree, field by field. Each level of a field is its own kind of evidence; which counts for how
 * much is estimated from the data and not set here. The first is always *different*.
 */
export const AGREEMENTS = {
  family: ['different', 'close', 'same', 'changed places'],
  given: ['different', 'initial', 'close', 'short form', 'same'],
  organisation: ['different', 'alike', 'same'],
  address: ['different', 'same town', 'same postcode', 'same street', 'same'],
  email: ['different', 'one slip', 'same'],
  phone: ['different', 'one slip', 'same'],
} as const
export type CompareField = keyof typeof AGREEMENTS
export const COMPARED = Object.keys(AGREEMENTS) as CompareField[]

/** The level of each field in the order of COMPARED; -1 where either does not have it, which is no evidence at all. */
export type Agreement = Int8Array

/** From here up two names are one with a slip in it (common practice, no source). */
const CLOSE = 0.9

/** Compares two people and returns how far each of their parts agrees, in the order of `COMPARED`; -1 where either lacks the part. */
export function compare(a: Comparable, b: Comparable): Agreement {
  const [family, given] = names(a, b)
  return Int8Array.of(
    family,
    given,
    organisation(a.organisation, b.organisation),
    address(a, b),
    shared(a.emails, b.emails),
    shared(a.phones, b.phones),
  )
}

function names(first: Comparable, second: Comparable): [family: number, given: number] {
  const [a, b] = [inOneScript(first, second), inOneScript(second, first)]
  // However it is cut into given and family name, it is one name.
  const [whole, other] = [`${a.given} ${a.family}`.trim(), `${b.given} ${b.family}`.trim()]
  if (whole === other && whole.includes(' ')) return [2, a.given === '' || b.given === '' ? -1 : 4]
  const part = partOf(a, b) ?? partOf(b, a)
  if (part) return part
  const family = a.family === '' || b.family === '' ? -1 : a.family === b.family ? 2 : closeNames(a.family, b.family) ? 1 : 0
  const given = givenLevel(a.given, b.given)
  if (family <= 0 && given <= 0 && a.given !== '' && a.family !== '' && b.given !== '' && b.family !== '') {
    const alike = (x: string, y: string) => x === y || closeNames(x, y)
    const meant = (x: string, y: string) => alike(x, y) || standsFor(x, y) || initialOf(x, y) || initialOf(y, x)
    if ((alike(a.given, b.family) && meant(a.family, b.given)) || (alike(a.family, b.given) && meant(a.given, b.family))) return [3, 4]
  }
  return [family, given]
}

/** Names in Latin letters where the other is written in them and this one is not. */
const inOneScript = (of: Comparable, other: Comparable): { given: string; family: string } =>
  LATIN.test(other.given + other.family) && !LATIN.test(of.given + of.family)
    ? { given: inLatin(of.given), family: inLatin(of.family) }
    : of
const LATIN = /^[\x20-\x7e]*$/

/**
 * Of a name with two family names one may be left out, or put before it, and the cut may fall elsewhere: *Peña*, *Peña Vidal* and
 * *Vidal*; *Álvaro Peña | Vidal*. Levels where all words of one name are among those of the other, in their order, and no given name
 * is told apart by it; null otherwise.
 */
export function partOf(a: { given: string; family: string }, b: { given: string; family: string }): [family: number, given: number] | null {
  const [short, long] = [words(a), words(b)]
  if (short.length >= long.length || short.length < 2 || a.family.length < 2) return null
  let at = 0
  for (const word of long) if (word === short[at]) at++
  if (at < short.length) return null
  // The given name is there, and a family name is missing; or it is the given name that is.
  if (short[0] === long[0]) return [1, 4]
  return short.length >= 2 && long.length === short.length + 1 && b.family.includes(' ') ? [1, -1] : null
}
const words = ({ given, family }: { given: string; family: string }): string[] => `${given} ${family}`.split(' ').filter(Boolean)

/** Alike by Jaro and Winkler, or one letter off, two in a long name; letters that are misread for each other count as one. */
export function closeNames(a: string, b: string): boolean {
  const least = Math.min(a.length, b.length)
  if (least < 3 || lettersApart(a, b) > 4) return false
  if (jaroWinkler(a, b) >= CLOSE) return true
  const slips = least >= 7 ? 2 : 1
  return distance(a, b) <= slips || distance(misread(a), misread(b)) <= slips - 1
}
const misread = (name: string): string =>
  name
    .replaceAll('rn', 'm')
    .replace(/[li1]/g, 'i')
    .replace(/[ceo0]/g, 'o')

const initialOf = (given: string, name: string): boolean => given.length === 1 && given === name[0]

function givenLevel(a: string, b: string): number {
  if (a === '' || b === '') return -1
  if (a === b) return 4
  const [one, other] = [a.split(' ')[0], b.split(' ')[0]]
  if (one.length === 1 || other.length === 1) return one[0] === other[0] ? 1 : 0
  if (one === other) return 4
  if (standsFor(one, other)) return 3
  return closeNames(one, other) ? 2 : 0
}

function organisation(a: string, b: string): number {
  if (a === '' || b === '') return -1
  if (a === b) return 2
  if (lettersApart(a, b) > 8) return 0
  return sharedWords(a, b) >= 0.5 || jaroWinkler(a, b) >= 0.93 ? 1 : 0
}

function address(a: Comparable, b: Comparable): number {
  const street = a.street !== '' && b.street !== '' && (a.street === b.street || sameStreet(a.street, b.street))
  const postcodes = a.postcode !== '' && b.postcode !== ''
  if (!postcodes && (a.town === '' || b.town === '')) return street ? 3 : -1
  // A town against a postcode tells nothing; two towns tell a little.
  if (postcodes ? a.postcode !== b.postcode : a.town !== b.town) return street ? 3 : postcodes && a.town !== '' && a.town === b.town ? 1 : 0
  return street ? 4 : postcodes ? 2 : 1
}

/** A slip of the pen in letters. Another number is another house, and another flat another home. */
function sameStreet(a: string, b: string): boolean {
  const [one, other] = [numbersOf(a), numbersOf(b)]
  if (one.numbers !== other.numbers || unitOf(a) !== unitOf(b)) return false
  return oneSlip(one.rest, other.rest) || (lettersApart(one.rest, other.rest) < 3 && jaroWinkler(one.rest, other.rest) >= 0.97)
}

function shared(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return -1
  if (a.some((value) => b.includes(value))) return 2
  return a.some((value) => b.some((other) => slipped(value, other))) ? 1 : 0
}
