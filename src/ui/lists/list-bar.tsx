'use client'

import { Undo2 } from 'lucide-react'
import Link from 'next/link'
import type { ReactNode } from 'react'
import type { ListView } from '@/core/views/list-views'

interface ListBarProps {
  list: ListView
  /** The edition that saving makes. */
  next: number
  mayEdit: boolean
  dirty: boolean
  /** Every line is whole, and nothing is under way. */
  ready: boolean
  canUndo: boolean
  why: string
  onWhy: (why: string) => void
  onUndo: () => void
  onSave: () => void
  onPropose: () => void
  /** What stands first: a way to add a line. */
  children: ReactNode
  /** What is said last. */
  said: string
}

/** What can be done with the lines as they stand: undo, save or propose them, and look at the list in other ways. */
export function ListBar({
  list,
  next,
  mayEdit,
  dirty,
  ready,
  canUndo,
  why,
  onWhy,
  onUndo,
  onSave,
  onPropose,
  children,
  said,
}: ListBarProps) {
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2">
      {children}
      <button type="button" className="button" onClick={onUndo} disabled={!canUndo}>
        <Undo2 size={15} aria-hidden="true" /> Undo
      </button>
      {mayEdit && (
        <button type="button" className="button button-main" onClick={onSave} disabled={!dirty || !ready}>
          Save edition {next}
        </button>
      )}
      {(!mayEdit || (dirty && !list.mine)) && (
        <button type="button" className={`button ${mayEdit ? '' : 'button-main'}`} onClick={onPropose} disabled={!dirty || !ready}>
          Propose changes{list.mine ? '' : ` to ${list.owner.split(' ')[0]}`}
        </button>
      )}
      {dirty && (
        <input
          aria-label={mayEdit ? 'Why it is saved' : 'Why it is proposed'}
          placeholder="reason"
          maxLength={200}
          className="w-[150px]"
          value={why}
          onChange={(e) => onWhy(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && dirty && ready && (mayEdit ? onSave() : onPropose())}
        />
      )}
      <Link href={`/lists/${list.id}/map`} className="button">
        Map
      </Link>
      <Link href={`/lists/${list.id}/profile`} className="button">
        Profile
      </Link>
      {list.edition > 1 && (
        <Link href={`/lists/${list.id}/editions`} className="button">
          Compare editions
        </Link>
      )}
      <span role="status" className="quiet">
        {said}
      </span>
    </div>
  )
}
