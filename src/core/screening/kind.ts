import { array, type Schema, string } from 'yup'
import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { AddressState } from '../records/address-state'
import type { Address, PersonRecord } from '../records/person-record'
import type { Moment, Phrase } from '../criteria/kind'
import { type Channel, CHANNELS, type Way } from '../records/channels'
import type { Relation } from '../records/relations'
import { isFinalReason, type Reason, type Suppression } from '../records/suppression'

/** A record cleared for one channel of the round by a named person with a written reason. */
export interface LetThrough {
  person: number
  channel: Channel
}

/** Of an allowance of requests: how many people were asked in its days, how many of them answered, and how many other open rounds are still to ask. */
export interface Allowance {
  used: number
  refunded: number
  toCome: number
}

/** A contact that a round released: to whom, by which channel and to which address. */
export interface Seat {
  person: number
  channel: Channel
  address: number
}

/**
 * When and where a list is screened. Contacts to come of `exceptRounds` do not count: those rounds are being ended.
 * `letThrough` opens a channel again that nothing but rules of our own closed.
 */
export interface ScreeningMoment extends Moment {
  exceptRounds: number[]
  letThrough: readonly LetThrough[]
  /**
   * Of a supplement: what its round released already, so that rules about a set count it. Somebody whose contact a suppression stopped has
   * no seat. `print` tells one set of seats from another.
   */
  seats?: { print: string; of: readonly Seat[] }
  /** What was used of each allowance, by the id of its rule. */
  allowances?: Readonly<Record<string, Allowance>>
  /** The public holiday of today by country, where there is one and a rule asks. */
  holidays?: Readonly<Record<string, string>>
  /** Set when a contact is about to be made: the time zones the person may be in. */
  now?: { zones: readonly string[] }
}

/** What rules can ask about a record. */
export type ScreenedRecord = Pick<
  PersonRecord,
  'id' | 'relation' | 'addresses' | 'suppressions' | 'contacts' | 'toCome' | 'around' | 'custom' | 'country' | 'offLimits'
>

/** What a rule rests on when it closes an address of somebody. Ids are looked up for the page that is shown. */
export type Evidence =
  | { kind: 'no-address'; channel: Channel; unusable: boolean }
  | { kind: 'suppression'; suppression: number; of: 'person' | 'address'; reason: Reason }
  | { kind: 'register-out-of-date'; version: string }
  | { kind: 'relation'; relation: Relation | null }
  | { kind: 'contact'; at: number; channel: Way; by: string; of?: number }
  | { kind: 'failed'; address: number; at: number; soft?: number }
  | { kind: 'contact-to-come'; round: number; channel: Channel }
  | { kind: 'quality'; address: number; state: AddressState; checkedAt: number | null; known: boolean }
  | { kind: 'unanswered'; count: number; first: number; last: number }
  | { kind: 'waits'; most: number; behind: number[]; of?: 'household' }
  | { kind: 'off-limits'; by: string }
  | { kind: 'basis'; basis: string | null; until: string | null }
  | { kind: 'quiet-day'; day: string; country: string | null }
  | { kind: 'hours'; zone: string | null; clock: string | null; from: string; until: string }
  | { kind: 'shares'; channel: Channel; with: number }
  | { kind: 'allowance'; most: number; days: number; left: number }
  /** Where no channel is left, what keeps them from one; without it, the plan uses none of theirs. */
  | { kind: 'planned'; by: Channel | null; because?: 'wanted' | 'budget' | 'limits' }

/** What nobody can let through: an opt-out, a complaint, a legal register, and where there is no address at all. */
export function isFinal(evidence: Evidence): boolean {
  return (
    evidence.kind === 'no-address' ||
    evidence.kind === 'register-out-of-date' ||
    (evidence.kind === 'suppression' && isFinalReason(evidence.reason))
  )
}

/** What every rule of a kind that may stand more than once has: an id for life, and the channels it covers, all where it is not said. */
export const ruleParts = {
  id: string()
    .matches(/^[a-z][a-z0-9-]{0,39}$/, 'the id of a rule is 1 to 40 small letters, digits and dashes')
    .required(),
  channels: array(string().oneOf(CHANNELS).required()).min(1, 'choose at least one channel').optional(),
}

