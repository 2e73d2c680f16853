import { object, type InferType } from 'yup'
import { pageOfLines, rules, screeningMoment } from './parts'
import { verb } from './verb'
import { standingOf } from '@/core/rounds/standing'
import { screeningAccount, type ScreeningFigures } from '@/core/screening/account'
import { picked, type Sources } from '@/engine/sources'
import type { ListFigures } from '@/core/lists/account'

const schema = object({ ...pageOfLines, rules: rules(), moment: screeningMoment() })
export type ReleaseRequest = InferType<typeof schema>

/** What a release freezes: who is on, where everybody else stands, and the figures to hold the database's own against. */
async function answerRelease(sources: Sources, request: ReleaseRequest): Promise<ReleaseAnswer> {
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

/** Everything a release freezes, by id. `standing` is base64 of little-endian Int32 ids and of one code a person. */
export interface ReleaseAnswer {
  list: ListFigures
  figures: ScreeningFigures
  standing: { ids: string; codes: string }
  on: number[]
  /** Index of the line that took in each of `on`. */
  tookIn: number[]
}

export const release = verb(schema, answerRelease, 30_000)
