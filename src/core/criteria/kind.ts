import type { Schema } from 'yup'
import type { CustomKey } from '../clean/custom'
import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { PersonRecord } from '../columns/person-record'
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
 * `members` holds what lines name, by the key they name it by; `lastRounds` the number of each list's last released round.
 */
export interface Moment {
  asOf: number
  zone: string
  members?: ReadonlyMap<string, Members>
  lastRounds?: Readonly<Record<number, number>>
}

/** A sentence in pieces: plain words, and chips that can be opened and changed. */
export type Phrase = { text: string } | { chip: string; field: string }

/** Fields of a person a criterion can ask about; each writes an entry to the ledger when it changes. */
export type AskedField = 'role' | 'organisation' | 'industry' | 'headCount' | 'county' | 'town' | 'postcode' | 'relation' | 'tags' | 'email' | 'phone' | 'post' | 'contact' | 'batch' | 'round' | 'list' | CustomKey

/** One kind of criterion: its shape, its sentence, its verdict on one record and its evaluation over columns. */
export interface CriterionKind<C> {
  name: string
  /** Throws yup's ValidationError on anything that is not a whole criterion of this kind. */
  schema: Schema<C>
  /** A criterion to begin with when a line is added. */
  blank: C
  sentence(criterion: C): Phrase[]
  /** Set where the sentence begins with something of theirs: everyone *whose* role says, not everyone *who*. */
  whose?: true
  asks(criterion: C): AskedField[]
  /** The reference: what is true of one record. */
  verdict(criterion: C, record: PersonRecord, moment: Moment): Verdict
  /** The same over columns. A property test holds the two against each other. */
  evaluate(criterion: C, columns: PeopleColumns, moment: Moment): Answer
  /**
   * What the answer depends on besides the criterion, the zone and the columns: the local day, the last round. Null when
   * it is not worth keeping.
   */
  varies(criterion: C, moment: Moment): string | null
}

/** For criteria whose answer hangs on nothing but the criterion and the columns. */
export const steady = (): string => ''

/** Evaluates a question about a column of words: what each word answers, by code; unknown where it is null or there is no word. */
export function byWord(columns: PeopleColumns, column: WordColumn, asked: readonly (boolean | null)[]): Answer {
  const said = Uint8Array.from(asked, (yes) => (yes === null ? 2 : yes ? 1 : 0))
  return columns.live.split((n) => {
    const code = column.codeAt(n)
    return code < 0 ? 2 : said[code]
  })
}

/** Several values of one part of a sentence, a chip each; `blank` stands where there is none yet. */
export function chips(values: readonly string[], field: string, blank: string): Phrase[] {
  if (values.length === 0) return [{ chip: blank, field }]
  return values.flatMap((chip, i) => (i === 0 ? [{ chip, field }] : [{ text: 'or' }, { chip, field }]))
}
