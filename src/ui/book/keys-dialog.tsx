'use client'

import Link from 'next/link'
import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'

const KEYS = [
  ['/', 'find anyone'],
  ['?', 'show these keys'],
  ['Tab, Shift Tab', 'go through chips, figures and tabs'],
  ['Enter or Space', 'open the chip or figure that is in focus'],
  ['F6', 'go from one leaf of the book to the other'],
  ['↑, ↓', 'go to the line above or below'],
  ['←, →', 'open the tab to the left or right'],
  ['Alt ↑, Alt ↓', 'move the line that is in focus up or down'],
  ['Ctrl Z', 'undo the last change to a list that is not saved'],
  ['Ctrl S', 'save the list as a new edition'],
  ['S, D, N', 'in duplicates: one record, two records, next pair'],
  ['T, D, P, X', 'in changes: take, done, put off, set aside'],
  ['C, L, Y, N', 'in changes: record a contact, put on the list, confirm, it is not so'],
  ['F, X, U, Z', 'in a fit check: fits, does not belong, can’t tell, take back the last'],
  ['Esc', 'close what is open'],
] as const

/** The keys, behind a question mark. */
export function KeysDialog() {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !(event.target as HTMLElement).closest('input, textarea, select')) setOpen(true)
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger aria-label="Keys" className="text-soft hover:text-ink">
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content className="floating fixed top-[18vh] left-1/2 w-[400px] -translate-x-1/2 p-5!" aria-describedby={undefined}>
          <Dialog.Title asChild>
            <h2>Keys</h2>
          </Dialog.Title>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-semibold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 flex items-center justify-between">
            <Dialog.Close className="button">Close</Dialog.Close>
            <Link href="/words" className="font-semibold text-verdigris" onClick={() => setOpen(false)}>
              What the words mean
            </Link>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
