import type { Bitset } from '../columns/bitset'
import type { PersonRecord } from '../records/person-record'
import type { SubjectColumns } from '../columns/subject-columns'
import { CHANNELS } from '../records/channels'

/** Who comes first where a limit must choose. */
export const RANKS = [
  'easiest to reach',
  'least often contacted',
  'longest since a contact',
  'latest contact',
  'most recently changed',
  'largest',
  'at random',
  'first in the directory',
  'last in the directory',
] as const
export type Rank = (typeof RANKS)[number]

/** The ranking by likeness to the records of another list, which a line names. */
export const BEST_FIT = 'best fit'

/** What each ranking goes by, in words. */
export const RANK_NOTE: Record<Rank | typeof BEST_FIT, string> = {
  'easiest to reach': 'by how many of email, phone, post and direct message are usable',
  'least often contacted': 'by contacts in the four channels; never contacted comes first',
  'longest since a contact': 'by the last contact in the four channels; never contacted comes last',
  'latest contact': 'by the last contact in the four channels; never contacted comes last',
  'most recently changed': 'by the latest change of a fact about them; never changed comes last',
  largest: 'by the organisation’s head count, or of premises by the roof; unknown comes last',
  'at random': 'drawn once from a number that is kept, so that the order is the same every time',
  'best fit': 'by how much what they are is like those of a list (scored as in “more like these”); who is like none comes last',
  'first in the directory': 'by when they came in',
  'last in the directory': 'by when they came in, the newest first',
}

/** Minutes since 1970 that stand for a missing rank: it goes last. */
const MISSING = 2 ** 31 - 1

/** The rank of one person: lower comes first; a missing one is MISSING. Ties go by id. The reference. */
export function rankOfRecord(rank: Rank, record: PersonRecord, seed = 0): number {
  if (rank === 'most recently changed') return latestFirst(record.changedAt ?? null)
  if (rank === 'largest') return largestFirst(record.employer?.headCount ?? null)
  if (rank === 'at random') return drawn(seed, record.id)
  const counted = record.contacts.filter((c) => (CHANNELS as readonly string[]).includes(c.channel)).map((c) => c.at)
  return rankBy(
    rank,
    CHANNELS.filter((channel) => record.addresses.some((a) => a.channel === channel && a.usable)).length,
    counted.length,
    Math.max(...counted, Number.NEGATIVE_INFINITY),
  )
}

const latestFirst = (at: number | null) => (at === null ? MISSING : MISSING - 1 - Math.floor(at / 60_000))
const largestFirst = (size: number | null) => (size === null ? MISSING : MISSING - 1 - size)

/** A number that looks drawn at random from a seed and an id. Source: the finalizer of MurmurHash3 (A. Appleby, public domain). */
export function drawn(seed: number, id: number): number {
  let h = (Math.imul(id | 0, 0x9e3779b1) ^ Math.floor(id / 2 ** 32) ^ seed) | 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return (h ^ (h >>> 16)) >>> 1
}

function rankBy(rank: Rank, reachable: number, contacts: number, last: number): number {
  switch (rank) {
    case 'easiest to reach':
      return CHANNELS.length - reachable
    case 'least often contacted':
      return contacts
    case 'longest since a contact':
      return contacts === 0 ? MISSING : Math.floor(last / 60_000)
    case 'latest contact':
      return contacts === 0 ? MISSING : MISSING - 1 - Math.floor(last / 60_000)
    default:
      return 0
  }
}

/** The members of a set from first to last by a ranking, ties by id: record numbers. */
export function ranked(set: Bitset, rank: Rank, columns: SubjectColumns, seed = 0): Int32Array {
  const numbers = set.toInt32()
  const back = rank === 'last in the directory'
  // Numbers ascend already, and so do ids.
  if (columns.idsAscend && rank === 'first in the directory') return numbers
  if (columns.idsAscend && back) return numbers.reverse()
  return rankedBy(set, rank === 'at random' ? (n: number) => drawn(seed, columns.idAt(n)) : keyOf(rank, columns), columns, back)
}

/**
 * The members of a set from the lowest to the highest of a whole number each (below 2³¹), ties by id, or the other way
 * round where `back` is set: record numbers.
 */
export function rankedBy(set: Bitset, key: (n: number) => number, columns: SubjectColumns, back = false): Int32Array {
  const numbers = set.toInt32()
  if (!columns.idsAscend) {
    const keys = new Map(Array.from(numbers, (n) => [n, key(n)]))
    return numbers.sort(
      (a, b) => (keys.get(a) as number) - (keys.get(b) as number) || (columns.idAt(a) - columns.idAt(b)) * (back ? -1 : 1),
    )
  }
  // One number a record, rank before record number, sorts without a comparison function.
  const size = columns.size + 1
  const packed = Float64Array.from(numbers, (n) => key(n) * size + (back ? size - 1 - n : n)).sort()
  return Int32Array.from(packed, (value) => (back ? size - 1 - (value % size) : value % size))
}

/** A score as a whole number that ranks, the highest score first; scores are sums of a few logarithms and lie far within ±100. */
export const bestFirst = (score: number): number => Math.round((100 - Math.max(-99, Math.min(99, score))) * 1e7)

/** The rank of each record number. What a subject does not have ranks all the same. */
function keyOf(rank: Rank, columns: SubjectColumns): (n: number) => number {
  const { people, organisations, premises } = columns.directory
  if (rank === 'largest') {
    const size = columns === premises ? premises.roofArea : organisations.headCount
    const none = (value: number) => largestFirst(value < 0 ? null : value)
    if (columns !== people) return (n) => none(size.at(n))
    return (n) => {
      const employer = people.employer.at(n)
      return none(employer < 0 || !organisations.live.has(employer) ? -1 : size.at(employer))
    }
  }
  if (columns !== people) return () => 0
  if (rank === 'most recently changed') return (n) => latestFirst(people.changedAt(n))
  const { at, channel } = people.contacts.fields
  return (n) => {
    let contacts = 0
    let last = Number.NEGATIVE_INFINITY
    const end = people.contacts.first(n) + people.contacts.count(n)
    for (let i = people.contacts.first(n); i < end; i++) {
      if (channel[i] >= CHANNELS.length) continue
      contacts++
      if (at[i] > last) last = at[i]
    }
    let reachable = 0
    for (const c of CHANNELS) if (people.usable[c].has(n)) reachable++
    return rankBy(rank, reachable, contacts, last)
  }
}
