'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { PartedAccount } from '@/core/views/record-views'

export type TakeBackMerge = (merged: number) => Promise<ActionResult<PartedAccount>>

/** Says what did not go back with a merge, where anything did not. */
export function tellWhatStays({ stays }: PartedAccount): void {
  if (stays.length > 0)
    toast.message(`Worked on since, so it stays: ${stays.map(({ field, now }) => `${field} ${now}`).join(', ')}.`, { duration: 20_000 })
}

/** Takes a merge back, and tells what of the other record stays because it was worked on since. */
export function TakeBack({ merged, takeBack }: { merged: number; takeBack: TakeBackMerge }) {
  const router = useRouter()
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <span className="mt-1.5 flex flex-wrap items-center gap-2">
      <button
        type="button"
        className="button px-2! py-0.5!"
        disabled={busy}
        onClick={() =>
          begin(async () => {
            const result = await takeBack(merged)
            setTold(result.ok ? null : result.error)
            if (result.ok) tellWhatStays(result.value)
            router.refresh()
          })
        }
      >
        Take the merge back
      </button>
      {told && <span role="alert">{told}</span>}
    </span>
  )
}
