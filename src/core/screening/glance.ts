import type { PeopleColumns } from '../columns/people-columns'
import type { PersonRecord } from '../records/person-record'
import type { Reach } from '../views/record-views'
import type { ScreenedRecord, ScreeningMoment } from './kind'
import { NO_WAY } from './no-way-to-reach'
import type { Rule } from './rules'
import { reachOf, screenedAt, screenRecord } from './screen-record'
import { type Way, WAYS } from '../records/channels'

const DAY = 86_400_000
const YEAR = 365
/** What closes a channel whatever the round. */
export const STANDING: Rule[] = [
  { id: NO_WAY, kind: NO_WAY },
  { id: 'asked-to-stop', kind: 'asked-to-stop' },
  { id: 'register', kind: 'register', version: null, goodFor: 31 },
  { id: 'address-failed', kind: 'address-failed', off: false },
]

/** What a row of a table tells of somebody at a glance: their town, how they can be reached, and the contacts of a year. */
export interface Glance {
  place: string | null
  reach: Reach
  /** Days ago and way, of contacts of the last 365 days. */
  strip: [daysAgo: number, way: Way][]
}

/** By some rules, which channels are open; closed where a rule closes them, none where there is nothing usable. */
export function reachBy(record: ScreenedRecord, rules: Rule[], moment: ScreeningMoment): Reach {
  return reachOf(screenRecord(record, rules, moment))
}

/** How somebody can be reached as things stand, whatever the round. */
export const standingReach = (record: ScreenedRecord, moment: ScreeningMoment): Reach => reachBy(record, STANDING, moment)

/** The newest first, and of one day in the order of the ways, whatever order they are held in. */
export function stripOf(contacts: readonly { at: number; channel: Way }[], asOf: number): Glance['strip'] {
  return contacts
    .filter(({ at }) => asOf - at < YEAR * DAY && at <= asOf)
    .map(({ at, channel }): Glance['strip'][number] => [Math.floor((asOf - at) / DAY), channel])
    .sort(([a, one], [b, other]) => a - b || WAYS.indexOf(one) - WAYS.indexOf(other))
}

/** The glance of one record; what `glanceAt` tells out of the columns. */
export function glanceOf(record: PersonRecord, moment: ScreeningMoment): Glance {
  return { place: record.town, reach: standingReach(record, moment), strip: stripOf(record.contacts, moment.asOf) }
}

/** Returns what a row shows of a person at a glance: place, channels and latest contacts. */
export function glanceAt(columns: PeopleColumns, n: number, moment: ScreeningMoment): Glance {
  const record = screenedAt(columns, n)
  return { place: columns.town.get(n), reach: standingReach(record, moment), strip: stripOf(record.contacts, moment.asOf) }
}
