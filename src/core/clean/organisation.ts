import { fold } from './fold'
import { squeeze } from './name'

/** Legal forms that do not tell one organisation from another (common practice, no source). */
const FORMS = new Set(['ltd', 'limited', 'plc', 'llp', 'llc', 'inc', 'cic', 'co', 'company', 'gmbh', 'the'])

/** An organisation's name tidied, and its capitals mended where it came in nothing else; null where there is none. */
export function cleanOrganisation(raw: string): string | null {
  const name = squeeze(raw).replace(/[,;]+$/, '')
  return /[\p{L}\p{N}]/u.test(name) ? mendCapitals(name) : null
}

/** Words of two or three letters may be initials and stay as they are, except those that are plain words. */
const SHORT_WORDS = new Set([
  'the',
  'and',
  'of',
  'for',
  'in',
  'at',
  'on',
  'to',
  'by',
  'de',
  'la',
  'le',
  'du',
  'st',
  'old',
  'new',
  'ltd',
  'co',
  'inc',
  'sons',
  'bay',
  'ash',
  'oak',
  'elm',
  'inn',
  'pub',
  'bar',
  'art',
  'son',
  'sea',
  'red',
])

function mendCapitals(name: string): string {
  const words = name.split(' ')
  if (words.length < 2 || name !== name.toUpperCase() || name === name.toLowerCase()) return name
  return words
    .map((word, i) => {
      const small = word.toLowerCase()
      const bare = small.replace(/[^\p{L}]/gu, '')
      if (bare.length <= 3 && !SHORT_WORDS.has(bare)) return word
      if (i > 0 && ['of', 'and', 'the', 'for', 'in', 'at', 'on', 'to', 'by'].includes(bare)) return small
      return small.replace(/(^|[-–(/])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    })
    .join(' ')
}

/** Comparable form: folded, *and* for &, saint for a leading st, legal forms taken off. */
export function organisationKey(name: string): string {
  const words = fold(name.replaceAll('&', ' and ')).split(' ')
  const kept = words.filter((word) => !FORMS.has(word)).map((word) => (word === 'st' ? 'saint' : word))
  return (kept.length > 0 ? kept : words).join(' ')
}
