import type { Subject } from '../records/subject'
import type { Criterion } from '../criteria/registry'

import type { Line } from './line'

/** A list to begin with, made for a common job. */
export interface StartingList {
  name: string
  /** What it is for, in a sentence. */
  what: string
  subject: Subject
  lines: Line[]
}

const start = (subject: Subject): Line => ({
  id: 'start',
  verb: 'start',
  off: false,
  batch: null,
  ...(subject === 'person' ? {} : { subject }),
})
const line =
  (verb: 'keep' | 'drop') =>
  (criterion: Criterion): Omit<Line & { verb: 'keep' | 'drop' }, 'id'> =>
    ({ verb, off: false, unknownAsYes: false, criterion }) as never
const [keep, drop] = [line('keep'), line('drop')]
const of = (name: string, what: string, subject: Subject, ...lines: object[]): StartingList => ({
  name,
  what,
  subject,
  lines: [start(subject), ...lines.map((own, i) => ({ id: `l${i + 2}`, ...own }) as Line)],
})

/** Lists to begin with. Every part of them can be changed; nothing of them is fixed but that they are whole. */
export const STARTING_LISTS: readonly StartingList[] = [
  of(
    'First calls: estates leads nobody has spoken to',
    'People who look after buildings, with a phone, never contacted.',
    'person',
    keep({ kind: 'function', any: ['estates and facilities'] }),
    keep({ kind: 'level', any: ['director', 'head', 'manager'] }),
    keep({ kind: 'contacted', how: 'never', by: null }),
    keep({ kind: 'reach', channel: 'phone' }),
    drop({ kind: 'relation', any: ['customer', 'our own people', 'supplier', 'competitor'] }),
    { verb: 'limit', off: false, most: 2, per: 'organisation', rank: 'easiest to reach' },
  ),
  of(
    'Gone quiet: interest, and nothing since',
    'People who once showed interest, not contacted for half a year.',
    'person',
    keep({ kind: 'interest', sign: 'interest', how: 'longer ago', days: 180 }),
    drop({ kind: 'contacted', how: 'within', days: 180, by: null }),
    drop({ kind: 'relation', any: ['customer', 'our own people'] }),
  ),
  of(
    'Past customers worth a letter',
    'Former customers with a postal address, one at each household.',
    'person',
    keep({ kind: 'relation', any: ['former customer'] }),
    keep({ kind: 'reach', channel: 'post' }),
    drop({ kind: 'contacted', how: 'within', days: 90, by: null }),
    { verb: 'limit', off: false, most: 1, per: 'household', rank: 'longest since a contact' },
  ),
  of(
    'New in the role: a year or less',
    'People who decide or advise and began their role within a year.',
    'person',
    keep({ kind: 'in-role', least: null, most: 12, from: null, to: null }),
    keep({ kind: 'part', any: ['decides', 'advises', 'pays'] }),
  ),
  of(
    'Large roofs, owner elsewhere',
    'Premises with a large roof whose owner does not live there.',
    'premises',
    keep({ kind: 'roof-area', least: 500, most: null }),
    keep({ kind: 'owner-lives', any: ['in the same town', 'in the same county', 'elsewhere', 'abroad'] }),
    drop({ kind: 'listed', any: ['yes'] }),
  ),
  of(
    'Owners of several, with equity',
    'Premises whose owner has three or more, with equity of 40 % or more.',
    'premises',
    keep({ kind: 'holdings', least: 3, most: null, months: null }),
    keep({ kind: 'equity', as: 'equity', least: 40, most: null }),
  ),
  of(
    'Organisations where we know nobody',
    'Organisations of 50 or more with at most one of their people in the directory.',
    'organisation',
    keep({ kind: 'head-count', any: ['50 to 249', '250 to 999', '1,000 or more'] }),
    keep({ kind: 'our-people', least: null, most: 1 }),
  ),
]
