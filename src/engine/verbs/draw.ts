import { type InferType, number, object, string } from 'yup'
import { draw as drawn, drawPlainly } from '@/core/checks/draw'
import { partedBy, SPREAD_BY, type StratumPart } from '@/core/checks/parts'
import { type Origin, originsOf, type OriginSet } from '@/core/checks/strata'
import type { Line } from '@/core/lists/line'
import { screeningAccount } from '@/core/screening/account'
import { picked, type Sources } from '@/engine/sources'
import { pageOfLines, rules, screeningMoment } from './parts'
import { verb } from './verb'

const schema = object({
  ...pageOfLines,
  rules: rules(),
  moment: screeningMoment(),
  /** Within strata, in proportion; or from all alike, one after the other. */
  how: string()
    .oneOf(['stratified', 'plain'] as const)
    .required(),
  /** By what else the sample is spread within strata. */
  by: string().oneOf(SPREAD_BY).nullable().default(null),
  size: number().integer().min(0).max(5000).required(),
  seed: number().integer().required(),
})
export type DrawRequest = InferType<typeof schema>

/** A sample of those who are clear, by where they come from. */
export interface DrawAnswer {
  clear: number
  strata: (Origin & { size: number; part?: StratumPart })[]
  /** By id, each with the place of its stratum, in the order in which they are looked at. */
  sample: { id: number; stratum: number }[]
}

/** Draws a sample of those who are clear by any channel. */
async function answerDraw(sources: Sources, { lines, named, rules, moment, how, by, size, seed }: DrawRequest): Promise<DrawAnswer> {
  const work = await picked(sources, [{ lines, named }])
  const { columns } = sources.model
  const list = work({ lines, named }, moment)
  const { anyone } = screeningAccount(list.on, rules, columns, moment)
  const asNo = (of: Line) =>
    work({ lines: lines.map((line) => (line === of ? ({ ...line, unknownAsYes: false } as Line) : line)), named }, moment)
  const whole = originsOf(anyone, lines, list, asNo)
  const limit = lines.findLast((line) => line.verb === 'limit' && !line.off)
  const held = (thirds: number) =>
    work(
      {
        lines: lines.map((line) =>
          line === limit && line.verb === 'limit' ? { ...line, most: Math.ceil((line.most * thirds) / 3) } : line,
        ),
        named,
      },
      moment,
    ).on
  const first = by === 'rank' ? [held(1), held(2)] : []
  const origins: (OriginSet & { part?: StratumPart })[] = by && whole.length > 0 ? partedBy(whole, columns, by, moment.asOf, first) : whole
  const ids = origins.map(({ set }) => columns.page(set, 0, Number.POSITIVE_INFINITY).sort((a, b) => a - b))
  return {
    clear: anyone.count(),
    strata: origins.map(({ line, unknownOf, part }, i) => ({ line, unknownOf, ...(part ? { part } : {}), size: ids[i].length })),
    sample: how === 'plain' ? drawPlainly(ids, size, seed) : drawn(ids, size, seed),
  }
}

export const draw = verb(schema, answerDraw, 10_000)
