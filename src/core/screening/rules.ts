import type { Address } from '../records/person-record'
import type { Moment, Phrase } from '../criteria/kind'
import type { PeopleColumns } from '../columns/people-columns'
import { Bitset } from '../columns/bitset'
import { CHANNEL_NAME, CHANNELS, type Channel } from '../records/channels'
import { type AddressFailedRule, addressFailed } from './address-failed'
import { type AddressQualityRule, addressQuality } from './address-quality'
import { type CallingHoursRule, callingHours } from './calling-hours'
import { countryAt, countryOf } from './country-of'
import { countryName } from '../clean/country'
import { type LegalBasisRule, legalBasis } from './legal-basis'
import { type QuietDaysRule, quietDays } from './quiet-days'
import { type RegisterAgeRule, registerAge } from './register-age'
import { type AnotherRoundRule, anotherRound } from './another-round'
import { type AskedToStopRule, askedToStop } from './asked-to-stop'
import { type AttemptsRule, attempts } from './attempts'
import { type ContactedWithinRule, contactedWithin } from './contacted-within'
import { type GoneQuietRule, goneQuiet } from './gone-quiet'
import { type CustomersRule, customers } from './customers'
import type { Evidence, Marks, RuleKind, ScreenedRecord, ScreeningMoment } from './kind'
import { NO_WAY, type NoWayRule, noWayToReach } from './no-way-to-reach'
import { type MessageRequestsRule, messageRequests } from './message-requests'
import { type OneChannelRule, oneChannel } from './one-channel'
import { type PerOrganisationRule, perOrganisation } from './per-organisation'
import { type RegisterRule, register } from './register'
import { type SameAddressRule, sameAddress } from './same-address'

export type Rule =
  | NoWayRule
  | AskedToStopRule
  | RegisterRule
  | RegisterAgeRule
  | AddressFailedRule
  | AddressQualityRule
  | CustomersRule
  | ContactedWithinRule
  | AttemptsRule
  | GoneQuietRule
  | AnotherRoundRule
  | LegalBasisRule
  | QuietDaysRule
  | CallingHoursRule
  | PerOrganisationRule
  | SameAddressRule
  | MessageRequestsRule
  | OneChannelRule
export type RuleName = Rule['kind']

/** Every kind of rule there is, in the order in which they are offered. */
export const RULES = {
  'no-way-to-reach': noWayToReach,
  'asked-to-stop': askedToStop,
  register,
  'register-age': registerAge,
  'address-failed': addressFailed,
  'address-quality': addressQuality,
  customers,
  'contacted-within': contactedWithin,
  attempts,
  'gone-quiet': goneQuiet,
  'another-round': anotherRound,
  'legal-basis': legalBasis,
  'quiet-days': quietDays,
  'calling-hours': callingHours,
  'per-organisation': perOrganisation,
  'same-address': sameAddress,
  'message-requests': messageRequests,
  'one-channel': oneChannel,
} as const

/** More would be more than anybody can answer for. */
export const MOST_RULES = 40

/** Returns the kind of a rule: its words, form and verdicts. */
export function ruleKind(rule: Rule): RuleKind<Rule> {
  return RULES[rule.kind] as unknown as RuleKind<Rule>
}

/** The name of a rule of a policy by its id, with what tells it from another of its kind. */
export function ruleNamed(rules: readonly Rule[], id: string): string {
  const rule = rules.find((own) => own.id === id)
  if (!rule) return 'a rule that is gone'
  const { named, name } = ruleKind(rule)
  return named?.(rule) ?? (rules.filter((own) => own.kind === rule.kind).length > 1 ? ruleText(rule) : name)
}

/** A rule as its sentence says it. */
export const ruleText = (rule: Rule): string =>
  ruleKind(rule)
    .sentence(rule)
    .map((phrase, i, all) => `${'text' in phrase ? phrase.text : phrase.chip}${spaceAfter(all, i)}`)
    .join('')

/** What stands between a piece of a sentence and the next: a space, but not before a comma and not at the end. */
export function spaceAfter(phrases: readonly Phrase[], i: number): '' | ' ' {
  const next = phrases[i + 1]
  return next === undefined || ('text' in next && next.text.startsWith(',')) ? '' : ' '
}

/** Whether a rule is switched off. */
export function isOff(rule: Rule): boolean {
  return 'off' in rule && rule.off === true
}

/** Whether a rule is about a set of records, such as those of one organisation, and so runs after all rules about one record. */
export const isOfSet = (rule: Rule): boolean => ruleKind(rule).waits !== undefined

/** Since when some rules ask about contacts of others of the same organisation or household; null where none does. */
export function aroundSince(rules: readonly Rule[], moment: Moment): number | null {
  const since = rules.flatMap((rule) => (isOff(rule) ? [] : (ruleKind(rule).around?.(rule, moment) ?? [])))
  return since.length === 0 ? null : Math.min(...since)
}

/** Rules in the order in which they run: those about a set after all others, each in the order they were given. */
export const inStages = (rules: readonly Rule[]): Rule[] => [...rules.filter((rule) => !isOfSet(rule)), ...rules.filter(isOfSet)]

