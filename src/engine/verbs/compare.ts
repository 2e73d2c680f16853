import { string, object, type InferType } from 'yup'
import { screenName, wholePage, moment, page, type Found } from './parts'
import { verb } from './verb'
import { compareEditions, type EditionFigures } from '@/core/lists/compare-editions'
import { subjectOf } from '@/core/lists/line'
import { decidedBy } from '@/core/lists/view'
import { picked, type Sources } from '@/engine/sources'

const schema = object({
  ...screenName,
  earlier: wholePage(),
  later: wholePage(),
  moment: moment(),
  tab: string()
    .oneOf(['left', 'joined', 'stayed'] as const)
    .required(),
  page: page(),
})
export type CompareRequest = InferType<typeof schema>

/** Two editions held against each other on today's data. */
async function answerCompare(sources: Sources, request: CompareRequest): Promise<CompareAnswer> {
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

export interface CompareAnswer extends Found {
  figures: EditionFigures
  /** Deciding line, by the edition that left them out, of each of `ids`. */
  decided: ({ line: string; how: 'out' | 'unknown' } | null)[]
}

export const compare = verb(schema, answerCompare)
