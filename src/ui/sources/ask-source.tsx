'use client'

import { useRouter } from 'next/navigation'
import { type ReactNode, useState, useTransition } from 'react'
import type { DearestPrices } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

/** A line that offers to ask a source about some people: what for, and what it costs at most. Opens the enquiry, which asks nothing yet. */
export function AskSource({
  about,
  button,
  price,
  many,
  disabled = false,
  ask,
  children,
}: {
  about: string
  /** What the button does, before how many. */
  button: string
  price: 'fill' | 'check'
  many: number
  disabled?: boolean
  ask: () => Promise<ActionResult<number>>
  children: ReactNode
}) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const { answer: prices } = useAsked<DearestPrices>(['/api/prices'])
  return (
    <p className="quiet mt-2 flex items-start justify-between gap-3" data-testid={about}>
      <span>
        {children}
        {told && (
          <span role="alert" className="told block">
            {told}
          </span>
        )}
      </span>
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-verdigris disabled:text-soft"
        disabled={busy || disabled}
        onClick={() =>
          begin(async () => {
            const result = await ask()
            if (result.ok) router.push(`/intake/enquiries/${result.value}`)
            else setTold(result.error)
          })
        }
      >
        {button} {count(many)}
        {prices && `, ${priceText(prices[price] * many, prices.currency)} at most`}
      </button>
    </p>
  )
}
