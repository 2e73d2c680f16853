import { distance } from 'fastest-levenshtein'
import { comparableStreet } from '@/core/clean/postal'
import { addScores, highest, learntBy, reasonsOf, TELLING, type Weight } from '@/core/facets/alike'
import { countBy, groupRows } from '@/core/facets/group'
import { profileBy, profiledFacets } from '@/core/facets/profile'
import { facetOf } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import { viewOf } from '@/core/lists/view'
import { inTurns } from './in-turns'
import { inShape, picked, type Sources, type Unmarked } from './answer'
import type {
  AlikeAnswer,
  AlikeRequest,
  GroupAnswer,
  GroupRequest,
  MapAnswer,
  MapRequest,
  PresenceAnswer,
  PresenceRequest,
  ProfileAnswer,
  ProfileRequest,
  StreetsAnswer,
  StreetsRequest,
} from './protocol'

/** More groups than this are not sent; they are the smallest. */
const MOST_GROUPS = 200

/** Those behind a tab or figure, counted by a facet. */
export async function answerGroup(sources: Sources, request: GroupRequest): Promise<Unmarked<GroupAnswer>> {
  const work = await picked(sources, [request])
  const facet = facetOf(subjectOf(request.lines), request.key)
  const set = viewOf(work(request, request.moment), request.lines, request.view)
  const values = facet.values(sources.model.directory, request.moment)
  const groups = countBy(set, values)
  return {
    rows: groupRows(groups, values.labels, facet.ordered === true).slice(0, MOST_GROUPS),
    unknown: groups.unknown,
    total: set.count(),
  }
}

/** Of how many on a page it is not known what some criteria ask. */
export async function answerPresence(sources: Sources, request: PresenceRequest): Promise<Unmarked<PresenceAnswer>> {
  const { model } = sources
  const work = await picked(sources, [request])
  const subject = subjectOf(request.lines)
  const { begun, done } = await inTurns(
    model,
    request.kinds,
    () => work(request, request.moment).on,
    (on, criterion) => model.answers.of(criterion, request.moment, subject).unknown.countAnd(on),
  )
  return { on: begun.count(), unknown: done }
}

/** A list beside the directory or another list, facet by facet. */
export async function answerProfile(sources: Sources, request: ProfileRequest): Promise<Unmarked<ProfileAnswer>> {
  const work = await picked(sources, [request, ...(request.base ? [request.base] : [])])
  const subject = subjectOf(request.lines)
  const { model } = sources
  const {
    begun: { list, base },
    done,
  } = await inTurns(
    model,
    profiledFacets(subject),
    () => ({
      list: work(request, request.moment).on,
      base: request.base ? work(request.base, request.moment).on : model.directory.of(subject).live.clone(),
    }),
    (sets, key) => profileBy(key, sets.list, sets.base, subject, model.directory, request.moment),
  )
  return { total: list.count(), baseTotal: base.count(), facets: done }
}

/** Those most like the records of a page, with why. */
export async function answerAlike(sources: Sources, request: AlikeRequest): Promise<Unmarked<AlikeAnswer>> {
  const work = await picked(sources, [request])
  const subject = subjectOf(request.lines)
  const { model } = sources
  const { begun, done } = await inTurns(
    model,
    TELLING[subject],
    () => {
      const columns = model.directory.of(subject)
      const examples = work(request, request.moment).on
      return { columns, examples, others: columns.live.andNot(examples), scores: new Float64Array(columns.size) }
    },
    ({ columns, examples, others, scores }, key) => {
      const facet = learntBy(key, examples, columns.live, subject, model.directory, request.moment)
      addScores(facet, others, scores)
      return facet
    },
  )
  const { columns, examples, others, scores } = begun
  const likeness = { facets: done }
  const { offset, limit } = request.page
  const found = highest(others, scores, offset + limit).slice(offset)
  const telling = likeness.facets
    .flatMap(({ key, title, values, weights, examples: own, everybody }) =>
      values.labels.map((label, i): Weight & { title: string } => ({
        key,
        title,
        label,
        weight: weights[i],
        examples: own[i],
        everybody: everybody[i],
      })),
    )
    // What says most is what is both strong and common among the examples.
    .sort((a, b) => Math.abs(b.weight) * b.examples - Math.abs(a.weight) * a.examples)
    .slice(0, 40)
  return {
    examples: examples.count(),
    total: others.count(),
    ids: found.map(({ n }) => columns.idAt(n)),
    scores: found.map(({ score }) => score),
    reasons: found.map(({ n }) => reasonsOf(likeness, n)),
    telling,
  }
}

