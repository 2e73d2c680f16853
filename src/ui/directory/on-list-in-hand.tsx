'use client'

import { useTransition } from 'react'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import { useBook } from '@/ui/book/book'

/** Puts records on the list in hand or takes them off it; nothing where the list is of something else. */
export function OnListInHand({ of, ids }: { of: Subject; ids: number[] }) {
  const { hand, put } = useBook()
  const [busy, begin] = useTransition()
  if (!hand || hand.subject !== of || ids.length === 0) return null
  const all = ids.length > 1 ? `all ${SUBJECT_NAMES[of]}` : ''
  return (
    <span className="flex shrink-0 gap-1.5">
      <button
        type="button"
        className="button px-2! py-0.5!"
        disabled={busy}
        onClick={() => begin(() => put('in', { of, ids }))}
        title={`Put ${all} on ${hand.name}`}
      >
        {all ? 'Put all on the list' : 'Put on the list'}
      </button>
      <button
        type="button"
        className="button px-2! py-0.5!"
        disabled={busy}
        onClick={() => begin(() => put('out', { of, ids }))}
        title={`Take ${all} off ${hand.name}`}
      >
        {all ? 'Take all off' : 'Take off'}
      </button>
    </span>
  )
}
