'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { DearestPrices, Of } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

export type Check = (of: Of) => Promise<ActionResult<number>>

/** Of people whose email a rule about address quality closes: what having their addresses checked costs at most. */
export function CheckClosed({ round, rule, closed, check }: { round: number; rule: string; closed: number; check: Check }) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const { answer: prices } = useAsked<DearestPrices>(['/api/prices'])
  return (
    <p className="quiet mt-2 flex items-start justify-between gap-3" data-testid="check-closed">
      <span>
        A source can check whether each address takes mail. Recent checks cost nothing.
        {told && (
          <span role="alert" className="told block">
            {told}
          </span>
        )}
      </span>
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-verdigris disabled:text-soft"
        disabled={busy}
        onClick={() =>
          begin(async () => {
            const result = await check({ round, name: '', rule })
            if (result.ok) router.push(`/intake/enquiries/${result.value}`)
            else setTold(result.error)
          })
        }
      >
        Check these {count(closed)}
        {prices && `, ${priceText(prices.check * closed, prices.currency)} at most`}
      </button>
    </p>
  )
}
