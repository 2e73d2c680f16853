import type { Wanted } from '@/core/lists/wanted'
import type { Proposal } from '@/core/lists/resizing'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { preparedLines } from './list-account'

/** Lines that would bring a list of too many nearer to a wanted size, about what its lines do not ask yet. */
export async function resizeList(
  actor: Actor,
  ask: { lines: unknown; least: number; most: number },
  signal?: AbortSignal,
): Promise<{ proposals: Proposal[] }> {
  const wanted: Wanted = { least: ask.least, most: ask.most }
  if (wanted.least > wanted.most) throw new Refused('The smallest wanted size is larger than the largest.')
  const { proposals } = await askEngine('resize', { ...(await preparedLines(actor, ask.lines)), wanted }, signal)
  return { proposals }
}
