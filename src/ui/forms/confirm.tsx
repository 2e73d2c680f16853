'use client'

import { AlertDialog } from 'radix-ui'
import { type ReactNode, useRef } from 'react'

/**
 * An act that many people feel shows once more what it will do. The button that opens it is `trigger`; the keyboard stands on the
 * button that does it, and goes back to `trigger` when it is left.
 */
export function Confirm({
  trigger,
  title,
  act,
  onAct,
  children,
}: {
  trigger: ReactNode
  title: string
  act: string
  onAct: () => void
  children: ReactNode
}) {
  const button = useRef<HTMLButtonElement>(null)
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <AlertDialog.Content
          className="floating fixed top-[18vh] left-1/2 w-[520px] max-w-[94vw] -translate-x-1/2 p-5!"
          onOpenAutoFocus={(event) => {
            event.preventDefault()
            button.current?.focus()
          }}
        >
          <AlertDialog.Title asChild>
            <h2>{title}</h2>
          </AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2">{children}</div>
          </AlertDialog.Description>
          <div className="mt-4 flex gap-2">
            <AlertDialog.Action ref={button} className="button button-main" onClick={onAct}>
              {act}
            </AlertDialog.Action>
            <AlertDialog.Cancel className="button">Cancel</AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  )
}
