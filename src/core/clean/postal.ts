import { fold } from './fold'
import { squeeze } from './name'

export interface PostalParts {
  street: string | null
  town: string | null
  postcode: string | null
}

/** Short forms that stand for the same word in an address (common practice, no source). */
const SHORT: Record<string, string> = {
  st: 'street', rd: 'road', ave: 'avenue', av: 'avenue', ln: 'lane', dr: 'drive', ct: 'court', cl: 'close', sq: 'square',
  pl: 'place', cres: 'crescent', gdns: 'gardens', ter: 'terrace', bldg: 'building', hse: 'house', flr: 'floor',
}

/** Street, town and postcode tidied. A postcode is put in capitals with one space before its last three characters. */
export function cleanPostal(raw: { street?: string; town?: string; postcode?: string }): PostalParts {
  const street = squeeze(raw.street ?? '').replace(/[,;]+$/, '')
  const town = squeeze(raw.town ?? '')
  const code = squeeze(raw.postcode ?? '').toUpperCase().replaceAll(' ', '')
  return {
    street: street || null,
    town: town === '' ? null : town === town.toUpperCase() || town === town.toLowerCase() ? titled(town) : town,
    postcode: code === '' ? null : /^[A-Z]{1,2}\d[A-Z\d]?\d[A-Z]{2}$/.test(code) ? `${code.slice(0, -3)} ${code.slice(-3)}` : code,
  }
}

/** Comparable form of an address, or null where it does not name a place to deliver to. */
export function postalKey({ street, town, postcode }: PostalParts): string | null {
  if (!street || !(town || postcode)) return null
  const words = fold(street).split(' ')
  const expanded = words.map((word, i) => (i > 0 && SHORT[word]) || word).join(' ')
  return `${expanded}|${postcode ? fold(postcode).replaceAll(' ', '') : fold(town as string)}`
}

/** An address a letter can be sent to needs a street and a town or postcode. The reason it cannot, or null. */
export function whyNotPostable({ street, town, postcode }: PostalParts): string | null {
  if (!street) return 'the street is missing'
  return town || postcode ? null : 'town and postcode are missing'
}

function titled(text: string): string {
  return text.toLowerCase().replace(/(^|[\s-])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
}
