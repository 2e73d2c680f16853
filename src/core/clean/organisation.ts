import { fold } from './fold'
import { squeeze } from './name'

/** Legal forms that do not tell one organisation from another (common practice, no source). */
const FORMS = new Set(['ltd', 'limited', 'plc', 'llp', 'llc', 'inc', 'cic', 'co', 'company', 'gmbh', 'the'])

/** An organisation's name tidied; null where there is none. */
export function cleanOrganisation(raw: string): string | null {
  const name = squeeze(raw).replace(/[,;]+$/, '')
  return /[\p{L}\p{N}]/u.test(name) ? name : null
}

/** Comparable form: folded, *and* for &, saint for a leading st, legal forms taken off. */
export function organisationKey(name: string): string {
  const words = fold(name.replaceAll('&', ' and ')).split(' ')
  const kept = words.filter((word) => !FORMS.has(word)).map((word) => (word === 'st' ? 'saint' : word))
  return (kept.length > 0 ? kept : words).join(' ')
}
