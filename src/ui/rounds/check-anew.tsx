'use client'

import type { StaleEmails } from '@/core/views/round-views'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'
import { AskSource } from '@/ui/sources/ask-source'
import type { Check } from './check-closed'

/** Before the next round of a list: how many of its email addresses were not checked lately, and what checking them costs at most. */
export function CheckAnew({ list, check }: { list: number; check: Check }) {
  const { answer } = useAsked<StaleEmails>([`/api/requalify/${list}/stale`])
  if (!answer || answer.stale === 0) return null
  const { stale, never, days } = answer
  return (
    <AskSource about="check-anew" button="Check these" price="check" many={stale} ask={() => check({ list, name: '' })}>
      {stale === 1 ? '1 email address of this list was' : `${count(stale)} email addresses of this list were`} not checked in the last{' '}
      {count(days)} days
      {never > 0 && never < stale && `, ${count(never)} of them never`}
      {never === stale && ', or ever'}. Recent checks cost nothing.
    </AskSource>
  )
}
