import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import type { Bitset } from '../columns/bitset'
import { CHANNELS } from '../records/channels'
import { contactedSince, GROUP_NAME, groupsOf } from './groups'
import { GROUPS } from '../records/person-record'
import { type RuleKind, ruleParts, type Wait } from './kind'
import { FIRST, NAMED, rankedNumbers } from './ranked'

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['per-organisation'] as const)
    .required(),
  off: boolean().default(false),
  /** So many of one organisation or household at most stay clear in a round. */
  most: number().integer().min(1).max(1000).required(),
  /** Who counts together; the people of one organisation where it is not said. */
  of: string().oneOf(GROUPS).optional(),
  /** Whoever was contacted in the last so many calendar days counts as well; this round alone where it is not said. */
  days: number().integer().min(1).max(3650).optional(),
  /** Who stays. */
  first: string().oneOf(FIRST).required(),
}).noUnknown()
export type PerOrganisationRule = InferType<typeof schema>

/**
 * At most so many people of one organisation or household, in this round and among those contacted in the days before. Whoever belongs to
 * none is not limited. It goes by who is left after all rules about one record, so that nobody waits behind somebody who is held
 * back. Whoever was contacted in those days counts already, and so does whom the round of a supplement released: if nothing else holds them back, they stay and take nobody's place. Whoever
 * waits can be let through, and takes nobody's place either.
 */
export const perOrganisation: RuleKind<PerOrganisationRule> = {
  name: 'At most so many of one organisation',
  about: 'keeps so many of each organisation or household, the best of them first, and holds the others back',
  schema,
  usual: { off: false, most: 3, first: 'most ways to reach' },
  form: [
    { key: 'most', label: 'At most', is: 'number', least: 1, most: 1000, unit: 'people' },
    {
      key: 'of',
      label: 'Of',
      is: 'one',
      of: [
        ['organisation', 'one organisation'],
        ['household', 'one household: the same postal address, and no organisation'],
      ],
    },
    {
      key: 'days',
      label: 'Whoever was contacted before counts',
      is: 'number',
      least: 1,
      most: 3650,
      unit: 'days',
      empty: 'this round alone',
    },
    { key: 'first', label: 'Who stays', is: 'one', of: FIRST.map((own) => [own, own]) },
  ],
  optional: true,
  sentence: ({ most, of = 'organisation', days }) => [
    { text: 'At most' },
    { chip: `${most} of ${GROUP_NAME[of]}`, field: 'most' },
    ...(days === undefined ? [] : [{ text: 'in' }, { chip: `${days} days`, field: 'days' }]),
  ],
  note: ({ first, of = 'organisation', days }) =>
    `of those who are left: ${first} first; whoever has no ${of} is not limited${days === undefined ? '' : '; whoever was contacted in these days counts'}`,
  around: ({ days }, { asOf, zone }) => (days === undefined ? null : withinDaysFrom(asOf, days, zone)),
  closes: () => null,
  mark: () => {},
  waits(rule, columns, open, moment, channels) {
    const by = rule.of ?? 'organisation'
    const groups = groupsOf(columns, by)
    const counts = new Int32Array(groups.size)
    open.anyone.forEach((n) => {
      if (groups.of[n] >= 0) counts[groups.of[n]]++
    })
    const contacted =
      rule.days === undefined ? null : contactedSince(columns, groups, CHANNELS, withinDaysFrom(moment.asOf, rule.days, moment.zone))
    // Whom the round of a supplement released takes a place of its group as well.
    const seated = new Map<number, number[]>()
    for (const person of new Set(moment.seats?.of.map((seat) => seat.person))) {
      const n = columns.numberFor(person)
      const group = n === undefined ? -1 : groups.of[n]
      if (n === undefined || group < 0 || contacted?.members.get(group)?.includes(n)) continue
      seated.set(group, [...(seated.get(group) ?? []), n])
    }
    const before = (group: number): readonly number[] => {
      const [own, others] = [contacted?.members.get(group), seated.get(group)]
      return own && others ? [...own, ...others] : (own ?? others ?? [])
    }
    const sizes = counts.slice()
    if (contacted) for (let group = 0; group < sizes.length; group++) sizes[group] += contacted.counts[group]
    for (const [group, own] of seated) sizes[group] += own.length
    const waiting = new Map<number, Wait[]>()
    for (const [group, members] of largeGroups(counts, sizes, rule.most, groups.of, open.anyone)) {
      const counted = before(group)
      const fresh = counted.length === 0 ? members : members.filter((n) => !counted.includes(n))
      const room = Math.max(0, rule.most - counted.length)
      if (fresh.length <= room) continue
      const order = rankedNumbers(rule.first, columns, open, fresh)
      const behind = [...counted, ...order.slice(0, room)].slice(0, NAMED).map((n) => columns.idAt(n))
      const wait: Wait[] = [{ evidence: { kind: 'waits', most: rule.most, behind, ...(by === 'household' ? { of: by } : {}) }, channels }]
      for (const n of order.slice(room)) waiting.set(n, wait)
    }
    return waiting
  },
}

/** The groups that may be too many by their `sizes`, with who of them is open: only these are looked into. One array holds them all, group after group. */
function* largeGroups(
  counts: Int32Array,
  sizes: Int32Array,
  most: number,
  of: Int32Array,
  open: Bitset,
): Generator<[group: number, members: Int32Array]> {
  const ends = new Int32Array(counts.length)
  let total = 0
  for (let group = 0; group < counts.length; group++) if (counts[group] > 0 && sizes[group] > most) ends[group] = total += counts[group]
  const all = new Int32Array(total)
  const next = new Int32Array(counts.length)
  for (let group = 0; group < counts.length; group++) next[group] = ends[group] - counts[group]
  open.forEach((n) => {
    const group = of[n]
    if (group >= 0 && ends[group] > 0) all[next[group]++] = n
  })
  for (let group = 0; group < ends.length; group++)
    if (ends[group] > 0) yield [group, all.subarray(ends[group] - counts[group], ends[group])]
}
