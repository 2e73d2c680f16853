import { squeeze } from './name'

/** Names people use besides those of Unicode's data (common practice, no source). */
const ALSO: Record<string, string> = {
  uk: 'GB',
  'u.k.': 'GB',
  'great britain': 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'northern ireland': 'GB',
  usa: 'US',
  'u.s.': 'US',
  'u.s.a.': 'US',
  america: 'US',
  'united states of america': 'US',
  eire: 'IE',
  'republic of ireland': 'IE',
  holland: 'NL',
  'the netherlands': 'NL',
  'czech republic': 'CZ',
}

const NO_COUNTRY = new Set(['EU', 'EZ', 'UN', 'QO', 'XA', 'XB', 'ZZ'])

/** The countries by their English names in small letters, as Unicode's data (CLDR) has them, by ISO 3166-1 alpha-2 code. */
const NAMES = new Map<string, string>()
const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
const names = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' })
for (const a of letters)
  for (const b of letters) {
    const code = `${a}${b}`
    const name = names.of(code)
    // A code of former times stands for the one of today, and some stand for no country.
    if (name && new Intl.Locale(`und-${code}`).region === code && !NO_COUNTRY.has(code)) NAMES.set(name.toLowerCase(), code)
  }
/** Every code, in order. */
export const COUNTRY_CODES: readonly string[] = [...new Set(NAMES.values())].sort()
const CODES = new Set(COUNTRY_CODES)

/** The ISO 3166-1 alpha-2 code of a country by its code or an English name of it; null where it is none that is known. */
export function countryCode(text: string | null | undefined): string | null {
  const word = squeeze(text ?? '').toLowerCase()
  if (word === '') return null
  const code = word.toUpperCase()
  return ALSO[word] ?? NAMES.get(word) ?? (/^[A-Z]{2}$/.test(code) && CODES.has(code) ? code : null)
}

/** A country as people call it in English. */
export const countryName = (code: string): string => names.of(code) ?? code
