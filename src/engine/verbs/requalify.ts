import { array, mixed, number, object, type InferType } from 'yup'
import { screenName, wholePage, rules, screeningMoment, page, type Found, type PageWanted } from './parts'
import { verb } from './verb'
import { countOf, type Crowd, type RequalifyAccount, requalifyClear, type RequalifyFigures, requalifyListed } from '@/core/rounds/requalify'
import { screeningAccount } from '@/core/screening/account'
import type { ReadModel } from '@/engine/read-model'
import type { RequalifyView } from '@/core/views/round-views'
import { picked, type Sources } from '@/engine/sources'

const requalifyView = () =>
  mixed((value): value is RequalifyView => {
    const { account, tab, row } = (value ?? {}) as Record<string, unknown>
    return (
      ['listed', 'clear'].includes(String(account)) &&
      (tab === 'row' ? Number.isInteger(row) : ['left', 'joined', 'stayed'].includes(String(tab)))
    )
  }).required()

const schema = object({
  ...screenName,
  then: array(object({ round: number().integer().required(), page: wholePage() }))
    .min(1)
    .required(),
  now: wholePage(),
  rules: rules(),
  moment: screeningMoment(),
  view: requalifyView(),
  page: page(),
})
export type RequalifyRequest = InferType<typeof schema>

/** Both accounts of a list against its last round with its supplements, and a page of those who left, joined or stayed. */
async function answerRequalify(sources: Sources, request: RequalifyRequest): Promise<RequalifyAnswer> {
  const work = await picked(sources, [...request.then.map(({ page: own }) => own), request.now])
  const frozen = await Promise.all(request.then.map(({ round }) => sources.rounds.get(round)))
  const { columns } = sources.model
  const now = work(request.now, request.moment)
  const parts = request.then.map(({ page: own }, i) => ({ sets: frozen[i].over(columns), then: work(own, request.moment) }))
  const listed = requalifyListed(parts, now, columns)
  const clear = requalifyClear(parts, now.on, screeningAccount(now.on, request.rules, columns, request.moment))
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

/** Returns the crowd behind a figure of requalifying. */
export function crowdOf(account: RequalifyAccount, view: RequalifyView): Crowd {
  if (view.tab !== 'row') return account[view.tab]
  const crowd = account.members[view.row]
  if (!crowd) throw new RangeError(`no row ${view.row}`)
  return crowd
}

/** In the order in which people are shown; those without a record number come last. */
export function pageOf({ set, gone }: Crowd, { offset, limit }: PageWanted, { columns }: ReadModel): number[] {
  const ids = columns.page(set, offset, limit)
  if (ids.length < limit && gone.length > 0) {
    const from = Math.max(0, offset - set.count())
    ids.push(...gone.slice(from, from + limit - ids.length))
  }
  return ids
}

/** Returns the row of the account that a person who joined or left belongs to; -1 where they stayed. */
export function rowOf(account: RequalifyAccount, view: RequalifyView, id: number, { columns }: ReadModel): number {
  if (view.tab === 'row') return view.row
  if (view.tab === 'stayed') return -1
  const n = columns.numberFor(id)
  return account.members.findIndex(
    ({ set, gone }, row) => account.figures.rows[row].side === view.tab && (n === undefined ? gone.includes(id) : set.has(n)),
  )
}

export interface RequalifyAnswer extends Found {
  listed: RequalifyFigures
  clear: RequalifyFigures
  /** Row of the account (index) that each of `ids` belongs to, or -1 for those who stayed. */
  rows: number[]
}

export const requalify = verb(schema, answerRequalify)
