import { array, boolean, type InferType, mixed, number, object, string } from 'yup'
import { dateWords } from '../calendar/local-day'
import type { Phrase } from '../criteria/kind'
import { type Criterion, sentence, validCriterion, who } from '../criteria/registry'
import { RANKS } from './rank'

const id = string().matches(/^[\w-]{1,40}$/).required()
const off = boolean().default(false)

const startSchema = object({
  id,
  verb: string().oneOf(['start'] as const).required(),
  off,
  batch: object({ id: number().integer().positive().required(), name: string().required() }).nullable().default(null),
}).noUnknown()

const criterionSchema = object({
  id,
  verb: string().oneOf(['keep', 'drop', 'add'] as const).required(),
  off,
  /** Keep only: let those through for whom the answer is unknown. */
  unknownAsYes: boolean().default(false),
  criterion: mixed<Criterion>().required(),
}).noUnknown()

const limitSchema = object({
  id,
  verb: string().oneOf(['limit'] as const).required(),
  off,
  most: number().integer().min(1, 'a limit is 1 or more').max(10_000_000).required('say how many'),
  /** How many of each organisation, or how many in all. */
  per: string().oneOf(['organisation', 'all'] as const).required(),
  rank: string().oneOf(RANKS).required(),
}).noUnknown()

const pickSchema = object({
  id,
  verb: string().oneOf(['pick'] as const).required(),
  off,
  side: string().oneOf(['in', 'out'] as const).required(),
  /** The people who were picked: a set that never changes, how many they are, and some of their names. */
  set: object({ id: number().integer().positive().required(), count: number().integer().min(1).required() }).required(),
  names: array(string().max(200).required()).max(3).required(),
  reason: string().trim().max(200).defined(),
  /** Last calendar date on which the pick holds, or null for good. */
  until: string().matches(/^\d{4}-\d\d-\d\d$/, 'until: year-month-day').nullable().default(null),
  /** Who picked them. */
  by: string().max(200).required(),
}).noUnknown()

export type StartLine = InferType<typeof startSchema>
export type CriterionLine = InferType<typeof criterionSchema>
export type LimitLine = InferType<typeof limitSchema>
export type PickLine = InferType<typeof pickSchema>
/** One line of a list's page, as plain data. */
export type Line = StartLine | CriterionLine | LimitLine | PickLine

/** The criterion of a line that has one. */
export const criterionOf = (line: Line): Criterion | null => ('criterion' in line ? line.criterion : null)

/** The key under which the people of a pick line are handed over. */
export const pickKey = (line: PickLine): string => `pick:${line.set.id}`

/** More lines than this are refused. */
export const MOST_LINES = 60

/**
 * Checks the lines of a page that came from outside: the first is the only start, ids are distinct, every criterion
 * is whole. Throws an Error whose message names the line (from 1) and what is wrong.
 */
export function validLines(value: unknown): Line[] {
  if (!Array.isArray(value) || value.length === 0) throw new Error('a list needs a line to start with')
  if (value.length > MOST_LINES) throw new Error(`a list holds at most ${MOST_LINES} lines`)
  const seen = new Set<string>()
  return value.map((raw, i) => {
    try {
      const line = shapeOf(raw?.verb).validateSync(raw, { strict: true }) as Line
      if ((line.verb === 'start') !== (i === 0)) throw new Error(i === 0 ? 'the first line says what to start with' : 'only the first line can start')
      if (seen.has(line.id)) throw new Error('its id stands twice')
      seen.add(line.id)
      return 'criterion' in line ? { ...line, criterion: validCriterion(line.criterion) } : line
    } catch (error) {
      throw new Error(`line ${i + 1}: ${(error as Error).message}`)
    }
  })
}

function shapeOf(verb: unknown) {
  return verb === 'start' ? startSchema : verb === 'limit' ? limitSchema : verb === 'pick' ? pickSchema : criterionSchema
}

const VERB = { start: 'Start', keep: 'Keep', drop: 'Drop', add: 'Add', limit: 'Limit', pick: 'Pick' } as const

/** A line's sentence: its verb and the pieces after it. */
export function lineSentence(line: Line): { verb: string; phrases: Phrase[] } {
  if (line.verb === 'start') {
    const chip = line.batch ? `everyone from ${line.batch.name}` : 'everyone in the directory'
    return { verb: VERB.start, phrases: [{ text: 'with' }, { chip, field: 'batch' }] }
  }
  if (line.verb === 'limit') {
    const most = line.most.toLocaleString('en-GB')
    return { verb: VERB.limit, phrases: [{ text: 'to' }, { chip: line.per === 'all' ? `${most} in all` : most, field: 'most' }, ...(line.per === 'all' ? [] : [{ text: 'for each organisation' }]), { text: '·' }, { chip: `${line.rank} first`, field: 'rank' }] }
  }
  if (line.verb === 'pick') return { verb: `${VERB.pick} ${line.side}`, phrases: pickPhrases(line) }
  const phrases = sentence(line.criterion)
  if (line.verb === 'keep' && line.unknownAsYes) phrases.push({ text: '(or unknown)' })
  return { verb: VERB[line.verb], phrases: line.verb === 'add' ? [{ text: who(line.criterion) }, ...phrases] : phrases }
}

function pickPhrases({ set, names, reason, until }: PickLine): Phrase[] {
  const others = set.count - names.length
  const who = [...names, ...(others > 0 ? [`${others.toLocaleString('en-GB')} ${names.length > 0 ? 'more' : 'people'}`] : [])].join(', ')
  return [{ chip: who, field: 'set' }, ...(reason ? [{ text: `· ${reason}` }] : []), ...(until ? [{ text: `until ${dateWords(until)}` }] : [])]
}

/** The sentence as one string, for files, evidence and screen readers. */
export function lineText(line: Line): string {
  const { verb, phrases } = lineSentence(line)
  return [verb, ...phrases.map((p) => ('text' in p ? p.text : p.chip))].join(' ')
}

/** Whether two lines say the same, whatever their ids and in whatever order their parts are written down. */
export function sameLine(a: Line, b: Line): boolean {
  return inOrder({ ...a, id: '' }) === inOrder({ ...b, id: '' })
}

/** Whether two pages are the same: the same lines with the same ids in the same order. */
export function samePage(a: readonly Line[], b: readonly Line[]): boolean {
  return a.length === b.length && a.every((line, i) => line.id === b[i].id && sameLine(line, b[i]))
}

/** A value as JSON with the keys of every object in order: a database may give them back in another. */
function inOrder(value: unknown): string {
  return JSON.stringify(value, (_key, v) => (v !== null && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([x], [y]) => (x < y ? -1 : 1))) : v))
}
