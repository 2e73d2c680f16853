import { useEffect, useState } from 'react'
import type { Line } from '@/core/lists/line'
import type { Proposal } from '@/core/lists/resizing'
import type { Wanted } from '@/core/lists/wanted'
import { ask } from '@/ui/book/ask'

/** Lines that would bring a list of too many nearer to a wanted size; none while they are asked for, or nothing is too many. */
export function useProposals(lines: Line[], wanted: Wanted | null, tooMany: boolean): Proposal[] {
  const [said, setSaid] = useState<{ of: string; proposals: Proposal[] }>({ of: '', proposals: [] })
  const asked = tooMany && wanted ? JSON.stringify({ lines, ...wanted }) : ''
  useEffect(() => {
    if (asked === '') return
    const abort = new AbortController()
    const timer = setTimeout(() => {
      ask<{ proposals: Proposal[] }>('/api/list-resize', JSON.parse(asked), abort.signal).then(
        ({ proposals }) => setSaid({ of: asked, proposals }),
        () => {},
      )
    }, 250)
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [asked])
  return said.of === asked ? said.proposals : []
}
