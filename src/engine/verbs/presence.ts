import { mixed, object, type InferType } from 'yup'
import { screenName, pageOfLines, moment } from './parts'
import { verb } from './verb'
import { subjectOf } from '@/core/lists/line'
import { inTurns } from '@/engine/in-turns'
import { picked, type Sources } from '@/engine/sources'
import type { Criterion } from '@/core/criteria/registry'

const schema = object({
  ...screenName,
  ...pageOfLines,
  moment: moment(),
  kinds: mixed((value): value is Criterion[] => Array.isArray(value)).required(),
})
export type PresenceRequest = InferType<typeof schema>

/** Of how many on a page it is not known what some criteria ask. */
async function answerPresence(sources: Sources, request: PresenceRequest): Promise<PresenceAnswer> {
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

export interface PresenceAnswer {
  on: number
  /** In the order of `kinds`. */
  unknown: number[]
}

export const presence = verb(schema, answerPresence)
