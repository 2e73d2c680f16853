'use client'

import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/**
 * A dialog over the page, with its title and what it is for. `trigger` opens it, where the page does not; `filling`: its middle scrolls by
 * itself, between its title and its buttons.
 */
export function DialogFrame({
  open,
  onOpenChange,
  trigger,
  title,
  about,
  width,
  filling = false,
  children,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  trigger?: ReactNode
  title: string
  about: ReactNode
  width: number
  filling?: boolean
  children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Dialog.Trigger className="button">{trigger}</Dialog.Trigger>}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className={`floating fixed top-[8vh] left-1/2 max-h-[84vh] max-w-[94vw] -translate-x-1/2 p-5! ${filling ? 'flex flex-col' : 'overflow-y-auto'}`}
          style={{ width }}
        >
          <Dialog.Title asChild>
            <h2>{title}</h2>
          </Dialog.Title>
          <Dialog.Description className="quiet mt-1">{about}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
