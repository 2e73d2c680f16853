import { CHANNELS } from '@/core/records/channels'
import type { Having } from '@/engine/protocol'
import { array, boolean, mixed, number, object, type ObjectSchema, string, tuple, ValidationError } from 'yup'
import { wellFormed } from '@/core/clean/name'
import { type BatchKind, FIELDS, type Mapping } from '@/core/match/columns'
import type { Shaping } from '@/core/match/shaping'
import { FRESHNESS } from '@/core/changes/freshness'
import { CHANGE_TABS } from '@/core/views/change-views'
import type { ListView } from '@/core/lists/view'
import { PREMISES_RULES } from '@/core/screening/premises'
import { LETTER_PARTS, LETTER_STANDS } from '@/core/rounds/letter-results'
import type { LetterResultsView, PremisesRoundView } from '@/core/views/premises-round-views'
import { OUTCOMES, PARTED_BY } from '@/core/rounds/results'
import type { ResultsView } from '@/core/views/result-views'
import type { RequalifyView, ScreeningView } from '@/core/views/round-views'

/** What a request asks cannot be read; its message is for whoever made it. */
export class Malformed extends Error {
  constructor(what = 'The request is incomplete. Nothing was changed.') {
    super(what)
    this.name = 'Malformed'
  }
}

/** The body of a request, a JSON object of a shape. Throws Malformed where it is none, or of another. */
export async function bodyOf<T extends object>(request: Request, schema: ObjectSchema<T>): Promise<ObjectSchema<T>['__outputType']> {
  const body: unknown = await request.json().catch(() => {
    throw new Malformed()
  })
  if (body === null || typeof body !== 'object' || Array.isArray(body)) throw new Malformed()
  try {
    return schema.validateSync(body, { stripUnknown: true })
  } catch (error) {
    if (error instanceof ValidationError || error instanceof TypeError)
      throw new Malformed(`The request is incomplete: ${error.message}. Nothing was changed.`)
    throw error
  }
}

/** What something that was handed over is to be: a schema of yup, with whatever may be left out of it. */
export interface Shape {
  readonly __outputType: unknown
  validateSync(value: unknown, options?: { stripUnknown?: boolean }): unknown
}

/** What comes out of some shapes, one after the other. */
export type Whole<S extends readonly Shape[]> = { -readonly [K in keyof S]: S[K]['__outputType'] }

/** What an action was handed, each of its shape, whatever a browser really sent. Throws Malformed where it is of another. */
export function wholeOf<S extends readonly Shape[]>(shapes: readonly [...S], given: readonly unknown[]): Whole<S> {
  try {
    return shapes.map((shape, i) => shape.validateSync(given[i], { stripUnknown: true })) as unknown as Whole<S>
  } catch (error) {
    if (error instanceof ValidationError || error instanceof TypeError)
      throw new Malformed(`The request is incomplete: ${error.message}. Nothing was changed.`)
    throw error
  }
}

/** A number that must be there and names something. */
export const ref = () => number().strict().integer().min(0).max(Number.MAX_SAFE_INTEGER).required()
/** What somebody saw of a round when they released it. */
export const confirmedRound = object({
  basis: string().strict().max(200).required(),
  clear: object({ email: ref(), phone: ref(), post: ref(), direct: ref() }).required(),
}).required()
/** What is typed into a form; nothing is an empty text. */
export const typed = (most = 4000) => text(most).default('')
/** What is checked where it is worked with. */
export const free = () => mixed<NonNullable<unknown>>().nullable().default(null)
/** Numbers that name something. */
export const refs = (most = 300_000) =>
  array(number().strict().integer().min(0).max(Number.MAX_SAFE_INTEGER).required()).strict().max(most).required()
/** One of some words, which must be there. */
export const word = <T extends string>(words: readonly T[]) => mixed<T>((value): value is T => words.includes(value as T)).required()

/** What somebody saw of a round of premises when they released it. */
export const confirmedLetters = object({ print: string().strict().max(200).required(), letters: ref() }).required()

