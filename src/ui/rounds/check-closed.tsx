'use client'

import type { Of } from '@/core/sources/enquiry'
import type { ActionResult } from '@/core/views/action-result'
import { AskSource } from '@/ui/sources/ask-source'

export type Check = (of: Of) => Promise<ActionResult<number>>

/** Of people whose email a rule about address quality closes: what having their addresses checked costs at most. */
export function CheckClosed({ round, rule, closed, check }: { round: number; rule: string; closed: number; check: Check }) {
  return (
    <AskSource about="check-closed" button="Check these" price="check" many={closed} ask={() => check({ round, name: '', rule })}>
      A source can check whether each address takes mail. Recent checks cost nothing.
    </AskSource>
  )
}
