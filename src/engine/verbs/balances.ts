import { array, string, object, type InferType } from 'yup'
import { pageOfLines, moment } from './parts'
import { verb } from './verb'
import { subjectOf } from '@/core/lists/line'
import { unpackIds } from '@/engine/packed-ids'
import { picked, type Sources } from '@/engine/sources'

const schema = object({ lists: array(object({ ...pageOfLines, since: string().nullable().defined() })).required(), moment: moment() })
export type BalancesRequest = InferType<typeof schema>

/** How many are on each of some lists, and how many of them were not at the last look. */
async function answerBalances(sources: Sources, { lists, moment }: BalancesRequest): Promise<BalancesAnswer> {
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

export interface BalancesAnswer {
  lists: { on: number; fresh: number | null }[]
}

export const balances = verb(schema, answerBalances)
