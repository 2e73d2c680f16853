import type { Schema } from 'yup'
import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { PersonRecord } from '../columns/person-record'

/** What a question about a record can answer. *Unknown* is a missing value, never a no. */
export type Verdict = 'yes' | 'no' | 'unknown'

/** The answer for everybody: two disjoint sets. Whoever is in neither answered no. */
export interface Answer {
  yes: Bitset
  unknown: Bitset
}

/** When and where a question is asked. `asOf` is UTC milliseconds, `zone` the list's IANA time zone. */
export interface Moment {
  asOf: number
  zone: string
}

/** A sentence in pieces: plain words, and chips that can be opened and changed. */
export type Phrase = { text: string } | { chip: string; field: string }

/** Fields of a person a criterion can ask about; each writes an entry to the ledger when it changes. */
export type AskedField = 'role' | 'town' | 'postcode' | 'relation' | 'email' | 'phone' | 'post' | 'contact'

/** One kind of criterion: its shape, its sentence, its verdict on one record and its evaluation over columns. */
export interface CriterionKind<C> {
  name: string
  /** Throws yup's ValidationError on anything that is not a whole criterion of this kind. */
  schema: Schema<C>
  /** A criterion to begin with when a line is added. */
  blank: C
  sentence(criterion: C): Phrase[]
  asks(criterion: C): AskedField[]
  /** The reference: what is true of one record. */
  verdict(criterion: C, record: PersonRecord, moment: Moment): Verdict
  /** The same over columns. A property test holds the two against each other. */
  evaluate(criterion: C, columns: PeopleColumns, moment: Moment): Answer
  /** Whether the answer depends on the day it is asked. */
  timed(criterion: C): boolean
}

/** Several values of one part of a sentence, a chip each; `blank` stands where there is none yet. */
export function chips(values: readonly string[], field: string, blank: string): Phrase[] {
  if (values.length === 0) return [{ chip: blank, field }]
  return values.flatMap((chip, i) => (i === 0 ? [{ chip, field }] : [{ text: 'or' }, { chip, field }]))
}
