import type { ReactNode } from 'react'
import { count } from './figures'

export interface TabItem {
  key: string
  title: string
  total?: number | null
}

/** The tabs over the records: each says how many are behind it. */
export function TabRow({
  tabs,
  open,
  onOpen,
  label,
  children,
}: {
  tabs: TabItem[]
  open: string
  onOpen: (key: string) => void
  label: string
  children?: ReactNode
}) {
  return (
    <div
      className="flex flex-wrap items-end gap-x-4 border-b border-ink"
      role="group"
      aria-label={label}
      onKeyDown={(event) => {
        const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
        const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>(':scope > button')]
        const at = buttons.indexOf(event.target as HTMLButtonElement)
        const next = tabs[at + by]
        if (by === 0 || at < 0 || !next) return
        event.preventDefault()
        buttons[at + by].focus()
        onOpen(next.key)
      }}
    >
      {tabs.map(({ key, title, total }) => (
        <button
          key={key}
          type="button"
          aria-pressed={key === open}
          onClick={() => onOpen(key)}
          className={`-mb-px border-b-[3px] pb-1.5 ${key === open ? 'border-ink font-bold' : 'border-transparent text-soft hover:text-ink'}`}
        >
          {title} {total === undefined ? '' : <span className="tabular-nums">{count(total)}</span>}
        </button>
      ))}
      {children && <div className="ml-auto pb-1">{children}</div>}
    </div>
  )
}