/** What a rule about one record has besides: the countries whose addresses it covers, all where it is not said, and where its figures are from. */
export const recordRuleParts = {
  ...ruleParts,
  countries: array(
    string()
      .matches(/^[A-Z]{2}$/, 'countries: two capital letters each')
      .required(),
  )
    .min(1, 'choose at least one country')
    .max(60)
    .optional(),
  source: string().max(300).optional(),
}

/** Whether what a rule finds closes every channel, or only the one it happened by. */
export const CLOSES = {
  key: 'closes',
  label: 'A contact closes',
  is: 'one',
  of: [
    ['every channel', 'every channel'],
    ['the same channel', 'only the channel it was made by'],
  ],
} as const

/** The id of a rule that every policy has once: it is the name of its kind. */
export const onlyId = <K extends string>(kind: K) =>
  string()
    .oneOf([kind] as const)
    .required()

/** Rows of `columns.addresses` that a rule closes: those for good, and those that somebody may let through. */
export interface Marks {
  final: Bitset
  ours: Bitset
}

/** A setting of a rule as its form shows it: a number (what leaving it empty means, where it may be), one of some choices, or several of them (all where none is chosen, if `all` says so). */
export type RuleField<R> =
  | { key: keyof R & string; label: string; is: 'number'; least: number; most: number; unit: string; empty?: string }
  | { key: keyof R & string; label: string; is: 'one'; of: readonly (readonly [value: string, title: string])[] }
  | { key: keyof R & string; label: string; is: 'some'; of: readonly (readonly [value: string, title: string])[]; all?: string }

/** Who is still open when a rule about a set begins: by each channel it covers, by any of them, and which rows of `columns.addresses` are. */
export interface StillOpen {
  clear: Record<Channel, Bitset>
  anyone: Bitset
  rows: Bitset
  /** Rows of `columns.addresses` whose key another row of the list has by the same channel; all that are open can share only with these. */
  shared: Bitset
}

/** Behind whom somebody waits, and on which channels. */
export interface Wait {
  evidence: Evidence
  channels: readonly Channel[]
}

/**
 * One kind of rule. A rule closes addresses; a channel of somebody is closed when its last usable address is, and the
 * rule that closed that one decides. Rules about one record commute, so their order moves counts and nobody's clearance.
 */
export interface RuleKind<R> {
  name: string
  /** What a rule is called where its settings make it another thing than its kind’s name says. */
  named?(rule: R): string
  /** What it does, for whoever chooses a rule to add. */
  about: string
  schema: Schema<R>
  /** The rule in words, with the parts that can be changed. */
  sentence(rule: R): Phrase[]
  /** A second, softer line: what counts and what an unknown does. */
  note(rule: R, moment: Moment & Pick<ScreeningMoment, 'allowances'>): string
  /** The settings a new rule of the kind begins with. */
  usual: Omit<R, 'id' | 'kind'>
  /** The settings that can be changed, for its form. */
  form: readonly RuleField<R>[]
  /** Whether the rule can be switched off. What the law or the person themselves asks for cannot. */
  optional: boolean
  /** The reference: why one usable address of a record is closed, or null. What is final comes before what is not. */
  closes(rule: R, record: ScreenedRecord, address: Address, moment: ScreeningMoment): Evidence | null
  /**
   * Of a rule about a set: who of those still open after all rules about one record must wait, by record number, on which of the channels
   * it covers and behind whom. Such rules run in the policy's order, each on who is left; they close nothing by themselves.
   */
  waits?(rule: R, columns: PeopleColumns, open: StillOpen, moment: ScreeningMoment, channels: readonly Channel[]): Map<number, Wait[]>
  /** Since when contacts of others of the same organisation or household are asked about; null where they are not. */
  around?(rule: R, moment: Moment): number | null
  /** The same over columns: marks the rows of `columns.addresses` that the rule closes, among the listed people. */
  mark(rule: R, columns: PeopleColumns, listed: Bitset, moment: ScreeningMoment, marks: Marks): void
}

/** Whether a suppression holds at a moment: since is inclusive, until is not. */
export function inForce(suppression: Suppression, asOf: number): boolean {
  return suppression.since <= asOf && (suppression.until === null || asOf < suppression.until)
}

/** Marks all rows of a person, or those of some channels (by index). */
export function markRows(columns: PeopleColumns, n: number, rows: Bitset, channel?: (index: number) => boolean): void {
  const first = columns.addresses.first(n)
  const end = first + columns.addresses.count(n)
  const channels = columns.addresses.fields.channel
  for (let row = first; row < end; row++) if (!channel || channel(channels[row])) rows.add(row)
}
