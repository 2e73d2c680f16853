import { comparableStreet } from '../clean/postal'
import type { StreetRange } from './shape'

/** Whether a house on a street lies in any of some ranges; null where a range asks for the number of a house that has none. */
export function streetTest(ranges: readonly StreetRange[]): {
  asked: (street: string) => StreetRange[]
  holds: (ranges: readonly StreetRange[], house: number | null) => boolean | null
} {
  const byStreet = new Map<string, StreetRange[]>()
  for (const range of ranges) {
    const key = comparableStreet(range.street)
    byStreet.set(key, [...(byStreet.get(key) ?? []), range])
  }
  return { asked: (street) => byStreet.get(comparableStreet(street)) ?? [], holds }
}

function holds(ranges: readonly StreetRange[], house: number | null): boolean | null {
  let missing = false
  for (const { from, to, side } of ranges) {
    if (from === null && to === null && side === 'both') return true
    if (house === null) missing = true
    else if (
      (from === null || house >= from) &&
      (to === null || house <= to) &&
      (side === 'both' || (side === 'odd') === (house % 2 === 1))
    )
      return true
  }
  return missing ? null : false
}
