import { type Channel, CHANNELS, type Way, WAYS } from '../records/channels'
import { type Result, STOP } from '../records/results'

/** What became of a person in a round; everybody who was released is in exactly one. */
export const OUTCOMES = ['stopped', 'not worked', 'answered', 'reached', 'not reached', 'failed'] as const
export type Outcome = (typeof OUTCOMES)[number]

/** Those of people who were contacted, the best first: of several the first counts. */
export const CONTACTED = ['answered', 'reached', 'not reached', 'failed'] as const satisfies readonly Outcome[]
export type Contacted = (typeof CONTACTED)[number]

/** What a result says of a contact; *sent* is what nothing came of yet (common practice, no source). */
const SAYS: Record<Result, Contacted | 'sent'> = {
  spoke: 'answered',
  'no answer': 'not reached',
  voicemail: 'reached',
  'meeting set': 'answered',
  'wrong number': 'failed',
  'out of service': 'failed',
  'not interested': 'answered',
  'asked us to stop': 'answered',
  sent: 'sent',
  opened: 'reached',
  replied: 'answered',
  bounced: 'failed',
  returned: 'failed',
  'soft bounced': 'not reached',
  'has left': 'failed',
}
/** A contact of a round, or that counts for it. */
export interface RoundContact {
  /** The entry. */
  id: number
  channel: Way
  result: string | null
  /** The colleague who made it. */
  by: string
  /** When it was made: an ISO 8601 string. */
  at: string
}

/** Somebody who was released in a round, and what was done. */
export interface Worked {
  person: number
  /** The line that brought them onto the list, in words. */
  line: string
  /** Whether the round itself released them or which of its supplements, in words. */
  supplement: string
  /** The file they came in with; null where they came otherwise. */
  file: string | null
  /** The kind of change their opener was of; null without one. */
  opener: string | null
  /** By which channels they were released, and whether a suppression stopped the contact since. */
  channels: readonly { channel: Channel; stopped: boolean }[]
  contacts: readonly RoundContact[]
}

/** In what order the things that results say of one way of contact count: what was sent counts until something else is known of it. */
const ORDER = ['answered', 'reached', 'failed', 'not reached', 'sent'] as const

/** What contacts by one way came to, and the contact that says so; null where there is none. */
export function cameTo(contacts: readonly RoundContact[]): { outcome: Contacted; by: RoundContact } | null {
  let best: { rank: number; by: RoundContact } | null = null
  for (const contact of contacts) {
    const says = SAYS[contact.result as Result] ?? 'sent'
    const rank = ORDER.indexOf(says)
    if (best === null || rank < best.rank) best = { rank, by: contact }
  }
  if (best === null) return null
  const says = ORDER[best.rank]
  // A contact whose words say nothing more was made, and nothing says that it did not arrive.
  return { outcome: says === 'sent' ? 'reached' : says, by: best.by }
}

/**
 * What became of somebody: the best that came of any way they were contacted by; else *stopped* where a suppression ended every contact
 * to come; else *not worked*. Gives the contact that decided.
 */
export function outcomeOf({ channels, contacts }: Pick<Worked, 'channels' | 'contacts'>): { outcome: Outcome; by: RoundContact | null } {
  let best: { outcome: Contacted; by: RoundContact } | null = null
  for (const way of WAYS) {
    const came = cameTo(contacts.filter(({ channel }) => channel === way))
    if (came && (best === null || CONTACTED.indexOf(came.outcome) < CONTACTED.indexOf(best.outcome))) best = came
  }
  if (best) return best
  return { outcome: channels.length > 0 && channels.every(({ stopped }) => stopped) ? 'stopped' : 'not worked', by: null }
}

/** People of a part of a round by what became of them. */
export type Counts = Record<Outcome, number>
const noCounts = (): Counts => ({ stopped: 0, 'not worked': 0, answered: 0, reached: 0, 'not reached': 0, failed: 0 })
/** Returns how many contacts were released, from the counts by outcome. */
export const releasedIn = (counts: Counts): number => OUTCOMES.reduce((sum, outcome) => sum + counts[outcome], 0)
/** Returns how many contacts were made, from the counts by outcome. */
export const contactedIn = (counts: Counts): number => CONTACTED.reduce((sum, outcome) => sum + counts[outcome], 0)

