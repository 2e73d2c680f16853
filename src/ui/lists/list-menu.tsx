'use client'

import { toast } from 'sonner'
import { MoreHorizontal } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { type Line, subjectOf } from '@/core/lists/line'
import { allows, type Sharing } from '@/core/records/list-roles'
import type { ListView } from '@/core/views/list-views'
import { useBook } from '@/ui/book/book'
import type { ListActions } from './list-actions'
import { RenameDialog } from '@/ui/forms/rename-dialog'
import { PlacementDialog } from './placement-dialog'
import { OpenersDialog } from './openers-dialog'
import { RhythmDialog } from './rhythm-dialog'
import { ShareDialog } from './share-dialog'

/** What can be done with a whole list: copy anybody's, share or delete one's own. */
export function ListMenu({
  list,
  lines,
  sharing,
  team,
  actions,
  mayCoordinate,
  onTold,
}: {
  list: ListView
  lines: Line[]
  sharing: Sharing
  team: { id: string; name: string }[]
  actions: ListActions
  mayCoordinate: boolean
  onTold: (text: string) => void
}) {
  const router = useRouter()
  const book = useBook()
  const [open, setOpen] = useState<'share' | 'rename' | 'rhythm' | 'openers' | 'placement' | null>(null)
  const mayUse = allows(list.role, 'use')
  const hold = async (id: number | null) => {
    const done = await book.actions.inHand(id)
    if (!done.ok) onTold(done.error)
  }
  const shelve = async (to: { archived?: boolean; pinned?: boolean }) => {
    const done = await actions.shelve(list.id, to)
    if (!done.ok) return onTold(done.error)
    router.refresh()
    if (to.archived !== undefined)
      toast(to.archived ? `“${list.name}” is archived.` : `“${list.name}” is out of the archive.`, {
        action: { label: 'Undo', onClick: () => void shelve({ archived: !to.archived }) },
      })
  }
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="button" aria-label="More for this list">
          <MoreHorizontal size={16} aria-hidden="true" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="floating p-1.5!" align="end" sideOffset={4}>
            {!list.archived && (
              <DropdownMenu.Item className="menu-item" onSelect={() => void hold(book.hand?.id === list.id ? null : list.id)}>
                {book.hand?.id === list.id ? 'Put it down' : 'Take in hand'}
              </DropdownMenu.Item>
            )}
            {mayUse && (
              <DropdownMenu.Item
                className="menu-item"
                onSelect={async () => {
                  const made = await actions.copy(list.id)
                  if (made.ok) router.push(`/lists/${made.value}`)
                  else onTold(made.error)
                }}
              >
                Copy as my own
              </DropdownMenu.Item>
            )}
            {mayUse && mayCoordinate && (
              <DropdownMenu.Item className="menu-item" onSelect={() => router.push(`/intake/enquiries/new?list=${list.id}`)}>
                Check and fill from a source
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className="menu-item" onSelect={() => setOpen('share')}>
              {list.mine ? 'Share it…' : 'Who sees it…'}
            </DropdownMenu.Item>
            {allows(list.role, 'edit') && (
              <DropdownMenu.Item className="menu-item" onSelect={() => setOpen('rhythm')}>
                When it is due…
              </DropdownMenu.Item>
            )}
            {allows(list.role, 'edit') && subjectOf(list.lines) === 'person' && (
              <DropdownMenu.Item className="menu-item" onSelect={() => setOpen('openers')}>
                Openers…
              </DropdownMenu.Item>
            )}
            {allows(list.role, 'edit') && (
              <DropdownMenu.Item className="menu-item" onSelect={() => setOpen('placement')}>
                Add by changes…
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className="menu-item" onSelect={() => shelve({ pinned: !list.pinned })}>
              {list.pinned ? 'Unpin' : 'Pin to the top'}
            </DropdownMenu.Item>
            {list.mine && (
              <>
                <DropdownMenu.Item className="menu-item" onSelect={() => shelve({ archived: !list.archived })}>
                  {list.archived ? 'Take out of the archive' : 'Archive'}
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => setOpen('rename')}>
                  Rename…
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className="menu-item text-madder"
                  onSelect={async () => {
                    const gone = await actions.remove(list.id)
                    if (gone.ok) router.push(`/lists?deleted=${list.id}`)
                    else onTold(gone.error)
                  }}
                >
                  Delete
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {open === 'share' && <ShareDialog list={list} sharing={sharing} team={team} actions={actions} open onClose={() => setOpen(null)} />}
      {open === 'rhythm' && (
        <RhythmDialog id={list.id} rhythm={list.rhythm} onlyFollow={list.onlyFollow} actions={actions} onClose={() => setOpen(null)} />
      )}
      {open === 'openers' && <OpenersDialog list={list} actions={actions} onClose={() => setOpen(null)} />}
      {open === 'placement' && <PlacementDialog list={list} actions={actions} onClose={() => setOpen(null)} />}
      {open === 'rename' && (
        <RenameDialog id={list.id} name={list.name} lines={lines} rename={actions.rename} open onClose={() => setOpen(null)} />
      )}
    </>
  )
}
