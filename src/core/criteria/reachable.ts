import { array, mixed, type InferType, number, object, string } from 'yup'
import { withinDaysFrom, localDate } from '../calendar/local-day'
import { FIELD } from '../clean/standard-fields'
import { isShared, placeOf, placeOfState } from '../columns/address-state'
import { Bitset } from '../columns/bitset'
import { CHANNELS } from '../columns/person-record'
import { type AskedField, type CriterionKind, chips, type Moment } from './kind'

/** Ways to reach somebody, told apart by whose they are and by what is known of them. */
export const REACHES = [
  'a work e-mail', 'a personal e-mail', 'a verified e-mail', 'an uncertain e-mail', 'an unchecked e-mail',
  'a phone of their own', 'a phone of the organisation', 'a phone that was reached', 'a phone not tried yet',
  'a postal address', 'open direct messages', 'direct messages after an introduction',
] as const
export type ReachWay = (typeof REACHES)[number]

const schema = object({
  kind: string().oneOf(['reachable'] as const).required(),
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
      return record.addresses.some((a) => a.usable && fits(way, CHANNELS.indexOf(a.channel), a.traits?.shared ?? false, placeOf(a.traits?.state ?? null), a.checkedAt ?? Number.NEGATIVE_INFINITY, from))
    })
    return told(c, said.includes(true), said.includes(false), said.includes(null))
  },
  evaluate(c, columns, moment) {
    const from = checkedFrom(c, moment)
    const direct = columns.custom.get(FIELD.direct)
    const { addresses } = columns
    const { channel, usable, traits, checked } = addresses.fields
    const code = { yes: 1, no: 0, unknown: 2 } as const
    const said = columns.live.split((n) => {
      let [yes, no, unknown] = [false, false, false]
      const end = addresses.first(n) + addresses.count(n)
      for (const way of c.ways) {
        if (WAYS[way].direct) {
          const value = direct?.get(n) ?? null
          if (value === null) unknown = true
          else if (value === WAYS[way].direct) yes = true
          else no = true
          continue
        }
        let has = false
        for (let i = addresses.first(n); i < end && !has; i++) has = usable[i] === 1 && fits(way, channel[i], isShared(traits[i]), placeOfState(traits[i]), checked[i], from)
        if (has) yes = true
        else no = true
      }
      return code[told(c, yes, no, unknown)]
    })
    return said.yes.isEmpty() && said.unknown.isEmpty() ? { yes: new Bitset(columns.size), unknown: new Bitset(columns.size) } : said
  },
}

/** Any: one yes is enough. All: one no is too many. */
function told({ wanted }: ReachableCriterion, yes: boolean, no: boolean, unknown: boolean): 'yes' | 'no' | 'unknown' {
  if (wanted === 'any') return yes ? 'yes' : unknown ? 'unknown' : 'no'
  return no ? 'no' : unknown ? 'unknown' : 'yes'
}

const checkedFrom = ({ checkedWithin }: ReachableCriterion, { asOf, zone }: Moment): number | null => (checkedWithin === null ? null : withinDaysFrom(asOf, checkedWithin, zone))

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
  'direct messages after an introduction': { asks: `custom:${FIELD.direct}`, channel: -1, direct: 'after an introduction' },
}

function fits(way: ReachWay, channel: number, shared: boolean, state: number, checkedAt: number, from: number | null): boolean {
  const test = WAYS[way]
  return channel === test.channel && (test.shared === undefined || test.shared === shared) && (test.state === undefined || test.state === state) && (test.asks !== 'email' || from === null || checkedAt >= from)
}

