import { boolean, type InferType, object, string } from 'yup'
import { CHANNELS, type Channel } from '../records/channels'
import type { PeopleColumns } from '../columns/people-columns'
import { type RuleKind, ruleParts, type StillOpen, type Wait } from './kind'
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
 * on that channel. The address somebody would be contacted at is the first of theirs that is open; another one that they have is not
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
  waits(rule, columns, open, _moment, channels) {
    const waiting = new Map<number, Wait[]>()
    for (const own of channels) {
      for (const members of sharing(rule, own, columns, open)) {
        const [stays, ...others] = rankedNumbers(rule.first, columns, open, members)
        const wait: Wait = { evidence: { kind: 'shares', channel: own, with: columns.idAt(stays) }, channels: [own] }
        for (const n of others) {
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
 * The sets of record numbers who would be contacted at one address by a channel, each of two or more. Addresses are found by a table of
 * their keys with open addressing: most have nobody else, and nothing is made for those.
 */
function sharing(rule: SameAddressRule, channel: Channel, columns: PeopleColumns, open: StillOpen): Iterable<number[]> {
  const { channel: channels, key } = columns.addresses.fields
  const place = CHANNELS.indexOf(channel)
  const apart = channel !== 'email' && rule.colleagues === 'share an email only'
  const size = 1 << Math.max(4, Math.ceil(Math.log2(Math.max(1, open.clear[channel].count()) * 2)))
  const keys = new Float64Array(size)
  const firsts = new Int32Array(size)
  const sets = new Map<number, number[]>()
  open.clear[channel].forEach((n) => {
    // Colleagues share a number and a postal address without being one household.
    if (apart && columns.employer.at(n) >= 0) return
    const first = columns.addresses.first(n)
    const end = first + columns.addresses.count(n)
    let row = first
    while (row < end && (channels[row] !== place || !open.rows.has(row))) row++
    if (row === end || key[row] === 0) return
    let at = (key[row] % 2147483647) & (size - 1)
    while (keys[at] !== 0 && keys[at] !== key[row]) at = (at + 1) & (size - 1)
    if (keys[at] === 0) {
      keys[at] = key[row]
      firsts[at] = n
      return
    }
    const set = sets.get(at)
    if (set) set.push(n)
    else sets.set(at, [firsts[at], n])
  })
  return sets.values()
}
