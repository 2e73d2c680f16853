import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { type Address, type Channel, CHANNELS, type Reason, type Suppression } from '../columns/person-record'
import { type Evidence, inForce, type ScreenedRecord } from './kind'

/** The suppression, for one of some reasons, that closes an address: of the person or their organisation first, then of the address itself. */
export function suppressionOf(record: ScreenedRecord, address: Address, reasons: readonly Reason[], asOf: number): Evidence | null {
  const counts = (s: Suppression) => reasons.includes(s.reason) && s.channels.includes(address.channel) && inForce(s, asOf)
  const person = record.suppressions.find(counts)
  if (person) return { kind: 'suppression', suppression: person.id, of: 'person', reason: person.reason }
  const shared = address.suppressions.find(counts)
  return shared ? { kind: 'suppression', suppression: shared.id, of: 'address', reason: shared.reason } : null
}

/** Marks the address rows that suppressions for one of some reasons close, among the listed people; of one channel, or of all. */
export function markSuppressed(columns: PeopleColumns, listed: Bitset, reasons: readonly Reason[], asOf: number, rows: Bitset, only?: Channel): void {
  const channels = columns.addresses.fields.channel
  const counts = (s: Suppression, row: number) => {
    const channel = CHANNELS[channels[row]]
    return reasons.includes(s.reason) && s.channels.includes(channel) && (only === undefined || only === channel) && inForce(s, asOf)
  }
  for (const [n, byAddress] of columns.addressSuppressed) {
    if (!listed.has(n)) continue
    const first = columns.addresses.first(n)
    for (let i = 0; i < byAddress.length; i++) for (const s of byAddress[i]) if (counts(s, first + i)) rows.add(first + i)
  }
  for (const [n, own] of columns.suppressed) {
    if (!listed.has(n)) continue
    const first = columns.addresses.first(n)
    for (let i = columns.addresses.count(n) - 1; i >= 0; i--) for (const s of own) if (counts(s, first + i)) rows.add(first + i)
  }
}
