import { array, boolean, type InferType, mixed, number, object, string } from 'yup'
import type { Phrase } from '../criteria/kind'
import { type Criterion, fits, isWhose, nameOf, questionsOf, sentence, validCriterion } from '../criteria/registry'
import { HOW } from '../criteria/related'
import { EVERYTHING, type Subject, SUBJECT_NAMES, SUBJECTS } from '../records/subject'
import { BEST_FIT, RANKS } from './rank'
import { countText, dateText } from '../text/written'

const id = string()
  .matches(/^[\w-]{1,40}$/)
  .required()
const off = boolean().default(false)

const startSchema = object({
  id,
  verb: string()
    .oneOf(['start'] as const)
    .required(),
  off,
  batch: object({ id: number().integer().positive().required(), name: string().required() }).nullable().default(null),
  /** What the list is of: people where it is not said. */
  subject: mixed<Subject>()
    .oneOf([...SUBJECTS])
    .optional(),
}).noUnknown()

/** What a limit can count by. */
export const PERS = ['organisation', 'household', 'premises', 'postcode', 'all'] as const
export type Per = (typeof PERS)[number]
const PER_TEXT: Record<Exclude<Per, 'all'>, string> = {
  organisation: 'for each organisation',
  household: 'for each household',
  premises: 'at each premises',
  postcode: 'in each postcode',
}

/** What each grouping needs, in words: without it a record is not limited. */
export const PER_LACKS: Record<Exclude<Per, 'all'>, string> = {
  organisation: 'have no organisation',
  household: 'have no street and house',
  premises: 'are at no premises we know',
  postcode: 'have no postcode',
}

const criterionSchema = object({
  id,
  verb: string()
    .oneOf(['keep', 'drop', 'add'] as const)
    .required(),
  off,
  /** Keep only: let those through for whom the answer is unknown. */
  unknownAsYes: boolean().default(false),
  criterion: mixed<Criterion>().required(),
}).noUnknown()

const limitSchema = object({
  id,
  verb: string()
    .oneOf(['limit'] as const)
    .required(),
  off,
  most: number().integer().min(1, 'a limit is 1 or more').max(10_000_000).required('say how many'),
  /** How many of each, or how many in all. */
  per: string().oneOf(PERS).required(),
  rank: string()
    .oneOf([...RANKS, BEST_FIT])
    .required(),
  /** By best fit only: the list whose records are the examples, as its latest saved edition has it. */
  like: object({ id: number().integer().positive('choose a list').required(), name: string().required() })
    .optional()
    .default(undefined),
  /** At random only: what the order is drawn from, so that it is the same every time. */
  seed: number().integer().min(0).max(4_294_967_295).optional(),
})
  .noUnknown()
  .test('like', 'a ranking by best fit needs a list to be like', (v) => (v.rank === BEST_FIT) === (v.like !== undefined))
  .test('seed', 'an order at random needs a seed', (v) => v.rank !== 'at random' || v.seed !== undefined)

const pickSchema = object({
  id,
  verb: string()
    .oneOf(['pick'] as const)
    .required(),
  off,
  side: string()
    .oneOf(['in', 'out'] as const)
    .required(),
  /** The people who were picked: a set that never changes, how many they are, and some of their names. */
  set: object({ id: number().integer().positive().required(), count: number().integer().min(1).required() }).required(),
  names: array(string().max(200).required()).max(3).required(),
  reason: string().trim().max(200).defined(),
  /** Last calendar date on which the pick holds, or null for good. */
  until: string()
    .matches(/^\d{4}-\d\d-\d\d$/, 'until: year-month-day')
    .nullable()
    .default(null),
  /** Who picked them. */
  by: string().max(200).required(),
}).noUnknown()

export type StartLine = InferType<typeof startSchema>
export type CriterionLine = InferType<typeof criterionSchema>
export type LimitLine = InferType<typeof limitSchema>
export type PickLine = InferType<typeof pickSchema>
/** One line of a list's page, as plain data. */
export type Line = StartLine | CriterionLine | LimitLine | PickLine

