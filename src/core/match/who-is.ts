import { against, type Own } from './against'
import type { Agreement } from './compare'
import { type Candidate, match, type Match, type MatchKeys } from './same'
import { scored } from './scored'

/** A row of a file: what it is matched by, and what it is compared by. */
export interface RowKeys extends MatchKeys {
  own: Own
}

/** Somebody known who shares a key with the row, or is like it. */
export interface KnownOne extends Candidate {
  own: Own
}

/** Finds out who is like the row, where no key decides. */
export interface Likeness {
  /** Those who may be like it, besides those who share a key. */
  like(): readonly KnownOne[]
  of(row: Own, known: Own): { chance: number; agreement: Agreement }
}

/**
 * Who a row is: by its keys; where they do not decide, by how likely it is each of those who are like it; and the same only where
 * nothing of the person's own speaks against it, unless an outside id says so. `isName` tells a given name from a slip of one.
 */
export function whoIs(row: RowKeys, near: readonly KnownOne[], likeness: Likeness | null, isName: (folded: string) => boolean): Match {
  let found = match(row, [...near])
  const all = new Map(near.map((known) => [known.id, known]))
  if (likeness && (found.is === 'new' || (found.is === 'in doubt' && found.openly))) {
    for (const known of likeness.like()) all.set(known.id, known)
    const otherId = (known: KnownOne) => row.outsideId !== null && known.outsideId !== null && known.outsideId !== row.outsideId
    const alike = scored([...all.values()].map((known) => ({ id: known.id, otherId: otherId(known), ...likeness.of(row.own, known.own) })))
    // A household shares its phone and often an initial; who shares an organisation or an email besides is one.
    if (found.is === 'new' || (alike.is === 'same' && sharesMore(row, all.get(alike.id)))) found = alike
  }
  if (found.is !== 'same' || found.by === 'outside id') return found
  const known = all.get(found.id)
  const speaks = known ? against(row.own, known.own, isName) : null
  return speaks
    ? { is: 'in doubt', ids: [found.id], why: `the ${found.by} ${found.by.includes('and') ? 'say' : 'says'} so, but ${speaks.why}` }
    : found
}

function sharesMore(row: RowKeys, known: KnownOne | undefined): boolean {
  return (
    known !== undefined &&
    ((row.organisation !== null && known.organisation === row.organisation) || row.emails.some((e) => known.emails.includes(e)))
  )
}
