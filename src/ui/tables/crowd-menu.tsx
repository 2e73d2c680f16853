'use client'

import { Dialog, DropdownMenu } from 'radix-ui'
import { useState, useTransition } from 'react'
import { useRouter } from 'next/navigation'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import { type Found, useBook } from '@/ui/book/book'
import { count } from '@/ui/book/figures'

/** What can be done with everybody behind a tab or figure: a working file, and the list in hand. */
export function CrowdMenu({
  total,
  csv,
  found,
  of,
  owners,
  deciders,
}: {
  total: number | null
  csv?: { url: string; body: unknown }
  found: Found
  of?: number
  /** Of premises: makes people of their owners, as a batch to be brought in. */
  owners?: () => Promise<ActionResult<{ batch: number; people: number; left: number }>>
  /** Of organisations: the list whose people who decide there can be listed. */
  deciders?: number
}) {
  const router = useRouter()
  const { hand, put, actions } = useBook()
  const [busy, begin] = useTransition()
  const [asking, setAsking] = useState(false)
  const other = hand && hand.id !== of ? hand : null
  if (!total || (!csv && !other && !owners && deciders === undefined)) return null
  const bringIn = async (make: NonNullable<typeof owners>) => {
    const made = await make()
    if (!made.ok) return void toast.error(made.error)
    const { batch, people, left } = made.value
    toast.success(
      `${count(people)} ${people === 1 ? 'owner is' : 'owners are'} ready to import.${left > 0 ? ` ${count(left)} premises have no owner who is a person with an address.` : ''}`,
      { duration: 12_000 },
    )
    router.push(`/intake/${batch}`)
  }
  const listDeciders = async (of: number) => {
    const made = await actions.listOf({ deciders: of })
    if (!made.ok) return void toast.error(made.error)
    router.push(`/lists/${made.value}`)
  }
  return (
    <>
      {csv && (
        <ClosedToo
          open={asking}
          onClose={() => setAsking(false)}
          save={(closedToo) => save({ ...csv, body: { ...(csv.body as object), closedToo } })}
        />
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="min-h-6 text-[13px] font-semibold whitespace-nowrap text-verdigris hover:underline"
          disabled={busy}
        >
          With these {count(total)} ▾
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="floating p-1.5!" align="end" sideOffset={4}>
            {csv && (
              <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => save(csv))}>
                Save as CSV, each with the reason
              </DropdownMenu.Item>
            )}
            {csv && (
              <DropdownMenu.Item className="menu-item" onSelect={() => setAsking(true)}>
                Save as CSV with closed addresses …
              </DropdownMenu.Item>
            )}
            {csv && (
              <DropdownMenu.Item
                className="menu-item"
                onSelect={() => begin(() => save({ ...csv, body: { ...(csv.body as object), about: true } }))}
              >
                Download file details
              </DropdownMenu.Item>
            )}
            {owners && (
              <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => bringIn(owners))}>
                Import owners as people
              </DropdownMenu.Item>
            )}
            {deciders !== undefined && (
              <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => listDeciders(deciders))}>
                Make a list of the people who decide there
              </DropdownMenu.Item>
            )}
            {other && (
              <>
                <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => put('in', found))}>
                  Put them on “{other.name}”
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => put('out', found))}>
                  Take them off “{other.name}”
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  )
}

/** Asks why addresses that are closed are wanted in a file. */
function ClosedToo({ open, onClose, save }: { open: boolean; onClose: () => void; save: (why: string) => Promise<void> }) {
  const [busy, begin] = useTransition()
  return (
    <Dialog.Root open={open} onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="floating fixed top-[12vh] left-1/2 w-[460px] max-w-[94vw] -translate-x-1/2 p-5!"
          aria-describedby={undefined}
        >
          <Dialog.Title asChild>
            <h2>Save closed addresses too</h2>
          </Dialog.Title>
          <p className="quiet mt-1">
            These people must not be contacted by some channels. The file marks each, and everybody whose closed address is in it gets an
            entry with your reason.
          </p>
          <form
            className="mt-3 grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              const why = String(new FormData(event.currentTarget).get('why') ?? '')
              begin(async () => {
                await save(why)
                onClose()
              })
            }}
          >
            <label className="field">
              <span>Why are they wanted?</span>
              <input name="why" required maxLength={400} />
            </label>
            <button type="submit" className="button button-main justify-self-start" disabled={busy}>
              Save the file
            </button>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

async function save({ url, body }: { url: string; body: unknown }): Promise<void> {
  const response = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }).catch(
    () => null,
  )
  if (!response?.ok) {
    const told = await response?.json().catch(() => null)
    toast.error(told?.error ?? 'The connection is lost, and no file was saved. Try again.')
    return
  }
  const name = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get('content-disposition') ?? '')?.[1]
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  link.download = name ? decodeURIComponent(name) : 'people.csv'
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
}