/** What a list of these lines is of. */
export const subjectOf = (lines: readonly Line[]): Subject => (lines[0]?.verb === 'start' ? (lines[0].subject ?? 'person') : 'person')

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
  const subject: Subject = SUBJECTS.find((s) => s === value[0]?.subject) ?? 'person'
  return value.map((raw, i) => {
    try {
      const line = shapeOf(raw?.verb).validateSync(raw, { strict: true }) as Line
      if ((line.verb === 'start') !== (i === 0))
        throw new Error(i === 0 ? 'the first line says what to start with' : 'only the first line can start')
      if (seen.has(line.id)) throw new Error('its id stands twice')
      seen.add(line.id)
      return 'criterion' in line ? { ...line, criterion: fitting(validCriterion(line.criterion), subject) } : line
    } catch (error) {
      throw new Error(`line ${i + 1}: ${(error as Error).message}`)
    }
  })
}

/** A criterion that a list of a subject can ask. Throws an Error where it cannot. */
function fitting(criterion: Criterion, subject: Subject): Criterion {
  for (const asked of questionsOf(criterion)) {
    if (!fits(asked.kind, subject)) throw new Error(`a list of ${SUBJECT_NAMES[subject]} cannot ask “${nameOf(asked)}”`)
    if (asked.kind === 'related' && !(HOW[asked.how].asked as readonly Subject[]).includes(subject))
      throw new Error(`a list of ${SUBJECT_NAMES[subject]} cannot ask who or what ${HOW[asked.how].text} another list`)
  }
  return criterion
}

function shapeOf(verb: unknown) {
  return verb === 'start' ? startSchema : verb === 'limit' ? limitSchema : verb === 'pick' ? pickSchema : criterionSchema
}

const VERB = { start: 'Start', keep: 'Keep', drop: 'Drop', add: 'Add', limit: 'Limit', pick: 'Pick' } as const

/** A line's sentence: its verb and the pieces after it. `subject` is what its list is of. */
export function lineSentence(line: Line, subject: Subject = 'person'): { verb: string; phrases: Phrase[] } {
  if (line.verb === 'start') {
    const everything = EVERYTHING[line.subject ?? 'person']
    const chip = line.batch ? `${everything} from ${line.batch.name}` : `${everything} in the directory`
    return { verb: VERB.start, phrases: [{ text: 'with' }, { chip, field: 'batch' }] }
  }
  if (line.verb === 'limit') {
    const most = countText(line.most)
    const rank =
      line.rank === 'at random'
        ? `at random, draw ${line.seed}`
        : line.rank === BEST_FIT
          ? `best fit with ${line.like?.name || 'which list?'} first`
          : `${line.rank} first`
    return {
      verb: VERB.limit,
      phrases: [
        { text: 'to' },
        { chip: line.per === 'all' ? `${most} in all` : most, field: 'most' },
        ...(line.per === 'all' ? [] : [{ text: PER_TEXT[line.per] }]),
        { text: '·' },
        { chip: rank, field: 'rank' },
      ],
    }
  }
  if (line.verb === 'pick') return { verb: `${VERB.pick} ${line.side}`, phrases: pickPhrases(line) }
  const phrases = sentence(line.criterion)
  if (line.verb === 'keep' && line.unknownAsYes) phrases.push({ text: '(or unknown)' })
  return {
    verb: VERB[line.verb],
    phrases:
      line.verb === 'add'
        ? [{ text: `${EVERYTHING[subject]} ${isWhose(line.criterion) ? 'whose' : subject === 'person' ? 'who' : 'that'}` }, ...phrases]
        : phrases,
  }
}

function pickPhrases({ set, names, reason, until }: PickLine): Phrase[] {
  const others = set.count - names.length
  const who = [...names, ...(others > 0 ? [`${countText(others)} ${names.length > 0 ? 'more' : 'people'}`] : [])].join(', ')
  return [
    { chip: who, field: 'set' },
    ...(reason ? [{ text: `· ${reason}` }] : []),
    ...(until ? [{ text: `until ${dateText(until)}` }] : []),
  ]
}

/** The sentence as one string, for files, evidence and screen readers. */
export function lineText(line: Line, subject: Subject = 'person'): string {
  const { verb, phrases } = lineSentence(line, subject)
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
  return JSON.stringify(value, (_key, v) =>
    v !== null && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([x], [y]) => (x < y ? -1 : 1)))
      : v,
  )
}