/** Premises of a square are named up to so many. */
const MOST_NAMED = 4

/** Where those behind a tab or figure lie. */
export async function answerMap(sources: Sources, request: MapRequest): Promise<Unmarked<MapAnswer>> {
  const work = await picked(sources, [request])
  const { lines, view, box, shape } = request
  const set = viewOf(work(request, request.moment), lines, view)
  const { people, organisations, premises } = sources.model.directory
  const subject = subjectOf(lines)
  const link = subject === 'person' ? people.at : organisations.at
  const [west, south, east, north] = box
  const wide = (east - west) / Math.max(1, Math.min(200, request.columns))
  // A square on the map is as high as it is wide there, and degrees of longitude shrink towards the poles.
  const high = wide * Math.max(0.1, Math.cos((((south + north) / 2) * Math.PI) / 180))
  const squares = new Map<number, { lat: number; lon: number; count: number; premises: Set<number> }>()
  let placed = 0
  set.forEach((n) => {
    const at = subject === 'premises' ? n : link.at(n)
    if (at < 0 || !premises.live.has(at) || !premises.placed(at)) return
    placed++
    const [lat, lon] = [premises.lat[at], premises.lon[at]]
    if (lon < west || lon > east || lat < south || lat > north) return
    const key = Math.floor((lon - west) / wide) + 1000 * Math.floor((lat - south) / high)
    let square = squares.get(key)
    if (!square) squares.set(key, (square = { lat: 0, lon: 0, count: 0, premises: new Set() }))
    square.count++
    square.lat += lat
    square.lon += lon
    if (square.premises.size <= MOST_NAMED) square.premises.add(premises.idAt(at))
  })
  const points = [...squares.values()].map(({ lat, lon, count, premises: named }) => ({
    lat: lat / count,
    lon: lon / count,
    count,
    premises: named.size <= MOST_NAMED ? [...named] : [],
  }))
  return {
    points,
    placed,
    total: set.count(),
    inShape: shape ? inShape(set, shape, sources.model.directory.of(subject), request.moment).count() : null,
  }
}

/** Streets of a subject that are likest to what was typed. */
export async function answerStreets(sources: Sources, { subject, typed }: StreetsRequest): Promise<Unmarked<StreetsAnswer>> {
  const columns = sources.model.directory.of(subject)
  const names = columns.street.derived(comparableStreet)
  const counts = new Map<string, { street: string; count: number }>()
  const of = names.map((name, code) => {
    let known = counts.get(name)
    if (!known) counts.set(name, (known = { street: columns.street.words[code], count: 0 }))
    return known
  })
  columns.live.forEach((n) => {
    const code = columns.street.codeAt(n)
    if (code >= 0) of[code].count++
  })
  const wanted = comparableStreet(typed)
  const likely = [...counts]
    .filter(([, { count }]) => count > 0)
    .map(([name, row]) => ({ ...row, far: name === wanted ? -1 : name.startsWith(wanted) ? 0 : distance(name, wanted) }))
    .filter(({ far }) => far <= Math.max(2, wanted.length / 3))
    .sort((a, b) => a.far - b.far || b.count - a.count)
    .slice(0, 8)
  return { exact: counts.get(wanted)?.count ?? 0, likely: likely.map(({ street, count }) => ({ street, count })) }
}
