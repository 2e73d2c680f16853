import type { Schema } from 'yup'
import type { AreaShape } from '../areas/shape'
import type { CustomKey } from '../clean/custom'
import type { FieldUnit } from '../clean/standard-fields'
import type { Bitset } from '../columns/bitset'
import type { ColumnsOf } from '../columns/directory'
import type { OrganisationRecord } from '../records/organisation-record'
import type { PersonRecord } from '../records/person-record'
import type { PremisesRecord } from '../records/premises-record'
import type { Subject } from '../records/subject'
import type { SubjectColumns } from '../columns/subject-columns'
import type { SubjectRecord } from '../records/subject-record'
import type { WordColumn } from '../columns/words'

/** What a question about a record can answer. *Unknown* is a missing value, never a no. */
export type Verdict = 'yes' | 'no' | 'unknown'

/** The answer for everybody: two disjoint sets. Whoever is in neither answered no. */
export interface Answer {
  yes: Bitset
  unknown: Bitset
}

/** Who belongs to something that a line only names: another list, or a set of people who were picked. */
export interface Members {
  set: Bitset
  has(id: number): boolean
}

/**
 * When, where and among what a question is asked. `asOf` is UTC milliseconds, `zone` the list's IANA time zone.
 * `members` holds what lines name, by the key they name it by; `lastRounds` the number of each list's last released round
 * and `releasedAt` when that was (UTC milliseconds).
 */
export interface Moment {
  asOf: number
  zone: string
  members?: ReadonlyMap<string, Members>
  /** Areas that lines name, by their number. */
  areas?: ReadonlyMap<number, AreaShape>
  lastRounds?: Readonly<Record<number, number>>
  releasedAt?: Readonly<Record<number, number>>
}

/** A sentence in pieces: plain words, and chips that can be opened and changed. */
export type Phrase = { text: string } | { chip: string; field: string }

/** Fields of a person a criterion can ask about; each writes an entry to the ledger when it changes. */
export type AskedField =
  | 'role'
  | 'organisation'
  | 'name'
  | 'website'
  | 'street'
  | 'position'
  | 'kind'
  | 'roof area'
  | 'year built'
  | 'owner'
  | 'kind of owner'
  | 'industry'
  | 'headCount'
  | 'county'
  | 'town'
  | 'postcode'
  | 'relation'
  | 'tags'
  | 'email'
  | 'phone'
  | 'post'
  | 'direct'
  | 'contact'
  | 'change'
  | 'batch'
  | 'round'
  | 'list'
  | CustomKey

/** What a criterion asks about: records of one subject, or whatever the list is of. */
export type About = Subject | 'any'

export interface RecordOf {
  person: PersonRecord
  organisation: OrganisationRecord
  premises: PremisesRecord
  any: SubjectRecord
}
export type AskedColumns = ColumnsOf & { any: SubjectColumns }

/** Where a kind of criterion stands among the others when a line is added. */
export const GROUPS = ['who they are', 'their organisation', 'where', 'premises', 'reach', 'history', 'lists'] as const
export type Group = (typeof GROUPS)[number]

/** What a form asks for, for kinds of criterion that need none of their own. */
export type Form =
  | { of: 'choices'; legend: string; all: readonly string[]; hint?: string }
  | { of: 'words'; label: string; known?: KnownWord; hint?: string }
  | { of: 'says'; hint?: string }
  | { of: 'range'; label: string; unit: FieldUnit | undefined; hint?: string; bands?: readonly RangeBand[] }
  | { of: 'time'; label: string; hint?: string }

/** A band that is offered beside the two ends of a range; either may be open. */
export interface RangeBand {
  least: number | null
  most: number | null
}

/** Words that stand in the directory and are offered while a line is written. */
export type KnownWord =
  | 'towns'
  | 'counties'
  | 'industries'
  | 'tags'
  | 'languages'
  | 'earlier'
  | 'holders'
  | 'premisesKinds'
  | 'countries'
  | 'regions'
  | 'districts'

