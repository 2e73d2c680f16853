import { doubleMetaphone } from 'double-metaphone'
import type { Comparable } from './compare'

/**
 * Keys under which a record is looked for: two records that share none are never compared. Each forgives another kind of
 * slip; a name sounds the same (Philips 2000), or its parts changed places, or it is written otherwise and the address, the
 * organisation, an email or a number is the same.
 */
export function blockKeys(r: Comparable): string[] {
  const keys: string[] = []
  const [given, family] = [r.given.split(' ')[0], r.family]
  const place = r.postcode || r.town
  if (given && family) {
    const sounds = [sound(given), sound(family)]
    keys.push(`n:${sounds.sort().join(' ')}`)
    if (place) keys.push(`p:${place}:${[given[0], family[0]].sort().join('')}`)
  }
  if (family && place) keys.push(`f:${place}:${sound(family)}`)
  if (r.organisation) {
    if (given) keys.push(`g:${r.organisation}:${given.slice(0, 2)}`)
    if (family) keys.push(`o:${r.organisation}:${sound(family)}`, `o:${r.organisation}:${family.slice(0, 2)}`)
  }
  if (r.street && family) keys.push(`a:${r.street}:${family[0]}`)
  if (family && given) keys.push(`i:${family}:${given[0]}`)
  for (const email of r.emails) keys.push(`e:${email}`, `e:${email.split('@')[0]}`)
  for (const phone of r.phones) keys.push(`t:${phone}`)
  return keys
}

const sounds = new Map<string, string>()
function sound(name: string): string {
  let known = sounds.get(name)
  if (known === undefined) {
    if (sounds.size > 200_000) sounds.clear()
    known = doubleMetaphone(name)[0] || name
    sounds.set(name, known)
  }
  return known
}
