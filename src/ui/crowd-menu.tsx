'use client'

import { DropdownMenu } from 'radix-ui'
import { useTransition } from 'react'
import { toast } from 'sonner'
import { type Found, useBook } from './book'
import { count } from './figures'

/** What can be done with everybody behind a tab or figure: a working file, and the list in hand. */
export function CrowdMenu({ total, csv, found, of }: { total: number | null; csv?: { url: string; body: unknown }; found: Found; of?: number }) {
  const { hand, put } = useBook()
  const [busy, begin] = useTransition()
  const other = hand && hand.id !== of ? hand : null
  if (!total || (!csv && !other)) return null
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="min-h-6 text-[13px] font-semibold whitespace-nowrap text-verdigris hover:underline" disabled={busy}>
        With these {count(total)} ▾
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="floating p-1.5!" align="end" sideOffset={4}>
          {csv && (
            <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => save(csv))}>
              Save as CSV, each with the reason
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
  )
}

async function save({ url, body }: { url: string; body: unknown }): Promise<void> {
  const response = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }).catch(() => null)
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
