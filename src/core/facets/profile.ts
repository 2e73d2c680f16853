import type { Bitset } from '../columns/bitset'
import type { Directory } from '../columns/directory'
import type { Subject } from '../records/subject'
import type { Moment } from '../criteria/kind'
import { countBy } from './group'
import { FACETS } from './registry'

export interface ProfileRow {
  label: string
  count: number
  /** How many of the base have it. */
  base: number
  /** Share of those whose value is known, 0 to 1. */
  share: number
  baseShare: number
  /** Share over the base's share; null where the base has none. */
  lift: number | null
}

/** One facet of a list beside the same of a base. */
export interface ProfileOf {
  key: string
  title: string
  ordered: boolean
  known: number
  unknown: number
  baseKnown: number
  baseUnknown: number
  rows: ProfileRow[]
}

/** Facets that have a value of their own for nearly every record and tell nothing of a list as a whole. */
const TOO_FINE = new Set(['organisation'])
/** So many values of a facet are shown, the largest first. */
const MOST_ROWS = 12

/** The facets that a profile of a subject has. */
export const profiledFacets = (subject: Subject): string[] => Object.keys(FACETS[subject]).filter((key) => !TOO_FINE.has(key))

/** A list beside a base, by one facet. Shares are of those whose value is known. */
export function profileBy(key: string, list: Bitset, base: Bitset, subject: Subject, directory: Directory, moment: Moment): ProfileOf {
  const { title, ordered = false, values } = FACETS[subject][key]
  const found = values(directory, moment)
  const [own, others] = [countBy(list, found), countBy(base, found)]
  const [known, baseKnown] = [sum(own.counts), sum(others.counts)]
  const rows = found.labels
    .map((label, i): ProfileRow => {
      const [share, baseShare] = [known === 0 ? 0 : own.counts[i] / known, baseKnown === 0 ? 0 : others.counts[i] / baseKnown]
      return { label, count: own.counts[i], base: others.counts[i], share, baseShare, lift: baseShare === 0 ? null : share / baseShare }
    })
    .filter((row) => row.count + row.base > 0)
  const shown = ordered
    ? rows
    : rows.sort((a, b) => b.count - a.count || b.base - a.base || (a.label < b.label ? -1 : 1)).slice(0, MOST_ROWS)
  return { key, title, ordered, known, unknown: own.unknown, baseKnown, baseUnknown: others.unknown, rows: shown }
}

/** A list beside a base, facet by facet. */
export const profileOf = (list: Bitset, base: Bitset, subject: Subject, directory: Directory, moment: Moment): ProfileOf[] =>
  profiledFacets(subject).map((key) => profileBy(key, list, base, subject, directory, moment))

const sum = (counts: Int32Array) => counts.reduce((total, n) => total + n, 0)