/**
 * One kind of criterion: its shape, its sentence, its verdict on one record and its evaluation over columns. A list of
 * another subject asks it of what its records belong to: an organisation's of the people who work there, premises' of
 * whoever has them for an address.
 */
export interface CriterionKind<C, A extends About = 'person'> {
  name: string
  /** Other words people look for it by, in small letters. */
  synonyms: readonly string[]
  of: A
  group: Group
  /** How a list made of such a line is called: its chips between two words, or its whole sentence where chips alone say nothing. */
  inName: 'sentence' | { before: string; after: string }
  /** Whether a record has one value at most, so that two questions without a value in common cannot both be yes. */
  single: boolean
  /** A question whose unknown are those of every question of this kind; null where it knows of everybody or needs more to be asked. */
  probe: C | null
  /** The criterion with each list, area or batch it names handed to `call` and replaced by what that gives. */
  named: (criterion: C, call: CallNamed) => C
  /** Throws yup's ValidationError on anything that is not a whole criterion of this kind. */
  schema: Schema<C>
  /** A criterion to begin with when a line is added. */
  blank: C
  sentence(criterion: C): Phrase[]
  /** Set where the sentence begins with something of theirs: everyone *whose* role says, not everyone *who*. */
  whose?: true
  form?: Form
  asks(criterion: C): AskedField[]
  /** The reference: what is true of one record. */
  verdict(criterion: C, record: RecordOf[A], moment: Moment): Verdict
  /** The same over columns. A property test holds the two against each other. */
  evaluate(criterion: C, columns: AskedColumns[A], moment: Moment): Answer
  /**
   * What the answer depends on besides the criterion, the zone and the columns: the local day, the last round. Null when
   * it is not worth keeping.
   */
  varies(criterion: C, moment: Moment): string | null
}

/** What a criterion names: another list by its members or by its rounds, an area, a batch, a territory. */
export type Named =
  /** `edition` is null for the latest; `of` is what the list must be of, null where it is of what the line's own list is. */
  | { what: 'list'; edition: number | null; of: Subject | null }
  | { what: 'rounds' }
  | { what: 'area' }
  | { what: 'batch' }
  | { what: 'territory' }
export type CallNamed = <T extends { id: number; name: string }>(thing: T, named: Named) => T

/** For criteria that name no list, area or batch. */
export const namesNothing = <C>(criterion: C): C => criterion

/** For criteria whose answer hangs on nothing but the criterion and the columns. */
export const steady = (): string => ''

/** Evaluates a question about a column of words: what each word answers, by code (1 and 0, or true and false); unknown where it is null or there is no word. */
export function byWord(columns: SubjectColumns, column: WordColumn, asked: readonly (boolean | null)[] | Uint8Array): Answer {
  const said = new Uint8Array(asked.length + 1)
  said[0] = 2
  for (let code = 0; code < asked.length; code++) said[code + 1] = asked[code] === null ? 2 : asked[code] ? 1 : 0
  return columns.live.splitByCode(column.all, said)
}

/** Several values of one part of a sentence, a chip each; `blank` stands where there is none yet. */
export function chips(values: readonly string[], field: string, blank: string): Phrase[] {
  if (values.length === 0) return [{ chip: blank, field }]
  return values.flatMap((chip, i) => (i === 0 ? [{ chip, field }] : [{ text: 'or' }, { chip, field }]))
}

/** How a sentence says a range of which an end may be open; `blank` where both are. */
export function rangeText(
  least: string | null,
  most: string | null,
  [more, less]: readonly [string, string] = ['or more', 'or less'],
  blank = 'what?',
): string {
  if (least !== null && most !== null) return least === most ? least : `${least} to ${most}`
  return least !== null ? `${least} ${more}` : most !== null ? `${most} ${less}` : blank
}
