'use client'

import { asks } from '@/core/criteria/registry'
import type { LineFigures } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import { aboutStaying, type Fillable, fillsOf, type Of } from '@/core/sources/enquiry'
import type { ActionResult } from '@/core/views/action-result'
import { count } from '@/ui/book/figures'
import { AskSource } from '@/ui/sources/ask-source'

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
  const fields = fillsOf(asks(line.criterion))
  const unknown = line.verb === 'drop' ? figures.stayedUnknown : figures.unknown
  if (fields.length === 0 || unknown === 0) return null
  const stay = figures.balance - (line.verb === 'drop' ? figures.stayedUnknown : 0)
  const about = aboutStaying(unknown, { stay, go: figures.out })
  return (
    <AskSource
      about="fill-unknown"
      button="Fill gaps of these"
      price="fill"
      many={unknown}
      disabled={!saved}
      ask={() => fill({ list, name: '', line: line.id }, fields)}
    >
      A source may have what is missing.
      {about !== null && ` Judging by the others, about ${count(about)} of these ${count(unknown)} would stay.`}
      {!saved && ' Save the list first.'}
    </AskSource>
  )
}
