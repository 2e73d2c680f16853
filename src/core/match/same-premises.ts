import { fold } from '../clean/fold'
import { metresApart, type Position } from '../clean/premises'
import type { Match } from './same'

/** What premises are known by. */
export interface PremisesKeys {
  outsideId: string | null
  /** Null where they are named by nothing but their street. */
  name: string | null
  address: string | null
  position: Position | null
}

/** Premises of one name this near to each other are one, in metres (common practice, no source). */
const NEAR = 60

/**
 * Whether a row is premises we know. Same: the outside id; the address with the same name, or where either has none; the
 * name within sixty metres. In doubt: the same address under another name, or several that it could be.
 */
export function matchPremises(row: PremisesKeys, known: (PremisesKeys & { id: number })[]): Match {
  const name = (p: PremisesKeys) => (p.name ? fold(p.name) : null)
  const same: { id: number; by: string }[] = []
  const maybe: number[] = []
  for (const p of known) {
    if (row.outsideId !== null && row.outsideId === p.outsideId) return { is: 'same', id: p.id, by: 'outside id' }
    const named = name(row) !== null && name(row) === name(p)
    if (row.address !== null && row.address === p.address) {
      if (named || name(row) === null || name(p) === null) same.push({ id: p.id, by: named ? 'address and name' : 'address' })
      else maybe.push(p.id)
    } else if (named && row.position && p.position && metresApart(row.position, p.position) <= NEAR)
      same.push({ id: p.id, by: 'name and position' })
  }
  const others = row.outsideId === null ? same : same.filter(({ id }) => known.find((p) => p.id === id)?.outsideId === null)
  if (others.length === 1) return { is: 'same', ...others[0] }
  if (same.length > 0)
    return {
      is: 'in doubt',
      ids: same.map((s) => s.id),
      why: same.length > 1 ? 'it could be any of several premises' : `the ${same[0].by} are those of premises with another outside id`,
    }
  return maybe.length > 0 ? { is: 'in doubt', ids: maybe, why: 'premises of another name have its address' } : { is: 'new' }
}
