import type { OwnerKind } from '../clean/premises'
import type { PostalParts } from '../clean/postal'
import type { Reason } from '../records/suppression'
import type { Relation } from '../records/relations'
import type { LetterChoice } from '../rounds/letter-choice'

/** Where a letter would go, and what stands against it there. */
export interface LetterPlace {
  postal: PostalParts
  /** ISO 3166-1 alpha-2; null where it is at home. */
  country: string | null
  /** What tells one address from another: its comparable form. */
  key: string
  /** Why letters to the address are suppressed, and why those to the household there; null where they are not. */
  held: { address: Reason | null; household: Reason | null }
  /** Why somebody who gets post there wants none; null where nobody asked us to stop. */
  asked: Reason | null
  /** Whether the newest letter there came back. */
  cameBack: boolean
  /** The last day on which a round sent a letter there. */
  written: string | null
  /** The open round, other than this, that is about to. */
  inRound: string | null
  /** Whether an earlier round of the list sent one there. */
  before: boolean
}

/** Somebody whom a letter could name. */
export interface LetterPerson {
  id: number
  given: string
  family: string
  name: string
  /** What they are ordered by. */
  sort: string
  /** Whether they are there for an organisation, and do not live there. */
  works: boolean
  relation: Relation | null
  /** Why letters to them are suppressed. */
  held: Reason | null
  /** The last day on which somebody wrote to them by post. */
  written: string | null
  /** The open round, other than this, that is about to. */
  inRound: string | null
}

export interface LetterOwner {
  name: string
  /** What tells one owner from another: the comparable form of their name. */
  key: string
  kind: OwnerKind | null
  place: LetterPlace | null
  person: LetterPerson | null
  organisation: number | null
  /** Why letters to whoever of the directory has that name are suppressed. */
  held: Reason | null
}

/** Premises as they are screened for letters. */
export interface ScreenedPremises {
  id: number
  name: string
  /** Null where no letter can be addressed to them. */
  place: LetterPlace | null
  /** Whoever of the directory is at their address, in the order of their names. */
  people: readonly LetterPerson[]
  owner: LetterOwner | null
  /** When they were last taken over, and how large they are (m²). */
  takenOver: string | null
  size: number | null
}

/** The rules that premises pass, in their order; the first that closes decides. */
export const PREMISES_RULES = [
  'no owner',
  'owner kind',
  'no address',
  'abroad',
  'address',
  'household',
  'owner',
  'people',
  'no name',
  'customer',
  'earlier round',
  'written',
  'open round',
] as const
export type PremisesRule = (typeof PREMISES_RULES)[number]

export const PREMISES_RULE_NAME: Record<PremisesRule, string> = {
  'no owner': 'No owner on record',
  'owner kind': 'Kinds of owners that get no letter',
  'no address': 'No postal address',
  abroad: 'Owners abroad',
  address: 'Address asked to stop, or held back',
  household: 'Household asked to stop, or held back',
  owner: 'Owner asked to stop, or held back',
  people: 'Somebody there asked to stop, or is held back',
  'no name': 'Nobody there is known by name',
  customer: 'Customers and our own people',
  'earlier round': 'Got a letter of an earlier round',
  written: 'Written to lately',
  'open round': 'In another open round',
}

/** Whether a rule is asked at all under a choice. */
export function ruleApplies(rule: PremisesRule, choice: LetterChoice): boolean {
  const toOwner = choice.to === 'owner'
  if (rule === 'no owner') return toOwner
  if (rule === 'owner kind') return toOwner && choice.without.length > 0
  if (rule === 'abroad') return toOwner && !choice.abroad
  if (rule === 'people') return !toOwner
  if (rule === 'no name') return !toOwner && (choice.wording === 'name' || choice.wording === 'household')
  if (rule === 'customer') return !choice.customers
  if (rule === 'earlier round') return choice.onlyNew
  return rule !== 'written' || choice.restDays !== null
}