/** By what a round's results can be counted besides channels: each person is in exactly one part. */
export const PARTED_BY = ['line', 'file', 'colleague', 'opener', 'supplement'] as const
export type PartedBy = (typeof PARTED_BY)[number]

export interface ChannelResults {
  way: Way
  counts: Counts
  /** How many contacts were made by it. */
  contacts: number
  /** What they cost, in minor units; null where no cost is known. */
  cost: number | null
}

export interface RoundResults {
  counts: Counts
  /** How many people asked us to stop. */
  optOuts: number
  /** By each way: of people who were released for it, or contacted by it all the same. */
  ways: ChannelResults[]
  parts: Record<PartedBy, { key: string; counts: Counts }[]>
}

/** The parts of people without the thing they are counted by. */
export const WITHOUT: Record<PartedBy, string> = {
  line: 'no line',
  file: 'not from a file',
  colleague: 'nobody',
  opener: 'without an opener',
  supplement: 'the round itself',
}

/** In which part somebody is. The colleague is who made the contact that decided. */
export const partOf = (row: Worked, by: PartedBy, decided: RoundContact | null): string =>
  (by === 'colleague' ? decided?.by : by === 'line' ? row.line : row[by]) || WITHOUT[by]

/** What became of a person by one way of contact alone; null where they were neither released for it nor contacted by it. */
export function outcomeBy(row: Worked, way: Way): Outcome | null {
  const came = cameTo(row.contacts.filter(({ channel }) => channel === way))
  if (came) return came.outcome
  const released = row.channels.find(({ channel }) => channel === way)
  return released ? (released.stopped ? 'stopped' : 'not worked') : null
}

/** The account of a round's results. `cost` is what a contact by a channel costs, in minor units, where that is known. */
export function resultsOf(rows: readonly Worked[], cost: (channel: Channel) => number | null): RoundResults {
  const counts = noCounts()
  let optOuts = 0
  const ways = new Map(WAYS.map((way) => [way, { way, counts: noCounts(), contacts: 0 }]))
  const parts = Object.fromEntries(PARTED_BY.map((by) => [by, new Map<string, Counts>()])) as Record<PartedBy, Map<string, Counts>>
  for (const row of rows) {
    const { outcome, by: decided } = outcomeOf(row)
    counts[outcome]++
    if (row.contacts.some(({ result }) => result === STOP)) optOuts++
    for (const way of ways.values()) {
      const own = outcomeBy(row, way.way)
      if (own !== null) way.counts[own]++
      way.contacts += row.contacts.filter(({ channel }) => channel === way.way).length
    }
    for (const by of PARTED_BY) {
      const key = partOf(row, by, decided)
      const part = parts[by].get(key) ?? noCounts()
      part[outcome]++
      parts[by].set(key, part)
    }
  }
  const priceOf = (way: Way, contacts: number): number | null => {
    const channel = CHANNELS.find((own) => own === way)
    const each = channel === undefined ? null : cost(channel)
    return each === null ? null : each * contacts
  }
  return {
    counts,
    optOuts,
    ways: [...ways.values()].filter((own) => releasedIn(own.counts) > 0).map((own) => ({ ...own, cost: priceOf(own.way, own.contacts) })),
    parts: Object.fromEntries(
      PARTED_BY.map((by) => [
        by,
        [...parts[by]]
          .map(([key, of]) => ({ key, counts: of }))
          .sort((a, b) => releasedIn(b.counts) - releasedIn(a.counts) || (a.key < b.key ? -1 : 1)),
      ]),
    ) as RoundResults['parts'],
  }
}

/** What an answer cost, in minor units: all contacts with a known cost, over everybody who answered. Null where nothing is known, or nobody answered. */
export function costPerAnswer({ counts, ways }: Pick<RoundResults, 'counts' | 'ways'>): number | null {
  const known = ways.filter((own) => own.cost !== null)
  if (known.length === 0 || counts.answered === 0) return null
  return known.reduce((sum, own) => sum + (own.cost as number), 0) / counts.answered
}
