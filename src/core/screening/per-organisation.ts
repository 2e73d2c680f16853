import { boolean, type InferType, number, object, string } from 'yup'
import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS } from '../records/channels'
import { type Evidence, type RuleKind, ruleParts, type StillOpen } from './kind'

const FIRST = ['most ways to reach', 'least often contacted', 'longest in the directory'] as const

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['per-organisation'] as const)
    .required(),
  off: boolean().default(false),
  /** So many of one organisation at most stay clear in a round. */
  most: number().integer().min(1).max(1000).required(),
  /** Who stays. */
  first: string().oneOf(FIRST).required(),
}).noUnknown()
export type PerOrganisationRule = InferType<typeof schema>

/** So many of those who wait behind others are named in their evidence. */
const NAMED = 3

/** One of several who are still open, as they are ranked. */
export interface Ranked {
  id: number
  ways: number
  contacts: number
}

/** Who of one organisation comes before whom; even ones by id, so that the order is always the same. */
export function ranked(first: PerOrganisationRule['first'], members: readonly Ranked[]): Ranked[] {
  const by = (a: Ranked, b: Ranked) =>
    first === 'most ways to reach' ? b.ways - a.ways : first === 'least often contacted' ? a.contacts - b.contacts : 0
  return [...members].sort((a, b) => by(a, b) || a.id - b.id)
}

/**
 * At most so many of one organisation in a round. Whoever has no organisation is not limited. It goes by who is left after all rules
 * about one record, so that nobody waits behind somebody who is held back. Whoever waits can be let through, and takes nobody's place.
 */
export const perOrganisation: RuleKind<PerOrganisationRule> = {
  name: 'At most so many of one organisation',
  about: 'keeps so many of each organisation, the best of them first, and holds the others back',
  schema,
  usual: { off: false, most: 3, first: 'most ways to reach' },
  form: [
    { key: 'most', label: 'Of one organisation at most', is: 'number', least: 1, most: 1000, unit: 'people' },
    { key: 'first', label: 'Who stays', is: 'one', of: FIRST.map((own) => [own, own]) },
  ],
  optional: true,
  sentence: ({ most }) => [{ text: 'At most' }, { chip: `${most} of one organisation`, field: 'most' }],
  note: ({ first }) => `of those who are left: ${first} first; whoever has no organisation is not limited`,
  closes: () => null,
  mark: () => {},
  waits(rule, columns, open) {
    const groups = new Map<number, number[]>()
    open.anyone.forEach((n) => {
      const organisation = columns.employer.at(n)
      if (organisation < 0) return
      const group = groups.get(organisation)
      if (group) group.push(n)
      else groups.set(organisation, [n])
    })
    const waiting = new Map<number, Evidence>()
    for (const group of groups.values()) {
      if (group.length <= rule.most) continue
      const order = ranked(
        rule.first,
        group.map((n) => rankOf(columns, n, open)),
      )
      const behind = order.slice(0, Math.min(rule.most, NAMED)).map(({ id }) => id)
      for (const { id } of order.slice(rule.most)) waiting.set(columns.numberFor(id) as number, { kind: 'waits', most: rule.most, behind })
    }
    return waiting
  },
}

const rankOf = (columns: PeopleColumns, n: number, open: StillOpen): Ranked => ({
  id: columns.idAt(n),
  ways: CHANNELS.filter((channel) => open.clear[channel].has(n)).length,
  contacts: columns.contacts.count(n),
})
