import { array, boolean, string, object, type InferType } from 'yup'
import { screenName, pageOfLines, moment, view, page, oneValue, place, type Place, type Found } from './parts'
import { verb } from './verb'
import type { Bitset } from '@/core/columns/bitset'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import type { Moment } from '@/core/criteria/kind'
import type { FacetValues } from '@/core/facets/facet'
import { having } from '@/core/facets/group'
import { facetOf } from '@/core/facets/registry'
import { sortedBy } from '@/core/facets/sort'
import { subjectOf } from '@/core/lists/line'
import { decidedBy, viewOf } from '@/core/lists/view'
import { picked, type Sources } from '@/engine/sources'
import { glancesOf } from './glances'
import { inShape } from './in-shape'
import type { ListFigures } from '@/core/lists/account'
import type { Glance } from '@/core/screening/glance'

const schema = object({
  ...screenName,
  ...pageOfLines,
  moment: moment(),
  view: view(),
  page: page(),
  /** Who was on when somebody last looked: packed ids in base64. */
  since: string().nullable().optional(),
  /** By what the page is sorted; in the order in which records are shown where there is nothing. */
  sort: array(object({ key: string().required(), back: boolean().required() })).optional(),
  having: oneValue(),
  /** Facets to tell of each record on the page. */
  columns: array(string().required()).optional(),
  place: place(),
})
export type ListRequest = InferType<typeof schema>

/** A list's account and a page of the people behind one of its tabs or figures. */
async function answerList(sources: Sources, request: ListRequest): Promise<ListAnswer> {
  const work = await picked(sources, [request])
  const { lines, view, page } = request
  const columns = sources.model.directory.of(subjectOf(lines))
  const account = work(request, request.moment)
  const since = request.since ? sources.looks.get(request.since, columns) : null
  const subject = subjectOf(lines)
  const facet = (key: string) => facetOf(subject, key)
  const seen = viewOf(account, lines, view, since)
  const { having: only, sort = [] } = request
  const here = request.place ? placedAt(seen, request.place, columns, request.moment) : seen
  const set = only ? having(here, facet(only.key).values(columns.directory, request.moment), only.label) : here
  const keys = sort.map(({ key, back }) => ({
    values: facet(key).values(columns.directory, request.moment),
    back,
    ordered: facet(key).ordered === true,
  }))
  const ids =
    keys.length === 0
      ? columns.page(set, page.offset, page.limit)
      : Array.from(sortedBy(columns, set, keys).subarray(page.offset, page.offset + page.limit), (n) => columns.idAt(n))
  const numbers = ids.map((id) => columns.numberFor(id) as number)
  return {
    figures: account.figures,
    total: set.count(),
    ids,
    decided: decidedBy(account, lines, numbers),
    fresh: since && account.on.count() - account.on.countAnd(since),
    ...(request.columns
      ? {
          cells: cellsOf(
            request.columns.map((key) => facet(key).values(columns.directory, request.moment)),
            numbers,
          ),
        }
      : {}),
    ...(subject === 'person' ? { glances: glancesOf(sources, numbers, request.moment) } : {}),
  }
}

/** Those of a set that lie in a shape, or at some premises. */
export function placedAt(set: Bitset, place: Place, columns: SubjectColumns, moment: Moment): Bitset {
  const { people, organisations, premises } = columns.directory
  if ('shape' in place) return inShape(set, place.shape, columns, moment)
  const wanted = premises.numbers(place.premises)
  if (columns === premises) return set.and(wanted)
  const at = columns === people ? people.at : organisations.at
  return set.split((n) => (at.at(n) >= 0 && wanted.has(at.at(n)) ? 1 : 0)).yes
}

/** Returns the cells of records, row by row; null where a value is missing. */
export function cellsOf(values: FacetValues[], numbers: number[]): (string | null)[][] {
  return numbers.map((n) => values.map(({ labels, at }) => labels[at(n)] ?? null))
}

export interface ListAnswer extends Found {
  figures: ListFigures
  /** Deciding line of each of `ids`, where the tab shows people who are not on. */
  decided: ({ line: string; how: 'out' | 'unknown' } | null)[]
  /** How many are on who were not at the last look; null where nobody looked before. */
  fresh: number | null
  /** What each of `ids` has of each of the columns that were asked for; null where it is missing. */
  cells?: (string | null)[][]
  /** Of people: what a row tells of each of `ids`. */
  glances?: Glance[]
}

export const list = verb(schema, answerList)
