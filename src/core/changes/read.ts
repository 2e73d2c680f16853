import { fold } from '../clean/fold'
import type { Subject } from '../records/subject'
import { FAILED } from '../records/results'
import { happeningsOf, type Told } from './happenings'
import { kindOfEdge, NO_TIMELINE } from './kinds'
import type { Day, Interval, Sighting, Sure } from './sighting'
import { type Edge, timelineOf } from './timeline'

/** A ledger entry as changes are read off it. `day` is the calendar day it tells of, `recordedAt` when we learned it (UTC milliseconds). */
export interface ReportEntry {
  id: number
  kind: 'change' | 'reported' | 'contact' | 'suppressed'
  day: Day
  recordedAt: number
  field: string | null
  before: string | null
  after: string | null
  /** The source states the day. */
  stated: boolean
  source: string
  /** Of something that happened: its kind, and keys that make two reports one. */
  happening: number | null
  same: readonly string[]
  /** Of a contact: what came of it. */
  result: string | null
}

/** Everything that changes of one record are read off. */
export interface History {
  of: Subject
  /** The day the record came in. */
  since: Day
  entries: readonly ReportEntry[]
  /** What a field is at present. */
  now: (field: string) => string | null
  /** Rows of files that were this record, with what stood in their cells, folded. */
  rows: readonly { day: Day; source: string; cells: readonly string[] }[]
}

/** A change of a record. `kind` is one the product knows by a word, or a kind of the team's by its number. */
export interface ReadChange extends Interval {
  kind: string | number
  field: string | null
  /** The entry whose value after is the one that was before; null where it stands as the value before of the first report. */
  fromEntry: number | null
  /** The first report, in the order of the days they tell of. */
  entry: number
  reports: number[]
  sources: number
  sure: Sure
  /** When the first of its reports came (UTC milliseconds). */
  learnedAt: number
}

/** Comparable form of a value. Only an organisation can be known to be none: of any other field an empty value says nothing. */
const comparable = (field: string, value: string | null): string | null => {
  const folded = fold(value ?? '')
  return folded === '' && field !== 'organisation' ? null : folded
}

/** Whether cells of rows can confirm a field: a bare number or a yes could stand for anything. */
const CONFIRMED_BY_ROWS = new Set(['role', 'organisation'])

/** The changes of one record, by what they are. The order of the entries makes no difference. */
export function readChanges(history: History): ReadChange[] {
  const learned = new Map(history.entries.map((e) => [e.id, e.recordedAt]))
  const learnedAt = (reports: readonly number[]) => Math.min(...reports.map((id) => learned.get(id) as number))
  return [...fieldChanges(history), ...thatHappened(history)].map((change) => ({ ...change, learnedAt: learnedAt(change.reports) }))
}

type Unlearned = Omit<ReadChange, 'learnedAt'>

function fieldChanges(history: History): Unlearned[] {
  const fields = new Map<string, ReportEntry[]>()
  for (const entry of history.entries) {
    if (entry.field === null || NO_TIMELINE.has(entry.field) || (entry.kind !== 'change' && entry.kind !== 'reported')) continue
    fields.set(entry.field, [...(fields.get(entry.field) ?? []), entry])
  }
  return [...fields].flatMap(([field, entries]) => edgesOf(history, field, entries))
}

function edgesOf(history: History, field: string, entries: ReportEntry[]): Unlearned[] {
  const changes = entries.filter((e) => e.kind === 'change').sort((a, b) => a.id - b.id)
  const first = comparable(field, changes.length > 0 ? changes[0].before : history.now(field))
  const sightings: Sighting[] = entries.flatMap((e) => {
    const value = comparable(field, e.after)
    return value === null ? [] : [{ entry: e.id, value, day: e.day, stated: e.stated, source: e.source }]
  })
  // What it was when the record came in; a report of an earlier day is older than what we knew.
  if (first !== null && first !== '')
    sightings.push({ entry: 0, value: first, day: history.since, stated: false, source: 'directory', began: true })
  const alone = timelineOf(sightings)
  if (alone.length === 0) return []
  const edges = CONFIRMED_BY_ROWS.has(field) ? timelineOf([...sightings, ...confirming(history, sightings)]) : alone
  const values = new Map(entries.map((e) => [e.id, e]))
  return edges.flatMap((edge): Unlearned[] => {
    const reports = edge.reports.filter((id) => id > 0)
    if (reports.length === 0) return []
    const said = values.get(reports[0])
    return [
      {
        kind: edge.disagrees ? 'disagree' : kindOfEdge(history.of, field, numbersOf(edge, values)),
        field,
        fromEntry: fromEntry(edge, said, values, field),
        entry: reports[0],
        reports,
        sources: edge.sources,
        sure: edge.sure,
        after: edge.after,
        by: edge.by,
      },
    ]
  })
}

/** The entry that holds the value before, unless the first report names it itself. */
function fromEntry(edge: Edge, said: ReportEntry | undefined, values: Map<number, ReportEntry>, field: string): number | null {
  if (said && comparable(field, said.before) === edge.from) return null
  return values.has(edge.fromEntry) ? edge.fromEntry : null
}

const numbersOf = (edge: Edge, values: Map<number, ReportEntry>) => {
  const said = edge.reports.map((id) => values.get(id)).find((e) => e !== undefined)
  return { to: edge.to, before: said?.before ?? null, after: said?.after ?? null }
}

/** Rows that hold the very value that stood on their day: they prove that it had not changed yet, or that somebody else says the same. */
function confirming(history: History, sightings: readonly Sighting[]): Sighting[] {
  const sorted = [...sightings].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.entry - b.entry))
  return history.rows.flatMap((row): Sighting[] => {
    const until = sorted.filter((s) => s.day <= row.day)
    const standing = until.at(-1)
    // On a day on which the value changed, a row proves nothing.
    if (
      !standing ||
      standing.value.length < 3 ||
      (standing.day === row.day && until.some((s) => s.day === row.day && s.value !== standing.value))
    )
      return []
    return row.cells.includes(standing.value) ? [{ entry: 0, value: standing.value, day: row.day, stated: false, source: row.source }] : []
  })
}

function thatHappened(history: History): Unlearned[] {
  const kinds = new Map<string | number, Told[]>()
  const tell = (kind: string | number, e: ReportEntry, same: readonly string[] = e.same) =>
    kinds.set(kind, [...(kinds.get(kind) ?? []), { entry: e.id, day: e.day, stated: e.stated, source: e.source, same }])
  for (const entry of history.entries) {
    if (entry.kind === 'reported' && entry.happening !== null) tell(entry.happening, entry)
    else if (entry.kind === 'contact' && (FAILED as readonly (string | null)[]).includes(entry.result)) tell('address failed', entry, [])
    else if (entry.kind === 'contact' && entry.result === 'replied') tell('replied', entry, [])
    else if (entry.kind === 'suppressed') tell('complained', entry, [])
  }
  return [...kinds].flatMap(([kind, told]) =>
    happeningsOf(told).map((one) => ({ ...one, kind, field: null, fromEntry: null, entry: Math.min(...one.reports) })),
  )
}
