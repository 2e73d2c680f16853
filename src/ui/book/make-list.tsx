'use client'

import { useRouter } from 'next/navigation'
import { useTransition } from 'react'
import { toast } from 'sonner'
import type { These } from '@/core/views/these'
import { useBook } from './book'

/** Makes a private list of what is before somebody, and goes to it; or to those most like it, where these are the examples. */
export function MakeList({ these, alike = false, children }: { these: These; alike?: boolean; children: string }) {
  const { actions } = useBook()
  const router = useRouter()
  const [busy, begin] = useTransition()
  return (
    <button
      type="button"
      className="button px-2! py-0.5!"
      disabled={busy}
      onClick={() =>
        begin(async () => {
          const made = await actions.listOf(these)
          if (!made.ok) return void toast.error(made.error)
          router.push(alike ? `/lists/${made.value}/profile?tab=alike` : `/lists/${made.value}`)
        })
      }
    >
      {children}
    </button>
  )
}
