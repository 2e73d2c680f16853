import { object, type InferType } from 'yup'
import { screenName, pageOfLines, moment, page, type Found } from './parts'
import { verb } from './verb'
import { addScores, highest, learntBy, reasonsOf, TELLING, type Weight } from '@/core/facets/alike'
import { subjectOf } from '@/core/lists/line'
import { inTurns } from '@/engine/in-turns'
import { picked, type Sources } from '@/engine/sources'

const schema = object({ ...screenName, ...pageOfLines, moment: moment(), page: page() })
export type AlikeRequest = InferType<typeof schema>

/** Those most like the records of a page, with why. */
async function answerAlike(sources: Sources, request: AlikeRequest): Promise<AlikeAnswer> {
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

export interface AlikeAnswer extends Found {
  examples: number
  scores: number[]
  /** Why each of `ids` scores as it does. */
  reasons: Weight[][]
  /** What sets the examples apart, what says most first. */
  telling: (Weight & { title: string })[]
}

export const alike = verb(schema, answerAlike)
