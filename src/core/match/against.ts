import { inLatin } from '../clean/fold'
import type { Comparable } from './compare'
import { numbersOf, unitOf } from './dwelling'
import { standsFor } from './nicknames'
import { slipped } from './similar'

/** Two people compared by what is a person's own: besides the common fields, which of their addresses and numbers nobody else has. */
export interface Own extends Comparable {
  /** Emails that are no mailbox of a post; phones that are mobiles. */
  ownEmails: readonly string[]
  mobiles: readonly string[]
}

/** What speaks against two records being one, in words; and whether it does so even where an email or mobile of their own agrees. */
export interface Against {
  why: string
  always: boolean
}

/**
 * What speaks against two records being one that agree otherwise, most telling first; null where nothing does. `isName` tells a given
 * name from a slip of one. Two records are one only where nothing of the person's own contradicts, or something of it agrees.
 */
export function against(a: Own, b: Own, isName: (folded: string) => boolean): Against | null {
  const found = [
    generations(a, b),
    givenNames(a, b, isName),
    dwellings(a, b),
    differ(a.ownEmails, b.ownEmails, 'email'),
    differ(a.mobiles, b.mobiles, 'mobile'),
  ].filter((x) => x !== null)
  return found.find(({ always }) => always) ?? (agrees(a, b) ? null : (found[0] ?? null))
}

/** Whether something of a person's own is the same: an email or a mobile. */
const agrees = (a: Own, b: Own): boolean => a.ownEmails.some((e) => b.ownEmails.includes(e)) || a.mobiles.some((m) => b.mobiles.includes(m))

/** Senior and junior are two; where only one is told, it may be either. */
function generations(a: Comparable, b: Comparable): Against | null {
  const [one, other] = [a.generation ?? '', b.generation ?? '']
  if (one === other) return null
  return {
    why: one && other ? `one is ${one}, the other ${other}` : `one is called ${one || other}, the other not`,
    always: one !== '' && other !== '',
  }
}

/** *Jan* and *Jon* are two names, whatever the letters have in common; *Jhon* is none. */
function givenNames(a: Comparable, b: Comparable, isName: (folded: string) => boolean): Against | null {
  const [one, other] = [inLatin(a.given).split(' ')[0], inLatin(b.given).split(' ')[0]]
  if (one === other || one.length < 2 || other.length < 2 || standsFor(one, other)) return null
  // Turned round, the given name of one is the family name of the other.
  if (inLatin(a.family) === other || inLatin(b.family) === one) return null
  return isName(one) && isName(other) ? { why: `${one} and ${other} are two names`, always: true } : null
}

/** Two flats of one house are two homes. */
function dwellings(a: Comparable, b: Comparable): Against | null {
  const [one, other] = [unitOf(a.street), unitOf(b.street)]
  if (one === other || !one || !other || numbersOf(a.street).rest !== numbersOf(b.street).rest) return null
  return { why: `one is at ${one}, the other at ${other}`, always: false }
}

/** Both have one of their own, and none is the same, nor a slip of the pen away. */
function differ(a: readonly string[], b: readonly string[], what: string): Against | null {
  if (a.length === 0 || b.length === 0 || a.some((x) => b.some((y) => x === y || slipped(x, y)))) return null
  return { why: `each has another ${what} of their own`, always: false }
}