/** A number that names something. */
export const id = () => number().integer().min(0).max(Number.MAX_SAFE_INTEGER)
/** How many come before the page that is asked for; nothing asked is none. */
export const offset = () =>
  number()
    .integer()
    .min(0)
    .max(1_000_000_000)
    .transform((value) => value ?? 0)
    .default(0)
/** A text without what no field can hold: NUL, and half a letter. */
export const text = (most = 1000) =>
  string().transform((value: unknown) => (typeof value === 'string' ? plain(value).slice(0, most) : value))
/** One of some words, or undefined for whatever else is asked. */
export const known = <T extends string>(words: readonly T[]) =>
  mixed<T>()
    .transform((value) => words.find((word) => word === value))
    .optional()

const plain = (value: string) => wellFormed(value.replaceAll('\0', ''), '')

/** Lines as they came: they are checked where they are worked with. */
const lines = () => mixed().nullable().default(null)

/** A tab or figure of a list. */
export const listView = () =>
  object({
    tab: string().oneOf(['on', 'never', 'new', 'out', 'unknown', 'moved']).required(),
    line: string().max(200),
    column: string().oneOf(['out', 'unknown', 'in', 'stayedUnknown']),
  })
    .test(
      'whole',
      'a figure needs its line and its column',
      (view) => view?.tab !== 'moved' || (view.line !== undefined && view.column !== undefined),
    )
    .required() as unknown as ObjectSchema<ListView>

/** One value of a column. */
export const having = () =>
  object({ key: string().max(200).required(), label: string().max(2000).nullable().default(null) })
    .nullable()
    .default(null) as unknown as ObjectSchema<Having | null>

const sortKeys = () =>
  array(object({ key: string().max(200).required(), back: boolean().default(false) }))
    .max(10)
    .optional()
const columnKeys = () => array(string().max(200).required()).max(100).optional()

/** What is asked of lines, as of their account. */
export const account = object({
  lines: lines(),
  view: listView(),
  list: id().optional(),
  offset: offset(),
  screen: string().max(200).optional(),
  sort: sortKeys(),
  having: having(),
  columns: columnKeys(),
  place: mixed<{ shape: unknown } | { premises: number[] }>(
    (value): value is { shape: unknown } | { premises: number[] } =>
      typeof value === 'object' && value !== null && ('shape' in value || ('premises' in value && Array.isArray(value.premises))),
  ).nullable(),
  figuresOnly: boolean().optional(),
  openers: boolean().optional(),
  parts: boolean().optional(),
})

/** How a file is to be read; what it maps is checked against its columns. */
export const preview = object({
  kind: known(Object.keys(FIELDS) as BatchKind[]),
  mapping: mixed<Mapping>().optional(),
  shaping: mixed<Shaping>().optional(),
})
export const csv = object({
  lines: lines(),
  view: listView(),
  columns: columnKeys(),
  openers: boolean().optional(),
  sort: sortKeys(),
  closedToo: string().optional(),
  about: boolean().optional(),
})
export const grouped = object({ lines: lines(), view: listView(), key: string().max(200).required(), screen: string().max(200) })
export const alike = object({ lines: lines(), offset: offset() })
export const linesAlone = object({ lines: lines() })
export const resized = object({
  lines: lines(),
  least: number().integer().min(0).max(1e9).required(),
  most: number().integer().min(0).max(1e9).required(),
})
export const profiled = object({ lines: lines(), base: id().nullable().default(null) })
export const mapped = object({
  lines: lines(),
  view: listView(),
  box: tuple([number().required(), number().required(), number().required(), number().required()]).required(),
  columns: number().integer().min(1).max(400).default(40),
  shape: mixed().nullable(),
})
export const streets = object({ subject: known(['person', 'organisation', 'premises']), lines: lines(), typed: text(120).default('') })
export const wording = object({
  name: text(200).default(''),
  says: array(text(200).required()).max(200).default([]),
  butNot: array(text(200).required()).max(200).default([]),
})
export const area = object({
  name: text(200).default(''),
  shape: mixed().nullable(),
  shared: boolean().default(false),
  named: boolean().default(false),
  replaces: id().nullable().default(null),
})
export const premisesRound = object({
  view: object({ tab: string().oneOf(['letters', 'held', 'joined', 'left', 'rule']).required(), rule: string().oneOf(PREMISES_RULES) })
    .test('whole', 'the rule is not named', (view) => view?.tab !== 'rule' || view.rule !== undefined)
    .required() as unknown as ObjectSchema<PremisesRoundView>,
  offset: offset(),
})

