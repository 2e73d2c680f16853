import { type InferType, mixed, object } from 'yup'
import { type Found, page, pageOfLines, rules, screeningMoment, screenName } from './parts'
import { verb } from './verb'
import { Bitset } from '@/core/columns/bitset'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { clearByExactly } from '@/core/screening/ways'
import { type ScreeningAccount, screeningAccount, type Waits, type ScreeningFigures } from '@/core/screening/account'
import type { ScreeningView } from '@/core/views/round-views'
import { accountKept, picked, type Sources } from '@/engine/sources'
import type { ListFigures } from '@/core/lists/account'
import { CHANNELS } from '@/core/records/channels'

const screeningView = () =>
  mixed((value): value is ScreeningView => {
    const { tab, channel, rule, channels } = (value ?? {}) as Record<string, unknown>
    const named = channel === undefined || CHANNELS.some((c) => c === channel)
    return tab === 'rule'
      ? typeof rule === 'string' && named
      : tab === 'ways'
        ? Array.isArray(channels) && channels.length > 0 && channels.every((one) => CHANNELS.some((c) => c === one))
        : tab === 'channel'
          ? channel !== undefined && named
          : ['clear', 'held', 'through', 'stopped'].includes(String(tab))
  }).required()

const schema = object({ ...screenName, ...pageOfLines, rules: rules(), moment: screeningMoment(), view: screeningView(), page: page() })
export type ScreenRequest = InferType<typeof schema>

async function answerScreen(sources: Sources, request: ScreenRequest): Promise<ScreenAnswer> {
  const work = await picked(sources, [request])
  const { columns } = sources.model
  const { rules, moment, view, page } = request
  const list = accountKept(sources, request, moment, () => work(request, moment))
  const account = screeningAccount(list.on, rules, columns, moment)
  const set =
    view.tab === 'through' ? list.on.and(columns.numbers(moment.letThrough.map((l) => l.person))) : screeningSet(account, list.on, view)
  const ids = columns.page(set, page.offset, page.limit)
  return { figures: account.figures, list: list.figures, total: set.count(), ids, waiting: waitingOf(account, ids, columns) }
}

/** Returns the people behind a tab of screening. */
export function screeningSet(account: ScreeningAccount, on: Bitset, view: ScreeningView): Bitset {
  switch (view.tab) {
    case 'clear':
    case 'through':
      return account.anyone
    // Only rounds that are released have such: what is worked out here is of rounds that are being built.
    case 'stopped':
      return new Bitset()
    case 'held':
      return on.andNot(account.anyone)
    case 'channel':
      return account.clear[view.channel]
    case 'ways':
      return clearByExactly(account.clear, view.channels)
    case 'rule': {
      const rule = account.rules.find((own) => own.rule === view.rule)
      if (!rule) throw new RangeError(`no rule ${view.rule}`)
      return view.channel ? rule.closed[view.channel] : rule.heldBack
    }
  }
}

/** Who of some people waits behind others, by id. */
export function waitingOf({ waiting }: ScreeningAccount, ids: readonly number[], columns: PeopleColumns): Waiting {
  return ids.flatMap((id): Waiting => {
    const own = waiting.get(columns.numberFor(id) ?? -1)
    return own ? [[id, own]] : []
  })
}

export type Waiting = [person: number, by: Waits[]][]

export interface ScreenAnswer extends Found {
  figures: ScreeningFigures
  waiting: Waiting
  list: ListFigures
}

export const screen = verb(schema, answerScreen)
