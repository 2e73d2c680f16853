import { array, number, object, string } from 'yup'
import { localDate, withinDaysFrom } from '../calendar/local-day'
import { ASKS, type Asks } from '../changes/asks'
import { asksOf, dayNumber, stateOf } from '../columns/change-rows'
import type { SubjectColumns } from '../columns/subject-columns'
import { CHANGE_STATES, type RecordChange } from '../records/record-change'
import type { SubjectRecord } from '../records/subject-record'
import { saying, says as saysPhrase, stems } from './wording'
import { type About, chips, type CriterionKind, type Group, type Moment, type Phrase } from './kind'

/** What a change can ask by its kind; whether somebody is in talks is a question of its own. */
export const ASKED = ASKS.filter((asks): asks is Exclude<Asks, 'lead'> => asks !== 'lead')
export const STATES = ['any', 'unhandled', 'handled'] as const

export interface ChangedCriterion<K extends string> {
  kind: K
  /** What the changes ask; any where none is named. */
  asks: Exclude<Asks, 'lead'>[]
  /** Kinds of changes; any where none is named. */
  kinds: { id: number; name: string }[]
  /** Calendar days back; null: at any time. */
  days: number | null
  /** Instead of days: since the last released round of a list; at any time where it had none. */
  since?: { id: number; name: string } | null
  /** Whether the day counts on which it happened, or on which we learned of it. */
  by: 'happened' | 'learned'
  least: number
  state: (typeof STATES)[number]
  /** Words in the names of their sources, any of them by their stems; whoever reported it where there are none. */
  sources?: string[]
  /** Words in what was reported, or in the new role or organisation, any of them by their stems; a change without words has none. */
  words?: string[]
}

/**
 * Had so many changes, of these kinds, within so many days. By the day they happened, a change counts only where the whole interval in
 * which it must have happened lies within; one of which it can be so or not makes the answer *unknown*. That no change is on record is
 * known, and a no; so is a change that says none of the words that are asked for.
 */
