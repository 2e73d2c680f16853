import type { Bitset } from '@/core/columns/bitset'
import { findPeople, sorted } from '@/core/columns/find'
import type { AreaShape } from '@/core/areas/shape'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import { area } from '@/core/criteria/area'
import type { Moment } from '@/core/criteria/kind'
import { listAccount, type ListAccount } from '@/core/lists/account'
import { compareEditions } from '@/core/lists/compare-editions'
import type { FacetValues } from '@/core/facets/facet'
import { having } from '@/core/facets/group'
import { facetOf } from '@/core/facets/registry'
import { sortedBy } from '@/core/facets/sort'
import { subjectOf } from '@/core/lists/line'
import { areasNamed, atHand, picksIn } from '@/core/lists/named'
import { decidedBy, viewOf } from '@/core/lists/view'
import { countOf, type Crowd, type RequalifyAccount, requalifyClear, requalifyListed } from '@/core/rounds/requalify'
import { standingOf } from '@/core/rounds/standing'
import { type Glance, glanceAt } from '@/core/screening/glance'
import { type ScreeningAccount, screeningAccount } from '@/core/screening/account'
import type { Areas } from './areas'
import type { FrozenRounds } from './frozen-rounds'
import type { Looks } from './looks'
import { packIds, unpackIds } from './packed-ids'
import type { PickSets } from './pick-sets'
import type {
  BalancesAnswer,
  BalancesRequest,
  CompareAnswer,
  CompareRequest,
  FindAnswer,
  FindRequest,
  ListAnswer,
  ListRequest,
  MembersAnswer,
  PageOfLines,
  PageWanted,
  Place,
  ReleaseAnswer,
  ReleaseRequest,
  RequalifyAnswer,
  RequalifyRequest,
  ScreenAnswer,
  ScreenRequest,
} from './protocol'
import type { ReadModel } from './read-model'
import type { RequalifyView, ScreeningView } from '@/core/views/round-views'

export type Unmarked<T> = Omit<T, 'behind'>

/** What answers are made from. Everything that has to be waited for is at hand before an account is begun. */
export interface Sources {
  model: ReadModel
  rounds: FrozenRounds
  picks: PickSets
  areas: Areas
  looks: Looks
}

/** Gets the sets of picked records and the areas that pages name, so that accounts can be worked out without waiting. */
export async function picked(
  { picks, areas, model }: Sources,
  pages: PageOfLines[],
): Promise<(page: PageOfLines, moment: Moment) => ListAccount> {
  const lines = pages.flatMap(({ lines: own, named }) => [own, ...Object.values(named)]).flat()
  const fixed = {
    picked: await picks.get(picksIn(lines).map((line) => line.set.id)),
    areas: await areas.get(areasNamed(lines).map((area) => area.id)),
  }
  return ({ lines: own, named }, moment) => {
    const { directory, answers } = model
    return listAccount(own, directory.of(subjectOf(own)), answers, atHand(moment, own, named, fixed, directory, answers))
  }
}

