import { array, type InferType, mixed, number, object, string } from 'yup'
import { localDate, withinDaysFrom } from '../calendar/local-day'
import { FIELD } from '../clean/standard-fields'
import { isShared, placeOf, placeOfState } from '../records/address-state'
import { NEVER } from '../columns/people-columns'
import { type AskedField, chips, type CriterionKind, type Moment, namesNothing } from './kind'
import { CHANNELS } from '../records/channels'

/** Ways to reach somebody, told apart by whose they are and by what is known of them. */
export const REACHES = [
  'a work e-mail',
  'a personal e-mail',
  'a verified e-mail',
  'an uncertain e-mail',
  'an unchecked e-mail',
  'a phone of their own',
  'a phone of the organisation',
  'a phone that was reached',
  'a phone not tried yet',
  'a postal address',
  'open direct messages',
  'direct messages by request',
  'direct messages after an introduction',
] as const
export type ReachWay = (typeof REACHES)[number]

const schema = object({
  kind: string()
    .oneOf(['reachable'] as const)
    .required(),
  ways: array(string().oneOf(REACHES).required()).min(1, 'choose at least one way').required(),
  /** Whether one of the ways is enough, or all of them are wanted. */
  wanted: mixed<'any' | 'all'>().oneOf(['any', 'all']).required(),
  /** Of e-mail: counts only where it was checked within so many days. */
  checkedWithin: number().integer().min(1).max(3650).nullable().defined(),
}).noUnknown()
export type ReachableCriterion = InferType<typeof schema>

/**
 * Can be reached in any or all of some ways. Only usable addresses and numbers count, and to have none is known. Whether
 * somebody takes direct messages is unknown until it is told.
 */
export const reachable: CriterionKind<ReachableCriterion> = {
  name: 'Ways to reach them',
  synonyms: ['verified email', 'work email', 'personal email', 'mobile', 'direct message', 'deliverable', 'email status', 'contactable'],
  inName: { before: '', after: '' },
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'reach',
  schema,
  blank: { kind: 'reachable', ways: [], wanted: 'any', checkedWithin: null },
  sentence: ({ ways, wanted, checkedWithin }) => [
    { text: wanted === 'any' || ways.length < 2 ? 'has' : 'has all of' },
    ...(wanted === 'any' ? chips(ways, 'ways', 'what?') : ways.map((chip) => ({ chip, field: 'ways' }))),
    ...(checkedWithin === null ? [] : [{ text: 'checked within' }, { chip: `${checkedWithin} days`, field: 'checkedWithin' }]),
  ],
  asks: ({ ways }) => [...new Set(ways.map((way): AskedField => WAYS[way].asks))],
  varies: ({ checkedWithin }, { asOf, zone }) => (checkedWithin === null ? '' : localDate(asOf, zone)),
  verdict(c, record, moment) {
    const from = checkedFrom(c, moment)
    const said = c.ways.map((way): boolean | null => {
      const { direct } = WAYS[way]
      if (direct) return record.custom[FIELD.direct] === undefined ? null : record.custom[FIELD.direct] === direct
      return record.addresses.some(
        (a) =>
          a.usable &&
          fits(
            way,
            CHANNELS.indexOf(a.channel),
            a.traits?.shared ?? false,
            placeOf(a.traits?.state ?? null),
            (a.checkedAt ?? NEVER) >= from,
          ),
      )
    })
    return told(c, said.includes(true), said.includes(false), said.includes(null))
  },
  evaluate(c, columns, moment) {
    const ways = [...new Set(c.ways)]
    const { owner, rows, fields } = columns.addresses
    const { channel, usable, traits, checked } = fields
    const from = checkedFrom(c, moment)
    // A bit a way of everybody: what an address or number gives hangs on three bytes of it, and on when it was checked.
    const [inTime, before] = [waysOf(ways, true), waysOf(ways, false)]
    const has = new Int32Array(columns.size)
    for (let i = 0; i < rows; i++) {
      if (owner[i] < 0 || usable[i] !== 1) continue
      has[owner[i]] |= (checked[i] >= from ? inTime : before)[(channel[i] << 8) | traits[i]]
    }
    const direct = columns.custom.get(FIELD.direct)
    const told = direct?.words.map((word) => bitsOf(ways, (way) => WAYS[way].direct === word)) ?? []
    const untold = ways.some((way) => WAYS[way].direct) ? UNTOLD : 0
    if (untold) for (let n = 0; n < has.length; n++) has[n] |= told[direct?.codeAt(n) ?? -1] ?? untold
    return columns.live.splitByCode(
      has,
      Uint8Array.from({ length: 2 * UNTOLD + 1 }, (_, code) => saidOf(c, ways, code - 1)),
    )
  },
}