export function changed<K extends string, A extends About>(of: {
  kind: K
  of: A
  group: Group
  name: string
  whose: string
  synonyms: readonly string[]
}): CriterionKind<ChangedCriterion<K>, A> {
  const blank: ChangedCriterion<K> = { kind: of.kind, asks: [], kinds: [], days: 90, by: 'happened', least: 1, state: 'any' }
  return {
    name: of.name,
    synonyms: of.synonyms,
    inName: 'sentence',
    single: false,
    probe: null,
    named: (c, call) => (c.since ? { ...c, since: call(c.since, { what: 'rounds' }) } : c),
    of: of.of,
    group: of.group,
    schema: object({
      kind: string()
        .oneOf([of.kind as string])
        .required(),
      asks: array(string().oneOf(ASKED).required()).max(4).required(),
      kinds: array(object({ id: number().integer().positive().required(), name: string().max(60).required() }).noUnknown())
        .max(60)
        .required(),
      days: number().integer('whole days').min(1, 'days: 1 or more').max(3650).nullable().defined(),
      since: object({ id: number().integer().positive('choose a list').required(), name: string().required() })
        .noUnknown()
        .nullable()
        .default(undefined)
        .optional(),
      by: string()
        .oneOf(['happened', 'learned'] as const)
        .required(),
      least: number().integer().min(1, 'one change at least').max(1000).required(),
      state: string().oneOf(STATES).required(),
      sources: phrases(),
      words: phrases(),
    }).noUnknown() as never,
    blank,
    sentence: (c) => sentenceOf(c, of.whose),
    asks: () => ['change'],
    varies: (c, { asOf, zone, releasedAt }) =>
      c.since ? `${localDate(asOf, zone)} ${releasedAt?.[c.since.id] ?? ''}` : c.days === null ? '' : localDate(asOf, zone),
    verdict: (c, record, moment) => {
      const test = testOf(c, moment)
      const told = ((record as SubjectRecord).changes ?? []).map((change) => (isSaid(c, change) ? test(plain(change)) : 'no'))
      const sure = told.filter((t) => t === 'yes').length
      const maybe = told.filter((t) => t === 'unknown').length
      return sure >= c.least ? 'yes' : sure + maybe >= c.least ? 'unknown' : 'no'
    },
    evaluate: (c, given, moment) => {
      const columns = given as SubjectColumns
      const { changes } = columns
      const { kind, what, after, by, learned, sources, text } = changes.fields
      const { owner, rows } = changes
      const { changeWords } = columns
      const reportedBy = c.sources?.length ? saying(changeWords.sources, c.sources) : null
      const says = c.words?.length ? saying(changeWords.texts, c.words) : null
      const asked = askedOf(c)
      const { from, today, learnedFrom, asOf } = spanOf(c, moment)
      // What a change asks and what became of it are one byte: whether it counts is looked up.
      const counts = Uint8Array.from({ length: 256 }, (_, byte) => (asked.asks[asksOf(byte)] && isInState(c, stateOf(byte)) ? 1 : 0))
      const [sure, maybe] = [new Uint16Array(columns.size), new Uint16Array(columns.size)]
      const byDay = c.by === 'happened'
      for (let i = 0; i < rows; i++) {
        const n = owner[i]
        if (n < 0 || counts[what[i]] === 0 || (asked.kinds !== null && !asked.kinds.has(kind[i]))) continue
        if ((reportedBy !== null && reportedBy[sources[i]] !== 1) || (says !== null && (text[i] < 0 || says[text[i]] !== 1))) continue
        if (!byDay) {
          if (learned[i] >= learnedFrom && learned[i] <= asOf) sure[n]++
        } else if (from === Number.NEGATIVE_INFINITY) sure[n]++
        else if (by[i] < from || after[i] >= today) continue
        else if (after[i] + 1 >= from && by[i] <= today) sure[n]++
        else maybe[n]++
      }
      const { least } = c
      return columns.live.split((n) => (sure[n] >= least ? 1 : sure[n] + maybe[n] >= least ? 2 : 0))
    },
  }
}

/** A change in the numbers that columns hold. */
interface Row {
  kind: number
  asks: number
  state: number
  after: number
  by: number
  learned: number
}

const plain = (change: RecordChange): Row => ({
  kind: change.kind,
  asks: ASKS.indexOf(change.asks),
  state: CHANGE_STATES.indexOf(change.state),
  after: change.after === null ? Number.NEGATIVE_INFINITY : dayNumber(change.after),
  by: dayNumber(change.by),
  learned: change.learnedAt,
})

const phrases = () => array(string().trim().max(120).required()).max(60).optional()

/** Whether a change comes from the sources and says the words that are asked for. */
function isSaid<K extends string>({ sources = [], words = [] }: ChangedCriterion<K>, { sources: from, text }: RecordChange): boolean {
  const among = (phrases: readonly string[], wording: string | null) =>
    phrases.length === 0 || (wording !== null && phrases.some((phrase) => saysPhrase(stems(wording), stems(phrase))))
  return among(sources, from) && among(words, text)
}

const HANDLED = CHANGE_STATES.indexOf('handled')

/** The kinds that are asked for, null for any; and of what a change asks, by its place, whether that is. */
function askedOf<K extends string>(c: ChangedCriterion<K>): { kinds: Set<number> | null; asks: boolean[] } {
  return {
    kinds: c.kinds.length === 0 ? null : new Set(c.kinds.map(({ id }) => id)),
    asks: ASKS.map((asks) => c.asks.length === 0 || c.asks.some((own) => own === asks)),
  }
}

const isInState = <K extends string>(c: ChangedCriterion<K>, state: number): boolean =>
  c.state === 'any' || state >= HANDLED === (c.state === 'handled')

