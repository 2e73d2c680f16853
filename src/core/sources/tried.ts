import type { Moment, Verdict } from '../criteria/kind'
import { asks, CRITERIA, thingsNamed, verdict } from '../criteria/registry'
import { fieldOfWay, isOfDetail, type ReachableCriterion, type ReachWay } from '../criteria/reachable'
import { joinedVerdict } from '../criteria/together'
import type { Line } from '../lists/line'
import { type Channel, CHANNELS } from '../records/channels'
import type { OrganisationRecord } from '../records/organisation-record'
import type { PersonRecord } from '../records/person-record'
import type { PremisesRecord } from '../records/premises-record'
import type { Subject } from '../records/subject'
import type { SubjectRecord } from '../records/subject-record'
import type { Found } from './source'

/** What a list would make of something that was found, as far as it can be told before it is paid for; the line that decides by its place. */
export type Outcome = { is: 'on' } | { is: 'out' | 'open'; line: number }

/** What a list would make of what was found: how many a line is sure to leave out, how many it cannot tell, and who would be on. */
export interface TriedView {
  list: { id: number; name: string; policy: string | null }
  tried: number
  on: number
  lines: { number: number; text: string; out: number; open: number }[]
  /** Of those who would be on, how many would be clear by each channel, as far as it can be told; null where the list is not of people. */
  clear: Partial<Record<Channel, number>> | null
  /** Lines with a limit, by their number: who comes in under one is told among all. */
  limits: number[]
  /** Of each thing found, what the list would make of it, in words. */
  said: [n: number, text: string][]
}

/** What nobody who has just come in has: where it is not known, it will not be known once they are paid for either. */
const NEVER_TOLD: ReadonlySet<string> = new Set(['relation', 'tags', 'contact', 'batch', 'round'])

type Told = 'yes' | 'no' | 'unknown' | 'untold'

/** What a question comes to: *unknown* if it stays so, *untold* if it can only be told once it is paid for. */
function toldOf(criterion: Parameters<typeof verdict>[0], record: SubjectRecord, moment: Moment, subject: Subject): Told {
  if (criterion.kind === 'together') {
    const all = criterion.parts.map((part) => toldOf(part, record, moment, subject))
    const decides = criterion.every ? 'no' : 'yes'
    return all.includes(decides) ? decides : all.includes('untold') ? 'untold' : joinedVerdict(criterion.every, all as Verdict[])
  }
  if (criterion.kind === 'reachable') return waysTold(criterion, record as PersonRecord, moment)
  // Who is on another list, or lies in an area, is told by the records themselves. Nobody new came in with an earlier file.
  if (criterion.kind !== 'batch' && thingsNamed(criterion).length > 0) return 'untold'
  // The name of whom to ask for comes with what is paid for.
  if (subject === 'person' && CRITERIA[criterion.kind].of === 'person' && asks(criterion).includes('name')) return 'untold'
  const said = verdict(criterion, record, moment, subject)
  return said === 'unknown' && !asks(criterion).every((field) => NEVER_TOLD.has(field)) ? 'untold' : said
}

/** Ways to reach somebody: a source says that there is a number, not whose it is or whether it was ever checked. */
function waysTold(criterion: ReachableCriterion, record: PersonRecord, moment: Moment): Told {
  const isOpen = (way: ReachWay) => isOfDetail(way) && record.addresses.some(({ channel }) => channel === fieldOfWay(way))
  const sure = criterion.ways.filter((way) => !isOpen(way))
  const said = sure.length === 0 ? 'unknown' : verdict({ ...criterion, ways: sure }, record, moment)
  if (sure.length === criterion.ways.length) return said === 'unknown' ? 'untold' : said
  return said === (criterion.wanted === 'any' ? 'yes' : 'no') ? said : 'untold'
}

/**
 * Takes one record through the lines of a page. Limits are passed over: who comes in under one is told among all. A line that is sure to
 * leave it out decides, also after one that cannot be told.
 */
export function tried(record: SubjectRecord, lines: readonly Line[], moment: Moment, subject: Subject): Outcome {
  const at: { is: Outcome['is']; line: number } = { is: 'out', line: 0 }
  const becomes = (is: Outcome['is'], line: number) => {
    if (at.is !== is) at.line = line
    at.is = is
  }
  lines.forEach((line, i) => {
    if (line.off || line.verb === 'limit' || line.verb === 'pick') return
    if (line.verb === 'start') return becomes(line.batch === null ? 'on' : 'out', i)
    const told = toldOf(line.criterion, record, moment, subject)
    if (line.verb === 'add') {
      if (told === 'yes') becomes('on', i)
      else if (told === 'untold' && at.is === 'out') becomes('open', i)
      return
    }
    if (at.is === 'out') return
    const goes = line.verb === 'drop' ? told === 'yes' : told === 'no' || (told === 'unknown' && !line.unknownAsYes)
    if (goes) becomes('out', i)
    else if (told === 'untold') becomes('open', i)
  })
  return at.is === 'on' ? { is: 'on' } : { is: at.is, line: at.line }
}

const NOTHING = { county: null, custom: {}, batches: [], street: null }

/** What is known of something found before it is paid for, as the record it would come in as. */
export function asRecord(found: Found, n: number, subject: Subject): PersonRecord | OrganisationRecord | PremisesRecord {
  const place = { ...NOTHING, id: n, town: found.district || null, postcode: found.postcode || null, sortKey: found.name }
  if (subject === 'premises')
    return {
      ...place,
      name: found.name,
      kind: found.kind || null,
      position: null,
      roofArea: null,
      yearBuilt: null,
      ownerKind: null,
      ownerKey: null,
      ownerLives: null,
      ownerPerson: null,
      ownerOrganisation: null,
    } satisfies PremisesRecord
  const organisation: OrganisationRecord = {
    ...place,
    name: found.name,
    industry: found.kind || null,
    headCount: null,
    domain: null,
    premises: null,
  }
  if (subject === 'organisation') return organisation
  return {
    ...place,
    given: '',
    family: '',
    role: null,
    organisation: n,
    employer: organisation,
    premises: null,
    at: null,
    relation: null,
    tags: [],
    addresses: CHANNELS.filter((channel) => found.has.includes(channel)).map((channel, i) => ({
      id: i + 1,
      channel,
      usable: true,
      failedAt: null,
      suppressions: [],
    })),
    contacts: [],
    toCome: [],
    suppressions: [],
    rounds: [],
  } satisfies PersonRecord
}
