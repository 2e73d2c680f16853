import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS, type PersonRecord, SCREENED } from '../columns/person-record'

/** Who comes first where a limit must choose. */
export const RANKS = ['easiest to reach', 'least often contacted', 'longest since a contact', 'latest contact', 'first in the directory', 'last in the directory'] as const
export type Rank = (typeof RANKS)[number]

/** What each ranking goes by, in words. */
export const RANK_NOTE: Record<Rank, string> = {
  'easiest to reach': 'by how many of e-mail, phone and post are usable',
  'least often contacted': 'by contacts in the four channels; never contacted comes first',
  'longest since a contact': 'by the last contact in the four channels; never contacted comes last',
  'latest contact': 'by the last contact in the four channels; never contacted comes last',
  'first in the directory': 'by when they came in',
  'last in the directory': 'by when they came in, the newest first',
}

/** Minutes since 1970 that stand for a missing rank: it goes last. */
const MISSING = 2 ** 31 - 1

/** The rank of one record: lower comes first; a missing one is MISSING. Ties go by id. The reference. */
export function rankOfRecord(rank: Rank, record: PersonRecord): number {
  const counted = record.contacts.filter((c) => (CHANNELS as readonly string[]).includes(c.channel)).map((c) => c.at)
  return rankBy(rank, SCREENED.filter((channel) => record.addresses.some((a) => a.channel === channel && a.usable)).length, counted.length, Math.max(...counted, Number.NEGATIVE_INFINITY))
}

function rankBy(rank: Rank, reachable: number, contacts: number, last: number): number {
  switch (rank) {
    case 'easiest to reach':
      return SCREENED.length - reachable
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
export function ranked(set: Bitset, rank: Rank, columns: PeopleColumns): Int32Array {
  const numbers = set.toInt32()
  const { at, channel } = columns.contacts.fields
  const back = rank === 'last in the directory'
  // Numbers ascend already, and so do ids.
  if (columns.idsAscend && rank === 'first in the directory') return numbers
  if (columns.idsAscend && back) return numbers.reverse()
  const key = (n: number): number => {
    let contacts = 0
    let last = Number.NEGATIVE_INFINITY
    const end = columns.contacts.first(n) + columns.contacts.count(n)
    for (let i = columns.contacts.first(n); i < end; i++) {
      if (channel[i] >= CHANNELS.length) continue
      contacts++
      if (at[i] > last) last = at[i]
    }
    let reachable = 0
    for (const c of SCREENED) if (columns.usable[c].has(n)) reachable++
    return rankBy(rank, reachable, contacts, last)
  }
  if (!columns.idsAscend) {
    const keys = new Map(Array.from(numbers, (n) => [n, key(n)]))
    return numbers.sort((a, b) => (keys.get(a) as number) - (keys.get(b) as number) || (columns.idAt(a) - columns.idAt(b)) * (back ? -1 : 1))
  }
  // One number a record, rank before record number, sorts without a comparison function.
  const size = columns.size + 1
  const packed = Float64Array.from(numbers, (n) => key(n) * size + (back ? size - 1 - n : n)).sort()
  return Int32Array.from(packed, (value) => (back ? size - 1 - (value % size) : value % size))
}
