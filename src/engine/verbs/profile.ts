import { object, type InferType } from 'yup'
import { screenName, pageOfLines, wholePage, moment } from './parts'
import { verb } from './verb'
import { profileBy, profiledFacets, type ProfileOf } from '@/core/facets/profile'
import { subjectOf } from '@/core/lists/line'
import { inTurns } from '@/engine/in-turns'
import { picked, type Sources } from '@/engine/sources'

const schema = object({
  ...screenName,
  ...pageOfLines,
  /** What the list is held against: another page, or the whole directory. */
  base: wholePage().nullable().defined(),
  moment: moment(),
})
export type ProfileRequest = InferType<typeof schema>

/** A list beside the directory or another list, facet by facet. */
async function answerProfile(sources: Sources, request: ProfileRequest): Promise<ProfileAnswer> {
  const work = await picked(sources, [request, ...(request.base ? [request.base] : [])])
  const subject = subjectOf(request.lines)
  const { model } = sources
  const {
    begun: { list, base },
    done,
  } = await inTurns(
    model,
    profiledFacets(subject),
    () => ({
      list: work(request, request.moment).on,
      base: request.base ? work(request.base, request.moment).on : model.directory.of(subject).live.clone(),
    }),
    (sets, key) => profileBy(key, sets.list, sets.base, subject, model.directory, request.moment),
  )
  return { total: list.count(), baseTotal: base.count(), facets: done }
}

export interface ProfileAnswer {
  total: number
  baseTotal: number
  facets: ProfileOf[]
}

export const profile = verb(schema, answerProfile)
