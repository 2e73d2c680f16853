import { distance } from 'fastest-levenshtein'
import { standsFor } from './nicknames'
import { jaroWinkler, lettersApart, oneSlip, sharedWords } from './similar'

/** What of a record two are compared by, each folded or in its comparable form; empty where it is not known. */
export interface Comparable {
  given: string
  family: string
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

export function compare(a: Comparable, b: Comparable): Agreement {
  const [family, given] = names(a, b)
  return Int8Array.of(family, given, organisation(a.organisation, b.organisation), address(a, b), shared(a.emails, b.emails), shared(a.phones, b.phones))
}

function names(a: Comparable, b: Comparable): [family: number, given: number] {
  const family = a.family === '' || b.family === '' ? -1 : a.family === b.family ? 2 : close(a.family, b.family) ? 1 : 0
  const given = givenLevel(a.given, b.given)
  if (family <= 0 && given <= 0 && a.given !== '' && a.family !== '' && b.given !== '' && b.family !== '') {
    const alike = (x: string, y: string) => x === y || close(x, y)
    const meant = (x: string, y: string) => alike(x, y) || standsFor(x, y) || initialOf(x, y) || initialOf(y, x)
    if ((alike(a.given, b.family) && meant(a.family, b.given)) || (alike(a.family, b.given) && meant(a.given, b.family))) return [3, 4]
  }
  return [family, given]
}

/** Alike by Jaro and Winkler, or one letter off, two in a long name; letters that are misread for each other count as one. */
function close(a: string, b: string): boolean {
  const least = Math.min(a.length, b.length)
  if (least < 3 || lettersApart(a, b) > 4) return false
  if (jaroWinkler(a, b) >= CLOSE) return true
  const slips = least >= 7 ? 2 : 1
  return distance(a, b) <= slips || distance(misread(a), misread(b)) <= slips - 1
}
const misread = (name: string): string => name.replaceAll('rn', 'm').replace(/[li1]/g, 'i').replace(/[ceo0]/g, 'o')

const initialOf = (given: string, name: string): boolean => given.length === 1 && given === name[0]

function givenLevel(a: string, b: string): number {
  if (a === '' || b === '') return -1
  if (a === b) return 4
  const [one, other] = [a.split(' ')[0], b.split(' ')[0]]
  if (one.length === 1 || other.length === 1) return one[0] === other[0] ? 1 : 0
  if (one === other) return 4
  if (standsFor(one, other)) return 3
  return close(one, other) ? 2 : 0
}

function organisation(a: string, b: string): number {
  if (a === '' || b === '') return -1
  if (a === b) return 2
  if (lettersApart(a, b) > 8) return 0
  return sharedWords(a, b) >= 0.5 || jaroWinkler(a, b) >= 0.93 ? 1 : 0
}

function address(a: Comparable, b: Comparable): number {
  const street = a.street !== '' && b.street !== '' && (a.street === b.street || oneSlip(a.street, b.street) || (lettersApart(a.street, b.street) < 3 && jaroWinkler(a.street, b.street) >= 0.97))
  const postcodes = a.postcode !== '' && b.postcode !== ''
  if (!postcodes && (a.town === '' || b.town === '')) return street ? 3 : -1
  // A town against a postcode tells nothing; two towns tell a little.
  if (postcodes ? a.postcode !== b.postcode : a.town !== b.town) return street ? 3 : postcodes && a.town !== '' && a.town === b.town ? 1 : 0
  return street ? 4 : postcodes ? 2 : 1
}

/** One slip of the pen. A number behind a name tells two mailboxes apart and is none. */
const slipped = (a: string, b: string): boolean => (a.includes('@') ? oneSlip(a.replace(/\d/g, '0'), b.replace(/\d/g, '0')) : oneSlip(a, b))

function shared(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return -1
  if (a.some((value) => b.includes(value))) return 2
  return a.some((value) => b.some((other) => slipped(value, other))) ? 1 : 0
}
