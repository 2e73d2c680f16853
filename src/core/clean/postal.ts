import { firstFold, fold } from './fold'
import { squeeze } from './name'
import { streetLine } from './street'

export interface PostalParts {
  street: string | null
  town: string | null
  postcode: string | null
}

/** Short forms that stand for the same word in an address (common practice, no source). */
const SHORT: Record<string, string> = {
  st: 'street',
  rd: 'road',
  ave: 'avenue',
  av: 'avenue',
  ln: 'lane',
  dr: 'drive',
  ct: 'court',
  cl: 'close',
  sq: 'square',
  pl: 'place',
  cres: 'crescent',
  gdns: 'gardens',
  ter: 'terrace',
  bldg: 'building',
  hse: 'house',
  flr: 'floor',
}

/** Street, town and postcode tidied. A British postcode is put in capitals with one space before its last three characters; others keep their blanks. */
export function cleanPostal(raw: { street?: string; town?: string; postcode?: string }): PostalParts {
  const street = squeeze(raw.street ?? '').replace(/[,;]+$/, '')
  const town = squeeze(raw.town ?? '')
  const typed = squeeze(raw.postcode ?? '').toUpperCase()
  const code = typed.replaceAll(' ', '')
  return {
    street: street || null,
    town: town === '' ? null : town === town.toUpperCase() || town === town.toLowerCase() ? titled(town) : town,
    postcode: code === '' ? null : /^[A-Z]{1,2}\d[A-Z\d]?\d[A-Z]{2}$/.test(code) ? `${code.slice(0, -3)} ${code.slice(-3)}` : typed,
  }
}

/**
 * The first comparable form of an address, by which suppressions and addresses were keyed from the beginning, so that it never
 * changes; null where it does not name a place to deliver to.
 */
export function postalKey({ street, town, postcode }: PostalParts): string | null {
  if (!street || !(town || postcode)) return null
  const words = firstFold(street).split(' ')
  const expanded = words.map((word, i) => (i > 0 && SHORT[word]) || word).join(' ')
  return `${expanded}|${postcode ? firstFold(postcode).replaceAll(' ', '') : firstFold(town as string)}`
}

/** More street types (common practice, no source). */
const TYPES: Record<string, string> = {
  ...SHORT,
  blvd: 'boulevard',
  hwy: 'highway',
  pkwy: 'parkway',
  trl: 'trail',
  wy: 'way',
  grn: 'green',
  gr: 'grove',
  gro: 'grove',
  pk: 'park',
  pde: 'parade',
  yd: 'yard',
  ests: 'estates',
  est: 'estate',
  ind: 'industrial',
}
const DIRECTIONS: Record<string, string> = {
  n: 'north',
  s: 'south',
  e: 'east',
  w: 'west',
  ne: 'north east',
  nw: 'north west',
  se: 'south east',
  sw: 'south west',
}
const UNITS: Record<string, string> = {
  flat: 'flat',
  apartment: 'flat',
  apt: 'flat',
  unit: 'unit',
  suite: 'suite',
  ste: 'suite',
  room: 'room',
  rm: 'room',
  floor: 'floor',
  flr: 'floor',
}
const UNIT_ID = /^(\d+[a-z]?|[a-z])$/

/**
 * A street in the one order and wording it is compared in: the unit first, then the number or range, a post box by its number,
 * directions and street types in full, saint for a leading St. *4 Mill Ln, Apt 2* and *Flat 2, 4 Mill Lane* are one.
 */
export function comparableStreet(street: string): string {
  let once = comparedOnce(street)
  // Two spellings that become one only when put in order (*N Unit 4*, *North Unit 4*) are one: read again until nothing moves.
  for (let again = comparedOnce(once), turns = 0; again !== once && turns < 4; again = comparedOnce(once), turns++) once = again
  return once
}

function comparedOnce(street: string): string {
  const whole = fold(street)
    .replace(/^(?:p ?o|post office) box\b/, 'po box')
    .replace(/^box (?=\d)/, 'po box ')
  if (whole.startsWith('po box')) return whole
  const { unit, number, street: name } = streetLine(street)
  const words = fold(name).split(' ')
  const named = words.map((word, i) => {
    if (word === 'st' && i === 0 && words.length > 1) return 'saint'
    return ((words.length > 1 && DIRECTIONS[word]) || (i > 0 && TYPES[word]) || word) as string
  })
  return [unit, number, ...named].filter(Boolean).join(' ')
}

/** The second comparable form an address was keyed by, before units, ranges and saints were told apart: it never changes either. */
export function secondPostalKey({ street, town, postcode }: PostalParts): string | null {
  if (!street || !(town || postcode)) return null
  return `${secondStreet(street)}|${postcode ? firstFold(postcode).replaceAll(' ', '') : firstFold(town as string)}`
}

function secondStreet(street: string): string {
  let words = firstFold(street)
    .replace(/^(?:p ?o|post office) box\b/, 'po box')
    .replace(/^box (?=\d)/, 'po box ')
    .split(' ')
  if (words[0] === 'po' && words[1] === 'box') return words.join(' ')
  const unit: string[] = []
  const at = words.findIndex(
    (word, i) =>
      UNITS[word] &&
      ((words[i + 1] !== undefined && UNIT_ID.test(words[i + 1])) ||
        (UNITS[word] === 'floor' && /^\d+(st|nd|rd|th)$/.test(words[i - 1] ?? ''))),
  )
  if (at >= 0) {
    const before = /^\d+(st|nd|rd|th)$/.test(words[at - 1] ?? '') && UNITS[words[at]] === 'floor'
    unit.push(UNITS[words[at]], before ? words[at - 1].replace(/\D/g, '') : words[at + 1])
    words = words.filter((_, i) => i !== at && i !== (before ? at - 1 : at + 1))
  }
  const named = words.map((word, i) => (i > 0 && ((words.length > 2 && DIRECTIONS[word]) || TYPES[word])) || word)
  return [...unit, ...named].join(' ')
}

/** The comparable form of an address by which records are matched, and by which suppressions are found besides; null where it names no place to deliver to. */
export function comparablePostal({ street, town, postcode }: PostalParts): string | null {
  if (!street || !(town || postcode)) return null
  return `${comparableStreet(street)}|${postcode ? fold(postcode).replaceAll(' ', '') : fold(town as string)}`
}

/** An address a letter can be sent to needs a street and a town or postcode. The reason it cannot, or null. */
export function whyNotPostable({ street, town, postcode }: PostalParts): string | null {
  if (!street) return 'the street is missing'
  return town || postcode ? null : 'town and postcode are missing'
}

function titled(text: string): string {
  return text.toLowerCase().replace(/(^|[\s-])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
}
