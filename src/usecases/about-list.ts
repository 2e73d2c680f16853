import { probesFor } from '@/core/criteria/probe'
import type { CriterionName } from '@/core/criteria/registry'
import { facetOf } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { askEngine } from '@/engine/client'
import type { GroupAnswer } from '@/engine/protocol'
import { type Actor, Refused } from './actor'
import { preparedLines } from './list-account'

/** Those behind a tab or figure of some lines, counted by a facet. */
export async function groupList(actor: Actor, ask: { lines: unknown; view: ListView; key: string; screen?: string }, signal?: AbortSignal): Promise<GroupAnswer> {
  const prepared = await preparedLines(actor, ask.lines)
  try {
    facetOf(subjectOf(prepared.lines), ask.key)
  } catch {
    throw new Refused(`There is no column ${ask.key}.`)
  }
  return askEngine('group', { ...prepared, view: ask.view, key: ask.key }, signal)
}

/** Of how many of those on some lines it is unknown what each kind of criterion asks. */
export async function presenceOf(actor: Actor, ask: { lines: unknown }, signal?: AbortSignal): Promise<{ on: number; unknown: Partial<Record<CriterionName, number>> }> {
  const prepared = await preparedLines(actor, ask.lines)
  const kinds = probesFor(subjectOf(prepared.lines))
  const { on, unknown } = await askEngine('presence', { ...prepared, kinds }, signal)
  return { on, unknown: Object.fromEntries(kinds.map(({ kind }, i) => [kind, unknown[i]])) }
}
