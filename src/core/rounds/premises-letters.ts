import type { PostalParts } from '../clean/postal'
import {
  type HeldPremises,
  heldPremises,
  type LetterOwner,
  type LetterPerson,
  type LetterPlace,
  PREMISES_RULES,
  type PremisesRule,
  peopleNamed,
  ruleApplies,
  type ScreenedPremises,
} from '../screening/premises'
import type { LetterChoice } from './letter-choice'

/** One letter of a round of premises. */
export interface PremisesLetter {
  addressee: string
  postal: PostalParts
  /** ISO 3166-1 alpha-2; null where it is at home. */
  country: string | null
  /** Whom it names, of the directory. */
  people: number[]
  organisation: number | null
  /** Whether it names somebody. */
  named: boolean
  /** The premises it is about, those it names first. */
  premises: number[]
  /** Those it names, in words. */
  about: string
}

export interface LetterFigures {
  /** Premises on the list. */
  opening: number
  /** The rules that are asked, in their order. */
  rules: { rule: PremisesRule; out: number; balance: number }[]
  /** Premises that get a letter. */
  clear: number
  letters: number
  /** Letters about several premises: who gets one instead of several. */
  several: number
  abroad: number
  named: number
}

export interface LettersMade {
  figures: LetterFigures
  held: Map<number, HeldPremises>
  letters: PremisesLetter[]
}

/**
 * Screens premises for letters and makes them: each is held back by the first rule that closes it, or is in exactly one letter. Several at
 * one address, and several of one owner at one address of theirs, share a letter. Letters come in the order in which post is sorted: those
 * at home first, by postcode, town and street.
 */
export function lettersTo(all: readonly ScreenedPremises[], choice: LetterChoice, since: string | null): LettersMade {
  const held = new Map<number, HeldPremises>()
  const together = new Map<string, ScreenedPremises[]>()
  for (const own of all) {
    const why = heldPremises(own, choice, since)
    if (why) held.set(own.id, why)
    else {
      const key = letterKey(own, choice)
      const others = together.get(key)
      if (others) others.push(own)
      else together.set(key, [own])
    }
  }
  const letters = [...together.values()].map((own) => letterTo(own, choice)).sort(bySorting)
  return { figures: figuresOf(all.length, held, letters, choice), held, letters }
}

const placeOf = (of: ScreenedPremises, { to }: LetterChoice): LetterPlace =>
  (to === 'owner' ? (of.owner as LetterOwner).place : of.place) as LetterPlace

const letterKey = (of: ScreenedPremises, choice: LetterChoice): string =>
  JSON.stringify([choice.to === 'owner' ? (of.owner as LetterOwner).key : '', placeOf(of, choice).key])

function letterTo(several: readonly ScreenedPremises[], choice: LetterChoice): PremisesLetter {
  const about = [...several].sort(byFirst(choice.first))
  const [first] = about
  const place = placeOf(first, choice)
  const people =
    choice.to === 'owner'
      ? [first.owner?.person ?? []].flat()
      : peopleNamed(first.people, several.find(({ owner }) => owner?.person)?.owner ?? null, choice)
  const addressee = choice.to === 'owner' ? (first.owner as LetterOwner).name : addresseeOf(people, choice)
  return {
    addressee,
    postal: place.postal,
    country: place.country,
    people: people.map(({ id }) => id),
    organisation: choice.to === 'owner' ? (first.owner as LetterOwner).organisation : null,
    named: choice.to === 'owner' || people.length > 0,
    premises: about.map(({ id }) => id),
    about: listed(
      about.map(({ name }) => name),
      choice.most,
    ),
  }
}

/** The name line of a letter to whoever is there. */
function addresseeOf(people: readonly LetterPerson[], { wording, resident }: LetterChoice): string {
  if (people.length === 0) return resident
  if (wording === 'name or resident')
    return `${people[0].name} or ${resident.replace(/^\p{Lu}(?=\p{Ll})/u, (letter) => letter.toLowerCase())}`
  return householdName(people)
}

/**
 * The people of a household in one line: "Ada and Ben Whitlock", "Ada Whitlock and Ben Cole" (common practice, no source). Of more than
 * three the first three are named.
 */
export function householdName(people: readonly Pick<LetterPerson, 'given' | 'family' | 'name'>[]): string {
  const named = people.slice(0, 3)
  const [{ family }] = named
  const one = named.length > 1 && family !== '' && named.every((person) => person.family === family && person.given !== '')
  const names = named.map((person, i) => (one && i < named.length - 1 ? person.given : person.name))
  return people.length > 3 ? `${names.join(', ')} and others` : joined(names)
}

const joined = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`

/** The first names of some, and how many there are besides. */
function listed(names: readonly string[], most: number): string {
  const more = names.length - most
  return more > 0 ? `${names.slice(0, most).join(', ')} and ${more} more` : joined(names)
}

const text = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)
const last = <T extends string | number>(a: T | null, b: T | null): number =>
  a === b ? 0 : a === null ? 1 : b === null ? -1 : a > b ? -1 : 1

function byFirst(first: LetterChoice['first']) {
  return (a: ScreenedPremises, b: ScreenedPremises): number =>
    (first === 'latest' ? last(a.takenOver, b.takenOver) : first === 'largest' ? last(a.size, b.size) : 0) ||
    text(a.name, b.name) ||
    a.id - b.id
}

/** Post is sorted by postcode; within one, by street, and by house number as people count (common practice, no source). */
const STREETS = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

function bySorting(a: PremisesLetter, b: PremisesLetter): number {
  const parts = ({ country, postal, addressee }: PremisesLetter) => [
    country ?? '',
    postal.postcode ?? '\uffff',
    postal.town ?? '',
    postal.street ?? '',
    addressee,
  ]
  const [own, other] = [parts(a), parts(b)]
  for (const [i, part] of own.entries()) {
    const order = STREETS.compare(part, other[i]) || text(part, other[i])
    if (order !== 0) return order
  }
  return a.premises[0] - b.premises[0]
}

function figuresOf(
  opening: number,
  held: Map<number, HeldPremises>,
  letters: readonly PremisesLetter[],
  choice: LetterChoice,
): LetterFigures {
  const outs = new Map<PremisesRule, number>()
  for (const { rule } of held.values()) outs.set(rule, (outs.get(rule) ?? 0) + 1)
  let balance = opening
  const rules = PREMISES_RULES.filter((rule) => ruleApplies(rule, choice)).map((rule) => {
    const out = outs.get(rule) ?? 0
    balance -= out
    return { rule, out, balance }
  })
  const count = (of: (letter: PremisesLetter) => boolean) => letters.filter(of).length
  return {
    opening,
    rules,
    clear: balance,
    letters: letters.length,
    several: count(({ premises }) => premises.length > 1),
    abroad: count(({ country }) => country !== null),
    named: count(({ named }) => named),
  }
}