/** The days and instants between which a change counts. */
function spanOf<K extends string>(c: ChangedCriterion<K>, { asOf, zone, releasedAt }: Moment) {
  const today = dayNumber(localDate(asOf, zone))
  if (c.since) {
    const released = releasedAt?.[c.since.id] ?? null
    return {
      today,
      asOf,
      from: released === null ? Number.NEGATIVE_INFINITY : dayNumber(localDate(released, zone)),
      learnedFrom: released ?? Number.NEGATIVE_INFINITY,
    }
  }
  return {
    today,
    asOf,
    from: c.days === null ? Number.NEGATIVE_INFINITY : today - c.days,
    learnedFrom: c.days === null ? Number.NEGATIVE_INFINITY : withinDaysFrom(asOf, c.days, zone),
  }
}

/** Whether one change is among those that are asked for. */
function testOf<K extends string>(c: ChangedCriterion<K>, moment: Moment): (row: Row) => 'yes' | 'no' | 'unknown' {
  const asked = askedOf(c)
  const { today, asOf, from, learnedFrom } = spanOf(c, moment)
  return (row) => {
    if (!asked.asks[row.asks] || (asked.kinds !== null && !asked.kinds.has(row.kind)) || !isInState(c, row.state)) return 'no'
    if (c.by === 'learned') return row.learned >= learnedFrom && row.learned <= asOf ? 'yes' : 'no'
    if (from === Number.NEGATIVE_INFINITY) return 'yes'
    if (row.by < from || row.after >= today) return 'no'
    return row.after + 1 >= from && row.by <= today ? 'yes' : 'unknown'
  }
}

/** What a change is there for, as a sentence says it. */
const TO: Record<Exclude<Asks, 'lead'>, string> = {
  confirm: 'to confirm',
  answer: 'to answer',
  reconsider: 'to reconsider',
  opening: 'that is an opening',
}

function sentenceOf<K extends string>(c: ChangedCriterion<K>, whose: string): Phrase[] {
  const kinds = c.kinds.map(({ name }) => name.toLowerCase())
  const which = [
    ...(kinds.length > 0 ? [{ text: 'of the kind' }, ...chips(kinds, 'kinds', 'any')] : []),
    ...(c.asks.length > 0
      ? chips(
          c.asks.map((asks) => TO[asks]),
          'asks',
          'any',
        )
      : []),
  ]
  return [
    { text: whose },
    { chip: c.least === 1 ? 'a change' : `${c.least} changes or more`, field: 'least' },
    ...which,
    ...(c.words?.length ? [{ text: c.least === 1 ? 'that says' : 'that say' }, ...chips(c.words, 'words', 'any')] : []),
    ...(c.sources?.length ? [{ text: 'from the source' }, ...chips(c.sources, 'sources', 'any')] : []),
    { text: c.by === 'happened' ? 'that happened' : 'that we learned of' },
    {
      chip: c.since
        ? `since the last round of ${c.since.name || 'which list?'}`
        : c.days === null
          ? 'at any time'
          : `within ${c.days} days`,
      field: 'days',
    },
    ...(c.state === 'any' ? [] : [{ text: 'and' }, { chip: c.state === 'handled' ? 'is handled' : 'is not handled yet', field: 'state' }]),
  ]
}

export const changedSelf = changed({
  kind: 'changed',
  of: 'any',
  group: 'history',
  name: 'Changes',
  whose: 'had',
  synonyms: ['trigger', 'signal', 'news', 'job change', 'new role', 'event', 'changed recently', 'what changed', 'intent'],
})
export const changedOrganisation = changed({
  kind: 'org-changed',
  of: 'organisation',
  group: 'their organisation',
  name: 'Organisation: changes',
  whose: 'organisation had',
  synonyms: ['company news', 'hiring', 'funding', 'trigger', 'signal', 'account news', 'tender'],
})
export const changedPremises = changed({
  kind: 'premises-changed',
  of: 'premises',
  group: 'premises',
  name: 'Premises: changes',
  whose: 'premises had',
  synonyms: ['permit', 'storm damage', 'sale', 'building work', 'property news'],
})