export interface HeldPremises {
  rule: PremisesRule
  /** The reason of the suppression that closed it. */
  reason: Reason | null
  /** What else it rests on: a day, the name of a round, a kind of owner. */
  detail: string | null
}

/** Those whose letters rounds leave out where customers get none. */
const OURS: readonly (Relation | null)[] = ['customer', 'our own people']
const ASKED: readonly Reason[] = ['opt-out', 'complaint']

/** Why no letter may go to some premises on a day; null where one may. `since`: letters of that day and later count. */
export function heldPremises(of: ScreenedPremises, choice: LetterChoice, since: string | null): HeldPremises | null {
  const held = (rule: PremisesRule, reason: Reason | null = null, detail: string | null = null): HeldPremises => ({ rule, reason, detail })
  const { owner } = of
  const toOwner = choice.to === 'owner'
  if (toOwner && !owner) return held('no owner')
  if (toOwner && owner?.kind && choice.without.includes(owner.kind)) return held('owner kind', null, owner.kind)
  const place = toOwner ? (owner as LetterOwner).place : of.place
  if (!place) return held('no address')
  if (toOwner && !choice.abroad && place.country !== null) return held('abroad', null, place.country)
  if (place.held.address) return held('address', place.held.address)
  if (place.cameBack) return held('address', 'returned post')
  if (place.held.household) return held('household', place.held.household)
  if (owner?.held) return held('owner', owner.held)
  const people = toOwner ? [owner?.person ?? []].flat() : of.people
  if (!toOwner) {
    const against = heldByPeople(of.people, place.asked, choice)
    if (against) return against
  }
  if (!choice.customers) {
    const ours = [...people, ...(owner?.person ? [owner.person] : [])].find((person) => OURS.includes(person.relation))
    if (ours) return held('customer', null, ours.relation)
  }
  if (choice.onlyNew && place.before) return held('earlier round')
  const named = toOwner ? people : peopleNamed(of.people, owner, choice)
  const last = [place.written, ...named.map(({ written }) => written)].reduce((a, b) => (b !== null && (a === null || b > a) ? b : a), null)
  if (since !== null && last !== null && last >= since) return held('written', null, last)
  const round = place.inRound ?? named.find(({ inRound }) => inRound !== null)?.inRound
  return round ? held('open round', null, round) : null
}

/** What the people at an address hold back: where nobody is named, whoever gets post there and asked us to stop speaks for the house. */
function heldByPeople(people: readonly LetterPerson[], askedThere: Reason | null, { wording }: LetterChoice): HeldPremises | null {
  const asked = people.find(({ held }) => held !== null && ASKED.includes(held))
  if (wording === 'resident' || wording === 'name or resident') {
    const reason = asked?.held ?? askedThere
    return reason ? { rule: 'people', reason, detail: null } : null
  }
  if (people.some(({ held }) => held === null)) return null
  const [first] = people
  return first ? { rule: 'people', reason: (asked ?? first).held, detail: null } : { rule: 'no name', reason: null, detail: null }
}

/** Whom a letter to whoever is at an address names: only those who are clear, the owner first, then those who live there. */
export function peopleNamed(people: readonly LetterPerson[], owner: LetterOwner | null, { wording }: LetterChoice): LetterPerson[] {
  if (wording === 'resident') return []
  const rank = (person: LetterPerson) => (person.id === owner?.person?.id ? 0 : person.works ? 2 : 1)
  const clear = people
    .filter(({ held }) => held === null)
    .sort((a, b) => rank(a) - rank(b) || (a.sort < b.sort ? -1 : a.sort > b.sort ? 1 : a.id - b.id))
  if (wording !== 'household') return clear.slice(0, 1)
  // Those who work there are no household.
  const home = clear.filter(({ works }) => !works)
  return home.length > 0 ? home : clear.slice(0, 1)
}
