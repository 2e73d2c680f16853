import { type CriterionName, probesFor } from '@/core/criteria/registry'
import { subjectOf } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'
import { preparedLines } from './list-account'

/** Of how many of those on some lines it is unknown what each kind of criterion asks. */
export async function presenceOf(
  actor: Actor,
  ask: { lines: unknown },
  signal?: AbortSignal,
): Promise<{ on: number; unknown: Partial<Record<CriterionName, number>> }> {
  const prepared = await preparedLines(actor, ask.lines)
  const kinds = probesFor(subjectOf(prepared.lines))
  const { on, unknown } = await askEngine('presence', { ...prepared, kinds }, signal)
  return { on, unknown: Object.fromEntries(kinds.map(({ kind }, i) => [kind, unknown[i]])) }
}
