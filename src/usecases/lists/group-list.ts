import type { AnswerTo } from '@/engine/protocol'
import { facetOf } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { preparedLines } from './list-account'

/** Those behind a tab or figure of some lines, counted by a facet. */
export async function groupList(
  actor: Actor,
  ask: { lines: unknown; view: ListView; key: string; screen?: string },
  signal?: AbortSignal,
): Promise<AnswerTo<'group'>> {
  const prepared = await preparedLines(actor, ask.lines)
  try {
    facetOf(subjectOf(prepared.lines), ask.key)
  } catch {
    throw new Refused(`There is no column ${ask.key}.`)
  }
  return askEngine('group', { ...prepared, view: ask.view, key: ask.key }, signal)
}
