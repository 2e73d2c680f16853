import type { CustomField } from '../clean/custom'
import type { ContactRow } from '../clean/contact-row'
import type { PersonRow } from '../clean/person-row'
import type { PremisesRow } from '../clean/premises-row'
import type { Refusal } from '../clean/cells'
import type { SuppressionRow } from '../clean/suppression-row'
import type { BatchKind, FieldRules, Guess, Mapping } from '../match/columns'
import type { Reading, ReadingChoices } from '../match/reading'
import type { Shaping } from '../match/shaping'
import type { PairSide, PairView } from './record-views'

/** Plain shapes that the intake is drawn from. Instants are ISO 8601 strings in UTC. */

/** What can become of a row of a file. */
export const OUTCOMES = ['new', 'same', 'updated', 'in doubt', 'refused'] as const
export type Outcome = (typeof OUTCOMES)[number]

/** What became of a row when its batch was undone. */
export const UNDONE = ['withdrawn', 'put back', 'reversed', 'kept', 'nothing to undo'] as const
export type Undone = (typeof UNDONE)[number]

export interface BatchIndexRow {
  id: number
  kind: BatchKind
  fileName: string
  state: Batch['state']
  at: string
  by: string
  rows: number | null
  done: number
  counts: Partial<Record<Outcome, number>>
}

export interface BatchAccount {
  batch: Omit<Batch, 'created_at' | 'finished_at' | 'undone_by' | 'first_rows'> & { at: string }
  counts: Record<Outcome, number>
  /** Once it is undone, or being undone: what became of its rows. */
  undone: { counts: Partial<Record<Undone, number>>; by: string } | null
  /** While it waits: the batch that the very same file came in with before. */
  twin: { id: number; name: string; at: string } | null
}

export interface BatchRowView {
  undone: { what: Undone; why: string | null } | null
  row: number
  raw: string[]
  reason: string | null
  person: { id: number; name: string } | null
  premises: { id: number; name: string } | null
  /** What the batch changed of the record, where the row did. */
  changes: FieldChange[]
  candidates: { id: number; name: string; organisation: string | null }[]
}

export interface Batch {
  id: number
  kind: BatchKind
  file_name: string
  state: 'mapping' | 'queued' | 'running' | 'done' | 'failed' | 'undoing' | 'undone'
  reading: Reading
  choices: ReadingChoices
  header: string[]
  first_rows: string[][] | null
  /** The list it is about, where an enquiry about one brought it. */
  list_id: number | null
  mapping: Mapping
  shaping: Shaping
  options: BatchOptions
  trial: BatchTrial | null
  rows_total: number | null
  rows_done: number
  error: string | null
  actor_id: string
  created_at: Date
  finished_at: Date | null
  undone_by: string | null
}

/** A field of a record that changes: what it was, and what it is then. */
export interface FieldChange {
  field: string
  before: string | null
  after: string | null
}

/** What would become of a file, found by bringing it in and taking all of it back before anybody sees it. */
export interface BatchTrial {
  /** What was tried: the kind and the mapping. */
  of: string
  state: 'running' | 'done' | 'failed'
  /** Rows that were tried; where the file has more, those after them were not. */
  rows: number
  all: boolean
  counts: Record<Outcome, number>
  /** Of those that are known and would change: how many change each field. */
  fields: Record<string, number>
  /** Of the new: with an address or number on a do-not-call register, or suppressed otherwise. */
  register: number
  suppressed: number
  /** Of the known: released in a round of a list before. */
  released: number
  /** The first rows that would change somebody known, each with what it would change. */
  changes?: { row: number; name: string; fields: FieldChange[] }[]
  /** Why it failed, in words. */
  error?: string
}

export interface BatchPreview {
  batch: Batch
  /** Titles of the columns, those that are made after those of the file. */
  header: string[]
  customs: CustomField[]
  /** What stands in each column, the most used first. */
  words: string[][]
  /** What each column was guessed to hold, and by what. */
  guesses: (Guess | null)[]
  rows: { raw: string[]; shaped: string[]; stored: PersonRow | ContactRow | SuppressionRow | PremisesRow | Refusal }[]
  lacks: string | null
}

/** A mapping that was saved under a name. */
export interface MappingProfile {
  id: number
  name: string
  kind: BatchKind
  at: string
  by: string
}

/** How a saved mapping fits another file: what its columns hold, and titles that this file does not have. */
export interface ProfileApplied {
  kind: BatchKind
  mapping: Mapping
  shaping: Shaping
  missing: string[]
}

/** Options of a batch of suppressions: the reason for rows that name none, and the register a file is a copy of. */
export interface BatchOptions {
  register?: { name: string; version: string }
  /** Set where the very same file is meant to come in once more. */
  again?: true
  /** Of people: the fields that are only filled where they are blank. */
  rules?: FieldRules
  /** Of people: rows are matched by what they share exactly and not by likeness. */
  byKeysAlone?: true
}

/** A row in doubt beside those it could be. */
export interface RowDoubt {
  row: number
  why: string
  fields: Record<string, string>
  candidates: (PairSide & { agrees: PairView['agrees'] })[]
}