/** A list's account and a page of the people behind one of its tabs or figures. */
export async function answerList(sources: Sources, request: ListRequest): Promise<Unmarked<ListAnswer>> {
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

/** What a row tells of some people, as things stand. */
function glancesOf({ model }: Sources, numbers: number[], moment: Moment): Glance[] {
  const standing = { ...moment, exceptRounds: [], letThrough: [] }
  return numbers.map((n) => glanceAt(model.columns, n, standing))
}

/** Those of a set that an area of this shape would have in it: what is drawn is asked as a line would ask it. */
export function inShape(set: Bitset, shape: AreaShape, columns: SubjectColumns, moment: Moment): Bitset {
  return area
    .evaluate({ kind: 'area', areas: [{ id: 0, name: 'what is drawn' }] }, columns, { ...moment, areas: new Map([[0, shape]]) })
    .yes.and(set)
}

/** Those of a set that lie in a shape, or at some premises. */
function placedAt(set: Bitset, place: Place, columns: SubjectColumns, moment: Moment): Bitset {
  const { people, organisations, premises } = columns.directory
  if ('shape' in place) return inShape(set, place.shape, columns, moment)
  const wanted = premises.numbers(place.premises)
  if (columns === premises) return set.and(wanted)
  const at = columns === people ? people.at : organisations.at
  return set.split((n) => (at.at(n) >= 0 && wanted.has(at.at(n)) ? 1 : 0)).yes
}

function cellsOf(values: FacetValues[], numbers: number[]): (string | null)[][] {
  return numbers.map((n) => values.map(({ labels, at }) => labels[at(n)] ?? null))
}

/** A page of the people of the directory who say every word. */
export async function answerFind(sources: Sources, { words, sort, page, moment }: FindRequest): Promise<Unmarked<FindAnswer>> {
  const { columns } = sources.model
  const found = findPeople(columns, words)
  const ids =
    sort === 'name'
      ? columns.page(found, page.offset, page.limit)
      : Array.from(sorted(columns, found, sort).subarray(page.offset, page.offset + page.limit), (n) => columns.idAt(n))
  return {
    total: found.count(),
    ids,
    glances: glancesOf(
      sources,
      ids.map((id) => columns.numberFor(id) as number),
      moment,
    ),
  }
}

/** Who is on a list, packed. */
export async function answerMembers(sources: Sources, request: PageOfLines & { moment: Moment }): Promise<Unmarked<MembersAnswer>> {
  const work = await picked(sources, [request])
  const ids = sources.model.directory.of(subjectOf(request.lines)).toIds(work(request, request.moment).on)
  return { packed: packIds(ids).toString('base64'), total: ids.length }
}

/** How many are on each of some lists, and how many of them were not at the last look. */
export async function answerBalances(sources: Sources, { lists, moment }: BalancesRequest): Promise<Unmarked<BalancesAnswer>> {
  const work = await picked(sources, lists)
  return {
    lists: lists.map((list) => {
      const { on } = work(list, moment)
      const count = on.count()
      return {
        on: count,
        fresh:
          list.since === null
            ? null
            : count -
              on.countAnd(sources.model.directory.of(subjectOf(list.lines)).numbersNow(unpackIds(Buffer.from(list.since, 'base64')))),
      }
    }),
  }
}

/** Two editions held against each other on today's data. */
export async function answerCompare(sources: Sources, request: CompareRequest): Promise<Unmarked<CompareAnswer>> {
  const { earlier, later, moment, tab, page } = request
  const work = await picked(sources, [earlier, later])
  const [before, after] = [work(earlier, moment), work(later, moment)]
  const columns = sources.model.directory.of(subjectOf(later.lines))
  const comparison = compareEditions(before, after)
  const ids = columns.page(comparison[tab], page.offset, page.limit)
  const numbers = ids.map((id) => columns.numberFor(id) as number)
  const [account, lines] = tab === 'joined' ? [before, earlier.lines] : [after, later.lines]
  return { figures: comparison.figures, total: comparison[tab].count(), ids, decided: decidedBy(account, lines, numbers) }
}

export async function answerScreen(sources: Sources, request: ScreenRequest): Promise<Unmarked<ScreenAnswer>> {
  const work = await picked(sources, [request])
  const { columns } = sources.model
  const { rules, moment, view, page } = request
  const list = work(request, moment)
  const account = screeningAccount(list.on, rules, columns, moment)
  const set =
    view.tab === 'through' ? list.on.and(columns.numbers(moment.letThrough.map((l) => l.person))) : screeningSet(account, list.on, view)
  return { figures: account.figures, list: list.figures, total: set.count(), ids: columns.page(set, page.offset, page.limit) }
}

function screeningSet(account: ScreeningAccount, on: Bitset, view: ScreeningView): Bitset {
  switch (view.tab) {
    case 'clear':
    case 'through':
      return account.anyone
    case 'held':
      return on.andNot(account.anyone)
    case 'channel':
      return account.clear[view.channel]
    case 'rule': {
      const rule = account.rules[view.rule]
      if (!rule) throw new RangeError(`no rule ${view.rule}`)
      return view.channel ? rule.closed[view.channel] : rule.heldBack
    }
  }
}

/** Both accounts of a list against its last round, and a page of those who left, joined or stayed. */
export async function answerRequalify(sources: Sources, request: RequalifyRequest): Promise<Unmarked<RequalifyAnswer>> {
  const work = await picked(sources, [request.then, request.now])
  const frozen = await sources.rounds.get(request.round)
  const { columns } = sources.model
  const then = work(request.then, request.moment)
  const now = work(request.now, request.moment)
  const sets = frozen.over(columns)
  const listed = requalifyListed(sets, then, now, columns)
  const clear = requalifyClear(sets, now.on, screeningAccount(now.on, request.rules, columns, request.moment))
  const account = request.view.account === 'listed' ? listed : clear
  const crowd = crowdOf(account, request.view)
  const ids = pageOf(crowd, request.page, sources.model)
  return {
    listed: listed.figures,
    clear: clear.figures,
    total: countOf(crowd),
    ids,
    rows: ids.map((id) => rowOf(account, request.view, id, sources.model)),
  }
}

function crowdOf(account: RequalifyAccount, view: RequalifyView): Crowd {
  if (view.tab !== 'row') return account[view.tab]
  const crowd = account.members[view.row]
  if (!crowd) throw new RangeError(`no row ${view.row}`)
  return crowd
}

/** In the order in which people are shown; those without a record number come last. */
function pageOf({ set, gone }: Crowd, { offset, limit }: PageWanted, { columns }: ReadModel): number[] {
  const ids = columns.page(set, offset, limit)
  if (ids.length < limit && gone.length > 0) {
    const from = Math.max(0, offset - set.count())
    ids.push(...gone.slice(from, from + limit - ids.length))
  }
  return ids
}

function rowOf(account: RequalifyAccount, view: RequalifyView, id: number, { columns }: ReadModel): number {
  if (view.tab === 'row') return view.row
  if (view.tab === 'stayed') return -1
  const n = columns.numberFor(id)
  return account.members.findIndex(
    ({ set, gone }, row) => account.figures.rows[row].side === view.tab && (n === undefined ? gone.includes(id) : set.has(n)),
  )
}

/** What a release freezes: who is on, where everybody else stands, and the figures to hold the database's own against. */
export async function answerRelease(sources: Sources, request: ReleaseRequest): Promise<Unmarked<ReleaseAnswer>> {
  const work = await picked(sources, [request])
  const { columns } = sources.model
  const list = work(request, request.moment)
  const account = screeningAccount(list.on, request.rules, columns, request.moment)
  const standing = standingOf(list, columns)
  const on = columns.page(list.on, 0, Number.POSITIVE_INFINITY)
  return {
    list: list.figures,
    figures: account.figures,
    on,
    tookIn: on.map((id) => list.moves.findLastIndex((move) => move.in.has(columns.numberFor(id) as number))),
    standing: { ids: Buffer.from(standing.ids.buffer).toString('base64'), codes: Buffer.from(standing.codes).toString('base64') },
  }
}
