'use client'

import { X } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import Link from 'next/link'
import { usePathname, useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import { useBook } from './book'
import { count } from './figures'
import { KeysDialog } from './keys-dialog'
import { Mark } from './mark'

const SECTIONS = [
  ['Today', '/today'],
  ['Lists', '/lists'],
  ['Rounds', '/rounds'],
  ['Changes', '/changes'],
  ['Directory', '/directory'],
  ['Intake', '/intake'],
  ['Screening', '/screening'],
] as const

/** The list in hand, at the edge of every page. */
function InHand() {
  const { hand, handOn, actions } = useBook()
  if (!hand) return null
  return (
    <span className="flex max-w-[230px] max-[1000px]:max-w-[140px] items-center gap-1 rounded-md border border-rule bg-ochre-wash py-1 pr-1 pl-2 text-[12.5px]">
      <Link href={`/lists/${hand.id}`} className="truncate text-ochre no-underline hover:underline" title={`List in hand: ${hand.name}`}>
        <span className="sr-only">List in hand: </span>
        {hand.name}
      </Link>
      {handOn !== null && <b className="tabular-nums text-ochre">{count(handOn)}</b>}
      <button
        type="button"
        aria-label="Put the list down"
        className="rounded p-0.5 text-ochre hover:bg-leaf"
        onClick={() => void actions.inHand(null)}
      >
        <X size={13} aria-hidden="true" />
      </button>
    </span>
  )
}

/** The top edge of the book: the index tabs, finding anyone, and who is signed in. */
export function Header({ name, post, signOut }: { name: string; post: string; signOut: () => Promise<void> }) {
  const path = usePathname()
  const router = useRouter()
  const find = useRef<HTMLInputElement>(null)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
      if (event.key === '/' && !typing && !event.metaKey && !event.ctrlKey) {
        event.preventDefault()
        find.current?.focus()
      }
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])
  const initials = name
    .split(' ')
    .map((part) => part[0])
    .join('')
    .slice(0, 2)
  return (
    <header className="flex min-h-[53px] flex-wrap items-end border-b border-strong bg-page px-5">
      <Link href="/today" className="mr-7 flex items-center gap-2 pb-2.5 no-underline max-[1000px]:mr-2">
        <Mark />
        <span className="font-title text-[19px] font-semibold max-[1000px]:sr-only">Arch Ledger</span>
      </Link>
      <nav aria-label="Sections" className="flex flex-wrap items-end">
        {SECTIONS.map(([title, href]) => {
          const open = path === href || path.startsWith(`${href}/`)
          return (
            <Link
              key={href}
              href={href}
              aria-current={open ? 'page' : undefined}
              className={`px-3.5 pt-2 pb-2.5 no-underline max-[1000px]:px-2.5 ${open ? '-mb-px rounded-t-lg border border-b-0 border-strong bg-leaf font-bold' : 'text-soft hover:text-ink'}`}
            >
              {title}
            </Link>
          )
        })}
      </nav>
      <div className="ml-auto flex items-center gap-3 pb-2">
        <InHand />
        <search>
          <form
            onSubmit={(event) => {
              event.preventDefault()
              router.push(`/directory?find=${encodeURIComponent(find.current?.value ?? '')}`)
            }}
          >
            <input
              ref={find}
              type="search"
              aria-label="Find anyone"
              placeholder="Find anyone  /"
              className="w-[150px] max-[1000px]:w-[120px] border-rule! bg-transparent! placeholder:text-soft"
            />
          </form>
        </search>
        <KeysDialog />
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label={`Signed in as ${name}`}
            className="grid size-7 place-items-center rounded-full bg-verdigris text-[11px] font-bold text-white"
          >
            {initials}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="floating" align="end" sideOffset={6}>
              <p className="px-2.5 pb-2">
                <b>{name}</b>
                <br />
                <span className="quiet">{post}</span>
              </p>
              <DropdownMenu.Item className="menu-item" onSelect={() => router.push('/team')}>
                Team and password
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => void signOut()}>
                Sign out
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
    </header>
  )
}
