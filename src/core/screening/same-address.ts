import { boolean, type InferType, object, string } from 'yup'
import { CHANNELS, type Channel } from '../records/channels'
import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { type RuleKind, ruleParts, type Seat, type StillOpen, type Wait } from './kind'
import { FIRST, rankedNumbers } from './ranked'

const COLLEAGUES = ['share an email only', 'share everything'] as const

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['same-address'] as const)
    .required(),
  off: boolean().default(false),
  /** What people of one organisation are taken to share: a switchboard and an office are no household. */
  colleagues: string().oneOf(COLLEAGUES).required(),
  /** Who stays. */
  first: string().oneOf(FIRST).required(),
}).noUnknown()
export type SameAddressRule = InferType<typeof schema>

/**
 * One contact an address or number in a round: of those who would be contacted at the same one, the first stays and the others wait
 * on that channel. In a supplement everybody waits behind whom its round released there. The address somebody would be contacted at is the first of theirs that is open; another one that they have is not
 * turned to. It goes by who is left, so that nobody waits behind somebody who is held back.
 */
export const sameAddress: RuleKind<SameAddressRule> = {
  name: 'Same address or number',
  about: 'contacts a household or a shared inbox once: one person stays, the others wait on that channel',
  schema,
  usual: { off: false, colleagues: 'share an email only', first: 'longest in the directory' },
  form: [
    {
      key: 'colleagues',
      label: 'People of one organisation',
      is: 'one',
      of: [
        ['share an email only', 'count for a shared email alone'],
        ['share everything', 'count for a shared number and address, too'],
      ],
    },
    { key: 'first', label: 'Who stays', is: 'one', of: FIRST.map((own) => [own, own]) },
  ],
  optional: true,
  sentence: () => [{ text: 'Same address or number as somebody who stays' }],
  note: ({ first, colleagues }) =>
    `one contact a household or inbox: ${first} first${colleagues === 'share everything' ? '' : '; colleagues may share a number or a postal address'}`,
  closes: () => null,
  mark: () => {},
  waits(rule, columns, open, moment, channels) {
    const waiting = new Map<number, Wait[]>()
    for (const own of channels) {
      for (const { seated, members } of sharing(rule, own, columns, open, moment.seats?.of ?? [])) {
        const order = rankedNumbers(rule.first, columns, open, members)
        const behind = seated ?? columns.idAt(order[0])
        const wait: Wait = { evidence: { kind: 'shares', channel: own, with: behind }, channels: [own] }
        for (const n of seated === null ? order.slice(1) : order) {
          const known = waiting.get(n)
          if (known) known.push(wait)
          else waiting.set(n, [wait])
        }
      }
    }
    return waiting
  },
}

/**
 * The sets of record numbers who would be contacted at one address by a channel: each of two or more, or of one and more beside whom the
 * round released there (an id). Only rows that share their key with another of the list are looked at: most have nobody else.
 */
function sharing(
  rule: SameAddressRule,
  channel: Channel,
  columns: PeopleColumns,
  open: StillOpen,
  seats: readonly Seat[],
): Iterable<{ seated: number | null; members: number[] }> {
  const { channel: channels, key } = columns.addresses.fields
  const place = CHANNELS.indexOf(channel)
  // Colleagues share a number and a postal address without being one household.
  const apart = (n: number) => channel !== 'email' && rule.colleagues === 'share an email only' && columns.employer.at(n) >= 0
  const taken = takenKeys(
    seats.filter((seat) => seat.channel === channel),
    columns,
    apart,
  )
  const sets = new Map<number, { seated: number | null; members: number[] }>()
  const firsts = new Map<number, number>()
  const { owner } = columns.addresses
  const join = (row: number) => {
    if (channels[row] !== place || key[row] === 0) return
    const n = owner[row]
    if (!open.clear[channel].has(n) || apart(n)) return
    // Contacted at the first of theirs that is open.
    for (let other = columns.addresses.first(n); other < row; other++) if (channels[other] === place && open.rows.has(other)) return
    const set = sets.get(key[row])
    const [seated, before] = [taken.get(key[row]), firsts.get(key[row])]
    if (set) set.members.push(n)
    else if (seated !== undefined) sets.set(key[row], { seated, members: [n] })
    else if (before !== undefined) sets.set(key[row], { seated: null, members: [before, n] })
    else firsts.set(key[row], n)
  }
  // Beside whom a round released, somebody may be who shares with nobody of this list.
  const rows = taken.size > 0 ? open.rows : open.rows.and(open.shared)
  rows.forEach(join)
  return sets.values()
}

/** By the key of an address whom a round released there. */
function takenKeys(seats: readonly Seat[], columns: PeopleColumns, apart: (n: number) => boolean): Map<number, number> {
  const { id, key } = columns.addresses.fields
  const taken = new Map<number, number>()
  for (const { person, address } of seats) {
    const n = columns.numberFor(person)
    if (n === undefined || apart(n)) continue
    const first = columns.addresses.first(n)
    for (let row = first; row < first + columns.addresses.count(n); row++)
      if (id[row] === address && key[row] !== 0 && !taken.has(key[row])) taken.set(key[row], person)
  }
  return taken
}

/**
 * Of some rows of `columns.addresses` those whose key another of them has by the same channel. Keys are found by a table with open
 * addressing, since most stand alone and nothing is made for those.
 */
export function sharedRows(rows: Bitset, columns: PeopleColumns): Bitset {
  const { channel, key } = columns.addresses.fields
  const size = 1 << Math.max(4, Math.ceil(Math.log2(Math.max(1, rows.count()) * 2)))
  const firsts = new Int32Array(size).fill(-1)
  const shared = new Bitset(columns.addresses.rows)
  rows.forEach((row) => {
    if (key[row] === 0) return
    let at = ((key[row] % 2147483647) + channel[row]) & (size - 1)
    for (; firsts[at] >= 0; at = (at + 1) & (size - 1)) {
      if (key[firsts[at]] !== key[row] || channel[firsts[at]] !== channel[row]) continue
      shared.add(firsts[at])
      shared.add(row)
      return
    }
    firsts[at] = row
  })
  return shared
}
