'use client'

import { Dialog } from 'radix-ui'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { Line } from '@/core/lists/line'
import { LONGEST_NAME, namesFrom } from '@/core/lists/naming'
import type { ActionResult } from '@/core/views/action-result'

/** Another name for a list: one's own, or one made of its lines. */
export function RenameDialog({
  id,
  name,
  lines,
  rename,
  open,
  onClose,
}: {
  id: number
  name: string
  lines: Line[]
  rename: (id: number, name: string) => Promise<ActionResult<unknown>>
  open: boolean
  onClose: () => void
}) {
  const router = useRouter()
  const [next, setNext] = useState(name)
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const offered = namesFrom(lines).filter((n) => n !== next)
  return (
    <Dialog.Root open={open} onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="floating fixed top-[18vh] left-1/2 w-[520px] max-w-[94vw] -translate-x-1/2 p-5!"
          aria-describedby={undefined}
        >
          <Dialog.Title asChild>
            <h2>Rename the list</h2>
          </Dialog.Title>
          <form
            className="mt-3 grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              begin(async () => {
                const done = await rename(id, next)
                if (!done.ok) return setTold(done.error)
                onClose()
                router.refresh()
              })
            }}
          >
            <label className="field">
              <span>Name</span>
              <input value={next} maxLength={LONGEST_NAME} onChange={(e) => setNext(e.target.value)} />
            </label>
            {offered.length > 0 && (
              <div>
                <span className="quiet">From its lines:</span>
                <ul className="mt-1 grid gap-1">
                  {offered.map((n) => (
                    <li key={n}>
                      <button type="button" className="text-left font-semibold text-verdigris hover:underline" onClick={() => setNext(n)}>
                        {n}
                      </button>
                    </li>
                  ))}
                </ul>
              </div>
            )}
            {told && (
              <p role="alert" className="told">
                {told}
              </p>
            )}
            <div className="flex gap-2">
              <button type="submit" className="button button-main" disabled={busy || next.trim() === '' || next === name}>
                Rename
              </button>
              <Dialog.Close className="button">Cancel</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
