import { type InferType, object, string } from 'yup'
import { type Found, page, pageOfLines, rules, screeningMoment, screenName } from './parts'
import { type Waiting, waitingOf } from './screen'
import { verb } from './verb'
import { screeningAccount, type ScreeningFigures } from '@/core/screening/account'
import { picked, type Sources } from '@/engine/sources'

const schema = object({
  ...screenName,
  ...pageOfLines,
  before: rules(),
  after: rules(),
  moment: screeningMoment(),
  view: object({ tab: string().oneOf(['held', 'freed']).required() }).required(),
  page: page(),
})
export type DifferRequest = InferType<typeof schema>

export interface DifferAnswer extends Found {
  before: ScreeningFigures
  after: ScreeningFigures
  /** How many are clear by the rules before and held back by those after, and the other way round. */
  held: number
  freed: number
  /** Of the page: who waits behind others by the rules that hold them back. */
  waiting: Waiting
}

/** A list by some rules and by others: who comes out differently, and a page of them. */
async function answerDiffer(sources: Sources, { view, page, moment, ...request }: DifferRequest): Promise<DifferAnswer> {
  const work = await picked(sources, [request])
  const { columns } = sources.model
  const { on } = work(request, moment)
  const [before, after] = [request.before, request.after].map((of) => screeningAccount(on, of, columns, moment))
  const held = before.anyone.andNot(after.anyone)
  const freed = after.anyone.andNot(before.anyone)
  const shown = view.tab === 'held' ? held : freed
  const ids = columns.page(shown, page.offset, page.limit)
  return {
    before: before.figures,
    after: after.figures,
    held: held.count(),
    freed: freed.count(),
    total: shown.count(),
    ids,
    waiting: waitingOf(view.tab === 'held' ? after : before, ids, columns),
  }
}

export const differ = verb(schema, answerDiffer)
