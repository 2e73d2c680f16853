import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { Address } from '../records/person-record'
import { type Evidence, inForce, type ScreenedRecord } from './kind'
import { type Channel, CHANNELS } from '../records/channels'
import { type Reason, REASONS, type Suppression } from '../records/suppression'

/** The suppression, for one of some reasons, that closes an address: of the person or their organisation first, then of the address itself. */
export function suppressionOf(record: ScreenedRecord, address: Address, reasons: readonly Reason[], asOf: number): Evidence | null {
  const counts = (s: Suppression) => reasons.includes(s.reason) && s.channels.includes(address.channel) && inForce(s, asOf)
  const person = record.suppressions.find(counts)
  if (person) return { kind: 'suppression', suppression: person.id, of: 'person', reason: person.reason }
  const shared = address.suppressions.find(counts)
  return shared ? { kind: 'suppression', suppression: shared.id, of: 'address', reason: shared.reason } : null
}

/** Marks the address rows that suppressions for one of some reasons close, among the listed people; of one channel, or of all. */
export function markSuppressed(
  columns: PeopleColumns,
  listed: Bitset,
  reasons: readonly Reason[],
  asOf: number,
  marks: Bitset,
  only?: Channel,
): void {
  const { rows, owners, reason, since, until } = suppressedRows(columns)
  const channels = columns.addresses.fields.channel
  const channel = only === undefined ? -1 : CHANNELS.indexOf(only)
  const asked = REASONS.map((r) => reasons.includes(r))
  for (let i = 0; i < rows.length; i++) {
    if (!asked[reason[i]] || since[i] > asOf || asOf >= until[i]) continue
    if (channel >= 0 && channels[rows[i]] !== channel) continue
    if (listed.has(owners[i])) marks.add(rows[i])
  }
}

/** Between which instants nothing begins or ends, of those that were asked about last. */
const steady = new WeakMap<PeopleColumns, { version: string; from: number; until: number }>()

/** Names the stretch of time around an instant in which the same suppressions are in force. */
export function stretchOf(columns: PeopleColumns, asOf: number): string {
  let last = steady.get(columns)
  if (last?.version !== columns.suppressionsVersion || asOf < last.from || asOf >= last.until) {
    const { since, until } = suppressedRows(columns)
    let [from, to] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]
    for (const instants of [since, until])
      for (let i = 0; i < instants.length; i++) {
        const at = instants[i]
        if (at <= asOf) from = at > from ? at : from
        else if (at < to) to = at
      }
    steady.set(columns, (last = { version: columns.suppressionsVersion, from, until: to }))
  }
  return `${last.version} ${last.from} ${last.until}`
}

/** Every address row with every suppression that is on it or on whose it is, and that is of its channel, side by side. */
interface SuppressedRows {
  version: string
  rows: Int32Array
  /** Record numbers of whose the rows are. */
  owners: Int32Array
  /** Indices in REASONS. */
  reason: Uint8Array
  since: Float64Array
  /** Infinity where it has no end. */
  until: Float64Array
}

const known = new WeakMap<PeopleColumns, SuppressedRows>()

/** The same until a suppression changes: a rule that is edited asks for it again and again. */
function suppressedRows(columns: PeopleColumns): SuppressedRows {
  const before = known.get(columns)
  if (before?.version === columns.suppressionsVersion) return before
  const rows: number[] = []
  const owners: number[] = []
  const of: Suppression[] = []
  const channels = columns.addresses.fields.channel
  const add = (n: number, row: number, suppressions: readonly Suppression[]) => {
    for (const s of suppressions) {
      if (!s.channels.includes(CHANNELS[channels[row]])) continue
      rows.push(row)
      owners.push(n)
      of.push(s)
    }
  }
  for (const [n, byAddress] of columns.addressSuppressed)
    byAddress.forEach((suppressions, i) => add(n, columns.addresses.first(n) + i, suppressions))
  for (const [n, own] of columns.suppressed)
    for (let i = columns.addresses.count(n) - 1; i >= 0; i--) add(n, columns.addresses.first(n) + i, own)
  const fresh = {
    version: columns.suppressionsVersion,
    rows: Int32Array.from(rows),
    owners: Int32Array.from(owners),
    reason: Uint8Array.from(of, (s) => REASONS.indexOf(s.reason)),
    since: Float64Array.from(of, (s) => s.since),
    until: Float64Array.from(of, (s) => s.until ?? Number.POSITIVE_INFINITY),
  }
  known.set(columns, fresh)
  return fresh
}
