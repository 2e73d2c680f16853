import type { Line } from '@/core/lists/line'
import type { Proposal } from '@/core/lists/resizing'
import type { Wanted } from '@/core/lists/wanted'
import { useAnswer } from '@/ui/book/use-answer'

/** Lines that would bring a list of too many nearer to a wanted size; none while they are asked for, or nothing is too many. */
export function useProposals(lines: Line[], wanted: Wanted | null, tooMany: boolean): Proposal[] {
  const answer = useAnswer<{ proposals: Proposal[] }>('/api/list-resize', tooMany && wanted ? { lines, ...wanted } : null, 250)
  return answer?.proposals ?? []
}
