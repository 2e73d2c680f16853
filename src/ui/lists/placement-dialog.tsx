'use client'

import { Dialog } from 'radix-ui'
import { DialogFrame } from '@/ui/forms/dialog-frame'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { SUBJECT_NAMES } from '@/core/records/subject'
import { subjectOf } from '@/core/lists/line'
import type { ActionResult } from '@/core/views/action-result'
import type { ListView } from '@/core/views/list-views'
import { useAsked } from '@/ui/book/asking'

export interface PlacementAction {
  placement: (id: number, placement: unknown) => Promise<ActionResult<unknown>>
}

/** Which kinds of changes put their record on the list, and whether somebody is asked first. */
export function PlacementDialog({ list, actions, onClose }: { list: ListView; actions: PlacementAction; onClose: () => void }) {
  const router = useRouter()
  const { answer: kinds } = useAsked<{ id: number; name: string; freshDays: number | null }[]>(['/api/change-kinds'])
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set(list.placement?.kinds ?? []))
  const [how, setHow] = useState<'proposal' | 'edition'>(list.placement?.how ?? 'proposal')
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const put = (kind: number, on: boolean) => {
    const next = new Set(chosen)
    if (on) next.add(kind)
    else next.delete(kind)
    setChosen(next)
  }
  const save = () =>
    begin(async () => {
      const done = await actions.placement(list.id, { how, kinds: [...chosen] })
      if (!done.ok) return setTold(done.error)
      onClose()
      router.refresh()
    })
  return (
    <DialogFrame
      open
      onOpenChange={(to) => !to && onClose()}
      title={`Add ${SUBJECT_NAMES[subjectOf(list.lines)]} by changes`}
      about={
        <>
          When a change of a chosen kind becomes known, its {SUBJECT_NAMES[subjectOf(list.lines)]} are added to this list by a pick line.
          Those you took off by hand stay off. Each round still screens them.
        </>
      }
      width={560}
      filling
    >
      <ul className="mt-3 grid min-h-0 flex-1 gap-1.5 overflow-y-auto pr-2" aria-label="Kinds of changes">
        {(kinds ?? []).map((kind) => (
          <li key={kind.id} className="border-b border-rule pb-1.5">
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={chosen.has(kind.id)} onChange={(event) => put(kind.id, event.target.checked)} />
              <span className="font-semibold">{kind.name}</span>
              <span className="quiet">{kind.freshDays === null ? 'always fresh' : `fresh for ${kind.freshDays} days`}</span>
            </label>
          </li>
        ))}
      </ul>
      <fieldset className="mt-3 grid gap-1">
        <legend className="sr-only">How they are added</legend>
        <label className="flex items-center gap-2">
          <input type="radio" name="how" checked={how === 'proposal'} onChange={() => setHow('proposal')} />
          Propose them, for somebody to take or leave
        </label>
        <label className="flex items-center gap-2">
          <input type="radio" name="how" checked={how === 'edition'} onChange={() => setHow('edition')} />
          Add them at once, as a new edition in my name, as long as I may edit the list
        </label>
      </fieldset>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <button type="button" className="button button-main" disabled={busy || kinds === undefined} onClick={save}>
          Save settings
        </button>
        <Dialog.Close className="button">Cancel</Dialog.Close>
      </div>
    </DialogFrame>
  )
}
