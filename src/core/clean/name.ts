import { parseFullName } from 'parse-full-name'
import { fold } from './fold'

export interface CleanName {
  given: string
  family: string
  /** As it is shown: given and family name. */
  name: string
  /** Comparable form: folded given and family name, or null where one of them is missing or only an initial. */
  key: string | null
  sortKey: string
}

/**
 * A person's name from one column or from two. Titles and suffixes are taken off, *Family, Given* is turned round, and
 * capitals are mended only where a part came all in capitals or all in small letters. Null where there is no name.
 */
export function cleanName(parts: { full?: string; given?: string; family?: string }): CleanName | null {
  const given0 = squeeze(parts.given ?? '')
  const family0 = squeeze(parts.family ?? '')
  if (given0 || family0) return made(mendCase(given0), mendCase(family0))
  const full = squeeze(parts.full ?? '')
  if (!/\p{L}/u.test(full)) return null
  const parsed = parseFullName(full, 'all', 0)
  const family = parsed.last || parsed.title
  return made(mendCase([parsed.first, parsed.middle].filter(Boolean).join(' ')), mendCase(family))
}

function made(given: string, family: string): CleanName | null {
  const name = squeeze(`${given} ${family}`)
  if (name === '') return null
  const [g, f] = [fold(given), fold(family)]
  return { given, family, name, key: g.replaceAll(' ', '').length > 1 && f !== '' ? `${g}|${f}` : null, sortKey: `${f} ${g}`.trim() }
}

/** The comparable form of a name that is already clean. */
export function nameKey(given: string, family: string): string | null {
  return made(given, family)?.key ?? null
}

/** White space and invisible marks (bidirectional controls, zero-width characters) made single spaces. */
export function squeeze(text: string): string {
  return text.normalize('NFC').replace(/[\p{Cf}\p{Cc}\s]+/gu, ' ').trim()
}

function mendCase(part: string): string {
  const letters = part.replace(/[^\p{L}]/gu, '')
  if (letters.length < 2 || (letters !== letters.toUpperCase() && letters !== letters.toLowerCase())) return part
  return part
    .toLowerCase()
    .replace(/(^|[\s\-'’])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/\bMc(\p{L})/gu, (_, letter: string) => `Mc${letter.toUpperCase()}`)
}