/** Stands beside the bits of the ways where nobody told whether they take direct messages. */
const UNTOLD = 1 << REACHES.length

const bitsOf = (ways: ReachWay[], has: (way: ReachWay) => boolean): number =>
  ways.reduce((bits, way, i) => bits | (has(way) ? 1 << i : 0), 0)

/** The ways that each kind of address or number is, by its channel and traits, where it was checked in time or was not. */
function waysOf(ways: ReachWay[], inTime: boolean): Int32Array {
  return Int32Array.from({ length: CHANNELS.length << 8 }, (_, kind) =>
    bitsOf(ways, (way) => fits(way, kind >> 8, isShared(kind & 255), placeOfState(kind & 255), inTime)),
  )
}

/** What the bits of somebody say, as `split` has it. */
function saidOf(c: ReachableCriterion, ways: ReachWay[], bits: number): number {
  const said = ways.map((way, i) => ((bits & (1 << i)) !== 0 ? true : WAYS[way].direct && (bits & UNTOLD) !== 0 ? null : false))
  return { yes: 1, no: 0, unknown: 2 }[told(c, said.includes(true), said.includes(false), said.includes(null))]
}

/** Any: one yes is enough. All: one no is too many. */
function told({ wanted }: ReachableCriterion, yes: boolean, no: boolean, unknown: boolean): 'yes' | 'no' | 'unknown' {
  if (wanted === 'any') return yes ? 'yes' : unknown ? 'unknown' : 'no'
  return no ? 'no' : unknown ? 'unknown' : 'yes'
}

/** From when on a check counts, in UTC milliseconds; any does, and none, where it is not asked. */
const checkedFrom = ({ checkedWithin }: ReachableCriterion, { asOf, zone }: Moment): number =>
  checkedWithin === null ? NEVER : withinDaysFrom(asOf, checkedWithin, zone)

interface WayTest {
  asks: AskedField
  channel: number
  shared?: boolean
  state?: number
  direct?: string
}

const way = (asks: 'email' | 'phone' | 'post', rest: Partial<WayTest> = {}): WayTest => ({ asks, channel: CHANNELS.indexOf(asks), ...rest })
const WAYS: Record<ReachWay, WayTest> = {
  'a work e-mail': way('email', { shared: false }),
  'a personal e-mail': way('email', { shared: true }),
  'a verified e-mail': way('email', { state: placeOf('verified') }),
  'an uncertain e-mail': way('email', { state: placeOf('uncertain') }),
  'an unchecked e-mail': way('email', { state: placeOf('unchecked') }),
  'a phone of their own': way('phone', { shared: false }),
  'a phone of the organisation': way('phone', { shared: true }),
  'a phone that was reached': way('phone', { state: placeOf('reached') }),
  'a phone not tried yet': way('phone', { state: placeOf('not tried') }),
  'a postal address': way('post'),
  'open direct messages': { asks: `custom:${FIELD.direct}`, channel: -1, direct: 'open' },
  'direct messages by request': { asks: `custom:${FIELD.direct}`, channel: -1, direct: 'by request' },
  'direct messages after an introduction': { asks: `custom:${FIELD.direct}`, channel: -1, direct: 'after an introduction' },
}

/** Ways that hang on more of an email address or a number than that there is one: whose it is, or what is known of it. */
export const isOfDetail = (way: ReachWay): boolean => WAYS[way].shared !== undefined || WAYS[way].state !== undefined
/** The field that a way asks about: a channel, or whether somebody takes direct messages. */
export const fieldOfWay = (way: ReachWay): AskedField => WAYS[way].asks

function fits(way: ReachWay, channel: number, shared: boolean, state: number, inTime: boolean): boolean {
  const test = WAYS[way]
  return (
    channel === test.channel &&
    (test.shared === undefined || test.shared === shared) &&
    (test.state === undefined || test.state === state) &&
    (inTime || test.asks !== 'email')
  )
}