export const round = object({
  view: object({
    tab: string().oneOf(['clear', 'held', 'through', 'stopped', 'channel', 'rule', 'ways']).required(),
    channel: string().oneOf(CHANNELS),
    channels: array(string().oneOf(CHANNELS).required()).min(1),
    rule: string().max(40),
  })
    .test(
      'whole',
      'the part of the account is not named',
      (view) =>
        (view?.tab !== 'channel' || view.channel !== undefined) &&
        (view?.tab !== 'rule' || view.rule !== undefined) &&
        (view?.tab !== 'ways' || view.channels !== undefined),
    )
    .required() as unknown as ObjectSchema<ScreeningView>,
  offset: offset(),
  rules: mixed().nullable(),
})
export const resultsView = () =>
  object({
    of: string()
      .oneOf([...OUTCOMES, 'released', 'contacted'])
      .required(),
    by: string().oneOf(['way', ...PARTED_BY]),
    key: string().max(400),
  })
    .test('whole', 'the part of the results is not named', (view) => (view?.by === undefined) === (view?.key === undefined))
    .required() as unknown as ObjectSchema<ResultsView>
export const letter = () =>
  object({
    subject: text(400).default(''),
    body: text(20_001).default(''),
    senderName: text(200).default(''),
    senderEmail: text(300).default(''),
    address: text(500).default(''),
  }).required()
export const sharing = object({ channel: string().oneOf(CHANNELS).required(), how: mixed().nullable().default(null) })
export const letterDraft = object({ letter: letter(), n: offset() })
export const results = object({ view: resultsView(), offset: offset() })
export const letterResults = object({
  view: object({
    of: string()
      .oneOf([...LETTER_STANDS, 'released', 'posted'])
      .required(),
    by: string().oneOf(LETTER_PARTS),
    key: string().max(100),
  })
    .test('whole', 'the part of the results is not named', (view) => (view?.by === undefined) === (view?.key === undefined))
    .required() as unknown as ObjectSchema<LetterResultsView>,
  offset: offset(),
})
export const changes = object({
  tab: string().oneOf(CHANGE_TABS).required(),
  list: id().nullable().default(null),
  freshness: string().oneOf(FRESHNESS).nullable().default(null),
  offset: offset(),
})
export const contactToCheck = object({ person: id().required(), channel: string().oneOf(CHANNELS).required() })
export const policyTrial = object({
  before: mixed().nullable(),
  after: mixed().nullable(),
  tab: string()
    .oneOf(['held', 'freed'] as const)
    .required(),
  offset: offset(),
})
export const requalified = object({
  view: object({
    account: string().oneOf(['listed', 'clear']).required(),
    tab: string().oneOf(['left', 'joined', 'stayed', 'row']).required(),
    row: number().integer().min(0).max(1000),
  })
    .test('whole', 'the row of the account is not named', (view) => view?.tab !== 'row' || view.row !== undefined)
    .required() as unknown as ObjectSchema<RequalifyView>,
  offset: offset(),
})
export const editions = object({ earlier: id().required(), later: id().required(), tab: string(), offset: offset() })
export const proposal = object({ tab: string(), offset: offset() })
export const here = object({ working: boolean().default(false), gone: boolean().default(false) })
export const pair = object({ keep: id().required(), merge: id().required() })
/** A search of records, sorted one of some ways. */
export const found = <T extends string>(sorts: readonly T[]) => object({ find: text().default(''), sort: known(sorts), offset: offset() })
export const suppressed = <T extends string>(reasons: readonly T[]) =>
  object({ find: text().default(''), reason: known(reasons), offset: offset() })
export const rows = <O extends string, U extends string>(outcomes: readonly O[], undone: readonly U[]) =>
  object({ outcome: known(outcomes), undone: known(undone), offset: offset() })
