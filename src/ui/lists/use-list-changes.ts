'use client'

import { useRouter } from 'next/navigation'
import type { TransitionStartFunction } from 'react'
import type { Line, PickLine } from '@/core/lists/line'
import type { ListView, Uploaded } from '@/core/views/list-views'
import { useBook } from '@/ui/book/book'
import { sendFileTo } from '@/ui/forms/send-file'
import type { Marked } from '@/ui/tables/chosen-bar'
import { newId } from './line-editing'
import type { ListActions } from './list-actions'
import { uploadTold } from './upload-told'
import type { useLines } from './use-lines'
import type { ListPage } from './use-list-page'

/** What changes a list beyond one line: saving, proposing, picking records and folding picks. Each tells on the page what came of it. */
export function useListChanges({
  list,
  mayEdit,
  whole,
  why,
  put,
  actions,
  begin,
  page: { lines, basedOn, edit, amend, dirty, saved, rebase, elsewhere: otherPage },
}: {
  list: ListView
  mayEdit: boolean
  /** The lines that are complete. */
  whole: Line[]
  why: string
  put: (change: Partial<ListPage>) => void
  actions: ListActions
  begin: TransitionStartFunction
  page: ReturnType<typeof useLines>
}) {
  const router = useRouter()
  const book = useBook()
  const pickThem = async (side: 'in' | 'out', who: Marked, reason: string) => {
    const made = await actions.picks(list.id, who)
    if (!made.ok) return put({ told: made.error })
    edit([...lines, { id: newId(), verb: 'pick', off: false, side, ...made.value, reason, until: null }])
  }

  const pickFile = async (file: File) => {
    put({ told: null })
    try {
      const { set, names, by, ...came } = await sendFileTo<Uploaded>(`/api/lists/${list.id}/upload`, file, file.name, () => {})
      edit([
        ...lines,
        { id: newId(), verb: 'pick', off: false, side: 'in', set, names, by, reason: `from ${file.name}`.slice(0, 200), until: null },
      ])
      put({ came: uploadTold(set.count, came) })
    } catch (error) {
      put({ told: (error as Error).message })
    }
  }
  const suggest = () =>
    begin(async () => {
      if (!dirty || whole.length < lines.length) return
      saved()
      const made = await actions.propose(list.id, basedOn, whole, why)
      if (!made.ok) {
        amend(lines)
        return put({ told: made.error })
      }
      rebase(list.edition, list.lines, list.lines)
      put({ why: '' })
      put({ said: `Proposed to ${list.mine ? 'those who may edit it' : list.owner}.` })
      router.refresh()
    })
  const save = () =>
    begin(async () => {
      if (!mayEdit || !dirty || otherPage || whole.length < lines.length) return
      // What waits to be kept as a draft is what is being saved; were it kept after, it would look unsaved again.
      saved()
      const result = await actions.saveList(list.id, basedOn, whole, why)
      if (!result.ok) {
        amend(lines)
        return put({ told: result.error })
      }
      if ('theirs' in result.value) {
        amend(lines)
        return put({ theirs: result.value.theirs })
      }
      put({ why: '' })
      put({ said: `Saved as edition ${result.value.edition}.` })
      book.weigh()
      router.refresh()
    })
  const fold = async (id: string) => {
    const i = lines.findIndex((l) => l.id === id)
    const [above, own] = [lines[i - 1] as PickLine, lines[i] as PickLine]
    const made = await actions.fold(list.id, [above.set.id, own.set.id])
    if (!made.ok) return put({ told: made.error })
    const reason = [...new Set([above.reason, own.reason].filter(Boolean))].join('; ').slice(0, 200)
    edit([...lines.slice(0, i - 1), { ...above, set: made.value.set, reason }, ...lines.slice(i + 1)])
  }
  return { save, suggest, pickThem, pickFile, fold }
}
