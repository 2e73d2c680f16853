import { object, type InferType } from 'yup'
import { pageOfLines, moment } from './parts'
import { verb } from './verb'
import { subjectOf } from '@/core/lists/line'
import { packIds } from '@/engine/packed-ids'
import { picked, type Sources } from '@/engine/sources'

const schema = object({ ...pageOfLines, moment: moment() })
export type MembersRequest = InferType<typeof schema>

/** Who is on a list, packed. */
async function answerMembers(sources: Sources, request: MembersRequest): Promise<MembersAnswer> {
  const work = await picked(sources, [request])
  const ids = sources.model.directory.of(subjectOf(request.lines)).toIds(work(request, request.moment).on)
  return { packed: packIds(ids).toString('base64'), total: ids.length }
}

export interface MembersAnswer {
  /** Who is on: packed ids in base64. */
  packed: string
  total: number
}

export const members = verb(schema, answerMembers)
