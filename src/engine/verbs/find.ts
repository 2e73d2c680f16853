import { array, number, string, object, type InferType } from 'yup'
import { screenName, moment, page, type Found } from './parts'
import { verb } from './verb'
import { findPeople, SORTS, sorted } from '@/core/columns/find'
import type { Sources } from '@/engine/sources'
import { glancesOf } from './glances'
import type { Glance } from '@/core/screening/glance'

const schema = object({
  ...screenName,
  moment: moment(),
  words: array(object({ text: string().defined(), ids: array(number().required()).required() })).required(),
  sort: string().oneOf(SORTS).required(),
  page: page(),
})
export type FindRequest = InferType<typeof schema>

/** A page of the people of the directory who say every word. */
async function answerFind(sources: Sources, { words, sort, page, moment }: FindRequest): Promise<FindAnswer> {
  const { columns } = sources.model
  const found = findPeople(columns, words)
  const ids =
    sort === 'name'
      ? columns.page(found, page.offset, page.limit)
      : Array.from(sorted(columns, found, sort).subarray(page.offset, page.offset + page.limit), (n) => columns.idAt(n))
  return {
    total: found.count(),
    ids,
    glances: glancesOf(
      sources,
      ids.map((id) => columns.numberFor(id) as number),
      moment,
    ),
  }
}

export interface FindAnswer extends Found {
  glances: Glance[]
}

export const find = verb(schema, answerFind)