/** The channels a rule covers. */
export const covered = (rule: Rule): readonly Channel[] => ('channels' in rule && rule.channels ? rule.channels : CHANNELS)

/** The countries whose addresses a rule covers; null where it covers all. */
export const countriesOf = (rule: Rule): readonly string[] | null => ('countries' in rule && rule.countries ? rule.countries : null)

/** The channels and countries a rule is limited to, in words; null where it covers all that its kind does. */
export function coverText(rule: Rule): string | null {
  const channels = 'channels' in rule ? rule.channels : undefined
  const countries = countriesOf(rule)
  const said = [
    ...(channels ? [`only ${listed(channels.map((c) => CHANNEL_NAME[c]))}`] : []),
    ...(countries ? [`only ${countriesText(countries)}`] : []),
  ]
  return said.length > 0 ? said.join(', ') : null
}

/** Words one after the other: “email, post and direct message”. */
const listed = (words: readonly string[]): string => words.join(', ').replace(/, ([^,]*)$/, ' and $1')

/** Some countries in words; many of them by their number. */
export const countriesText = (countries: readonly string[]): string =>
  countries.length > 4 ? `${countries.length} countries` : listed(countries.map(countryName))

/** The reference: why a rule closes one usable address of a record, or null. */
export function closedBy(rule: Rule, record: ScreenedRecord, address: Address, moment: ScreeningMoment): Evidence | null {
  if ('channels' in rule && rule.channels && !rule.channels.some((c) => c === address.channel)) return null
  const countries = countriesOf(rule)
  const country = countries && countryOf(record, address)
  if (countries && country && !countries.includes(country)) return null
  return ruleKind(rule).closes(rule, record, address, moment)
}

/** The same over columns: the rows of `columns.addresses` that a rule closes, among the listed people. */
export function marksOf(rule: Rule, columns: PeopleColumns, listed: Bitset, moment: ScreeningMoment): Marks {
  const marks: Marks = { final: new Bitset(), ours: new Bitset() }
  ruleKind(rule).mark(rule, columns, listed, moment, marks)
  const countries = countriesOf(rule)
  const channels = 'channels' in rule ? rule.channels : undefined
  if (!channels && !countries) return marks
  const covered = CHANNELS.map((channel) => !channels || channels.includes(channel))
  const elsewhere = (row: number) => {
    const country = countries && countryAt(columns, row)
    return countries !== null && country !== null && !countries.includes(country)
  }
  const { channel } = columns.addresses.fields
  for (const rows of [marks.final, marks.ours])
    rows.clone().forEach((row) => {
      if (!covered[channel[row]] || elsewhere(row)) rows.delete(row)
    })
  return marks
}

/** The rules of the first edition of a team's first policy. */
export function firstPolicy(): Rule[] {
  return [
    { id: NO_WAY, kind: NO_WAY },
    { id: 'asked-to-stop', kind: 'asked-to-stop' },
    { id: 'register', kind: 'register', version: null, goodFor: 31 },
    { id: 'address-failed', kind: 'address-failed', off: false },
    { id: 'customers', kind: 'customers', off: false, relations: ['customer', 'our own people'] },
    { id: 'contacted-within', kind: 'contacted-within', off: false, days: 30, closes: 'every channel' },
    { id: 'another-round', kind: 'another-round', off: false, closes: 'every channel' },
  ]
}

/**
 * Checks rules that came from outside: each whole, no id twice, *no way to reach* first, and none of those that cannot be
 * left out missing. Throws an Error that names the rule and what is wrong.
 */
export function validRules(value: unknown): Rule[] {
  if (!Array.isArray(value)) throw new Error('the rules are missing')
  if (value.length > MOST_RULES) throw new Error(`there are more than ${MOST_RULES} rules`)
  const rules = value.map((raw) => {
    const kind = Object.hasOwn(RULES, String(raw?.kind)) ? RULES[raw.kind as RuleName] : undefined
    if (!kind) throw new Error(`no such rule: ${String(raw?.kind)}`)
    try {
      return kind.schema.validateSync(raw, { strict: true }) as Rule
    } catch (error) {
      throw new Error(`${kind.name}: ${(error as Error).message}`)
    }
  })
  const ids = new Set<string>()
  for (const rule of rules) {
    // The id of a rule that cannot be left out is its kind, so that no other rule may take it.
    const others = Object.hasOwn(RULES, rule.id) && !RULES[rule.id as RuleName].optional && rule.kind !== rule.id
    if (ids.has(rule.id) || others) throw new Error(`${ruleKind(rule).name}: its id “${rule.id}” stands twice`)
    ids.add(rule.id)
  }
  for (const [name, kind] of Object.entries(RULES))
    if (!kind.optional && !rules.some((rule) => rule.kind === name)) throw new Error(`${kind.name}: cannot be left out`)
  if (rules[0].kind !== NO_WAY) throw new Error(`${noWayToReach.name}: stands first`)
  return inStages(rules)
}

/** An id for a new rule of a kind that none of some rules has. */
export function newRuleId(kind: RuleName, rules: readonly Rule[]): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? kind : `${kind}-${n}`
    if (!rules.some((rule) => rule.id === id)) return id
  }
}
