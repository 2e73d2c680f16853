'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { asks } from '@/core/criteria/registry'
import type { LineFigures } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import { aboutStaying, type DearestPrices, type Fillable, fillsOf, type Of } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

export type Fill = (of: Of, fields: Fillable[]) => Promise<ActionResult<number>>

/** Of people whom a line does not know what to make of: what asking a source for what they lack costs at most, and about how many would stay. */
export function FillUnknown({
  list,
  line,
  figures,
  saved,
  fill,
}: {
  list: number
  line: Extract<Line, { verb: 'keep' | 'drop' | 'add' }>
  figures: LineFigures
  /** Whether the line stands so in the list as it was last saved, which is what is asked about. */
  saved: boolean
  fill: Fill
}) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const fields = fillsOf(asks(line.criterion))
  const unknown = line.verb === 'drop' ? figures.stayedUnknown : figures.unknown
  const { answer: prices } = useAsked<DearestPrices>(fields.length > 0 && unknown > 0 ? ['/api/prices'] : null)
  if (fields.length === 0 || unknown === 0) return null
  const stay = figures.balance - (line.verb === 'drop' ? figures.stayedUnknown : 0)
  const about = aboutStaying(unknown, { stay, go: figures.out })
  return (
    <p className="quiet mt-2 flex items-start justify-between gap-3" data-testid="fill-unknown">
      <span>
        A source may have what is missing.
        {about !== null && ` Judging by the others, about ${count(about)} of these ${count(unknown)} would stay.`}
        {!saved && ' Save the list first.'}
        {told && (
          <span role="alert" className="told block">
            {told}
          </span>
        )}
      </span>
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-verdigris disabled:text-soft"
        disabled={busy || !saved}
        onClick={() =>
          begin(async () => {
            const result = await fill({ list, name: '', line: line.id }, fields)
            if (result.ok) router.push(`/intake/enquiries/${result.value}`)
            else setTold(result.error)
          })
        }
      >
        Fill gaps of these {count(unknown)}
        {prices && `, ${priceText(prices.fill * unknown, prices.currency)} at most`}
      </button>
    </p>
  )
}
