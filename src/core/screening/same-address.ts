import { boolean, type InferType, object, string } from 'yup'
import { CHANNELS, type Channel } from '../records/channels'
import { type RuleKind, ruleParts, type Wait } from './kind'
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
    const { channel, key } = columns.addresses.fields
    for (const own of channels) {
      const place = CHANNELS.indexOf(own)
      const shared = new Map<string, number[]>()
      open.clear[own].forEach((n) => {
        const first = columns.addresses.first(n)
        for (let row = first; row < first + columns.addresses.count(n); row++) {
          if (channel[row] !== place || !open.rows.has(row)) continue
          if (key[row] === 0) return
          const mark = apart(rule, own, columns.employer.at(n), n)
          const at = `${key[row]}${mark}`
          const group = shared.get(at)
          if (group) group.push(n)
          else shared.set(at, [n])
          return
        }
      })
      for (const members of shared.values()) {
        if (members.length < 2) continue
        const [stays, ...others] = rankedNumbers(rule.first, columns, open, members)
        for (const n of others) {
          const wait: Wait = { evidence: { kind: 'shares', channel: own, with: columns.idAt(stays) }, channels: [own] }
          const known = waiting.get(n)
          if (known) known.push(wait)
          else waiting.set(n, [wait])
        }
      }
    }
    return waiting
  },
}

/** What keeps somebody out of the set of an address: colleagues share a number and a postal address without being one household. */
const apart = ({ colleagues }: SameAddressRule, channel: Channel, employer: number, n: number): string =>
  employer >= 0 && channel !== 'email' && colleagues === 'share an email only' ? `|${n}` : ''
