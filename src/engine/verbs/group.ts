import { string, object, type InferType } from 'yup'
import { screenName, pageOfLines, moment, view } from './parts'
import { verb } from './verb'
import { countBy, groupRows } from '@/core/facets/group'
import { facetOf } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import { viewOf } from '@/core/lists/view'
import { picked, type Sources } from '@/engine/sources'

const schema = object({ ...screenName, ...pageOfLines, moment: moment(), view: view(), key: string().required() })
export type GroupRequest = InferType<typeof schema>

/** More groups than this are not sent; they are the smallest. */
export const MOST_GROUPS = 200

/** Those behind a tab or figure, counted by a facet. */
async function answerGroup(sources: Sources, request: GroupRequest): Promise<GroupAnswer> {
  const work = await picked(sources, [request])
  const facet = facetOf(subjectOf(request.lines), request.key)
  const set = viewOf(work(request, request.moment), request.lines, request.view)
  const values = facet.values(sources.model.directory, request.moment)
  const groups = countBy(set, values)
  return {
    rows: groupRows(groups, values.labels, facet.ordered === true).slice(0, MOST_GROUPS),
    unknown: groups.unknown,
    total: set.count(),
  }
}

export interface GroupAnswer {
  rows: { label: string; count: number }[]
  unknown: number
  total: number
}

export const group = verb(schema, answerGroup)
