import type { Moment } from '../criteria/kind'
import { type Answers, type Criterion, type CriterionName, questionsOf } from '../criteria/registry'
import { countBy, groupRows } from '../facets/group'
import { facetOf } from '../facets/registry'
import type { Directory } from '../columns/directory'
import type { Bitset } from '../columns/bitset'
import { CHANNELS } from '../records/channels'
import { type Line, subjectOf } from './line'
import type { Per } from './line'
import { farFrom, type Wanted } from './wanted'

/** A line without its id, as it would be added. */
export type NewLine = Line extends infer L ? (L extends { id: string } ? Omit<L, 'id'> : never) : never

/** A line that would bring a list nearer to a wanted size, and how many the list would then hold. */
export interface Proposal {
  line: NewLine
  holds: number
}

/** What a list that has too many can be narrowed by without touching what it is about. */
type About = 'place' | 'size' | 'freshness' | 'reach' | 'limit' | 'sample'

/** Kinds of criteria by which a list is about something already, so that nothing of it is proposed again. */
const ASKED: Record<Exclude<About, 'limit' | 'sample'>, readonly CriterionName[]> = {
  place: ['place', 'territory', 'county', 'district', 'region', 'street', 'area', 'near'],
  size: ['head-count', 'counted', 'revenue', 'roof-area', 'floor-area'],
  freshness: ['contacted', 'contact-count', 'interest'],
  reach: ['reach', 'reachable'],
}

/** At most so many values stand in one proposed line, and so many lines of one sort are proposed. */
const MOST_VALUES = 8
const MOST_OF_A_SORT = 2
const MOST = 6

const DAYS = [30, 90, 180, 365]
const ROOFS = [100, 250, 500, 1000, 2500]
const A_GROUP = [1, 2, 3, 5]

const keep = (criterion: Criterion): NewLine => ({ verb: 'keep', off: false, unknownAsYes: false, criterion })

/**
 * Lines that would bring a list of too many nearer to a wanted size, about what its lines do not ask yet: places, sizes,
 * freshness, ways to reach them, limits and a sample. Nearest to the wanted size first, larger before smaller, a few of each sort.
 * `holds` says how many the list would hold with a limit as its last line; what criteria leave is counted here. A record whose value
 * is unknown is not kept by such a line. Empty where the list holds no more than is wanted.
 */
export function resizing(
  wanted: Wanted,
  lines: readonly Line[],
  on: Bitset,
  { directory, answers, moment }: { directory: Directory; answers: Answers; moment: Moment },
  holds: (limit: NewLine) => number,
): Proposal[] {
  const now = on.count()
  if (now <= wanted.most) return []
  const subject = subjectOf(lines)
  const asked = new Set<CriterionName>(
    lines.flatMap((line) => ('criterion' in line && !line.off ? questionsOf(line.criterion).map(({ kind }) => kind) : [])),
  )
  const free = (about: keyof typeof ASKED) => !ASKED[about].some((kind) => asked.has(kind))
  const found: (Proposal & { about: About })[] = []
  const propose = (about: About, line: NewLine, left: number) => {
    if (left > 0 && farFrom(wanted, left) < farFrom(wanted, now)) found.push({ about, line, holds: left })
  }
  const criterion = (about: About, asking: Criterion) => propose(about, keep(asking), answers.of(asking, moment, subject).yes.countAnd(on))
  const biggest = (about: About, key: string, asking: (labels: string[]) => Criterion) => {
    const facet = facetOf(subject, key)
    const values = facet.values(directory, moment)
    const labels = fillUp(groupRows(countBy(on, values), values.labels, false), wanted)
    if (labels.length > 0) criterion(about, asking(labels))
  }

  if (free('place')) {
    biggest('place', 'county', (any) => ({ kind: 'county', any }))
    biggest('place', 'town', (towns) => ({ kind: 'place', towns, postcodes: [] }))
  }
  if (free('size')) {
    if (subject === 'premises') for (const least of ROOFS) criterion('size', { kind: 'roof-area', least, most: null })
    else biggest('size', 'head-count', (any) => ({ kind: 'head-count', any: any as never }))
  }
  if (subject === 'person') {
    if (free('freshness')) {
      criterion('freshness', { kind: 'contacted', how: 'never', by: null })
      for (const days of DAYS) {
        const within: Criterion = { kind: 'contacted', how: 'within', days, by: null }
        propose(
          'freshness',
          { verb: 'drop', off: false, unknownAsYes: false, criterion: within },
          now - answers.of(within, moment, subject).yes.countAnd(on),
        )
      }
    }
    if (free('reach')) for (const channel of CHANNELS) criterion('reach', { kind: 'reach', channel })
  }
  if (!lines.some((line) => line.verb === 'limit' && !line.off)) {
    const per: Per = subject === 'person' ? 'organisation' : subject === 'organisation' ? 'postcode' : 'postcode'
    for (const most of A_GROUP) {
      const limit: NewLine = { verb: 'limit', off: false, most, per, rank: subject === 'person' ? 'easiest to reach' : 'largest' }
      propose('limit', limit, holds(limit))
    }
    propose('sample', { verb: 'limit', off: false, most: wanted.most, per: 'all', rank: 'at random', seed: now }, wanted.most)
  }
  const best = found.sort((a, b) => farFrom(wanted, a.holds) - farFrom(wanted, b.holds) || b.holds - a.holds)
  const taken = new Map<About, number>()
  return best
    .filter(({ about }) => {
      taken.set(about, (taken.get(about) ?? 0) + 1)
      return (taken.get(about) as number) <= MOST_OF_A_SORT
    })
    .slice(0, MOST)
    .map(({ line, holds: left }) => ({ line, holds: left }))
}

/** The largest groups that together hold no more than is wanted; the smallest that does not fit alone where none does. */
function fillUp(groups: readonly { label: string; count: number }[], wanted: Wanted): string[] {
  const labels: string[] = []
  let sum = 0
  for (const { label, count } of groups) {
    if (labels.length === MOST_VALUES) break
    if (sum + count > wanted.most) continue
    labels.push(label)
    sum += count
  }
  return labels
}
