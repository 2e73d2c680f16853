'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/outputs/views'

/** Takes a merge back, and tells what of the other record stays because it was worked on since. */
export function TakeBack({ merged, takeBack }: { merged: number; takeBack: (merged: number) => Promise<ActionResult<unknown>> }) {
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
