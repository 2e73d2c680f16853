'use client'

import { Dialog } from 'radix-ui'
import { DialogFrame } from '@/ui/forms/dialog-frame'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { openerText, OPENER_WORDS } from '@/core/changes/opener'
import type { ActionResult } from '@/core/views/action-result'
import type { ListView } from '@/core/views/list-views'
import { useAsked } from '@/ui/book/asking'

type Kind = { id: number; name: string; opener: string | null; freshDays: number | null }

/** A sentence as it could read for somebody, with made-up words. */
const EXAMPLE = { when: 'in October', before: 'site manager', after: 'head of estates', organisation: 'Low Wendle Clinic', given: 'Ada' }

export interface OpenersAction {
  openers: (id: number, wishes: unknown) => Promise<ActionResult<unknown>>
}

/** Which kinds of changes give the people of a list an opener, and how each begins. */
export function OpenersDialog({ list, actions, onClose }: { list: ListView; actions: OpenersAction; onClose: () => void }) {
  const router = useRouter()
  const { answer: kinds } = useAsked<Kind[]>(['/api/change-kinds'])
  const [own, setOwn] = useState<ReadonlyMap<number, string>>(new Map(list.openers.map((wish) => [wish.kind, wish.own ?? ''])))
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const put = (kind: number, text: string | null) => {
    const next = new Map(own)
    if (text === null) next.delete(kind)
    else next.set(kind, text)
    setOwn(next)
  }
  const written = (kinds ?? []).filter(({ opener }) => opener !== null)
  const unwritten = (kinds ?? []).filter(({ opener }) => opener === null)
  const save = () =>
    begin(async () => {
      const done = await actions.openers(
        list.id,
        [...own].map(([kind, text]) => ({ kind, own: text })),
      )
      if (!done.ok) return setTold(done.error)
      onClose()
      router.refresh()
    })
  return (
    <DialogFrame
      open
      onOpenChange={(to) => !to && onClose()}
      title="Openers of this list"
      about={
        <>
          An opener is a first sentence for a letter, an email or a call. Each person gets the one of their latest fresh change, in the
          column <i>Opener</i> and in the files of a round. Nobody gets the same one twice. A sentence can name{' '}
          {OPENER_WORDS.map((word) => `{${word}}`).join(', ')}.
        </>
      }
      width={720}
      filling
    >
      <div className="mt-3 min-h-0 flex-1 overflow-y-auto pr-2">
        <KindsOfOpeners label="Kinds of changes with a sentence" kinds={written} own={own} put={put} />
        {unwritten.length > 0 && (
          <details className="mt-2" open={unwritten.some(({ id }) => own.has(id))}>
            <summary className="cursor-pointer font-semibold text-verdigris">Kinds that have no sentence yet</summary>
            <KindsOfOpeners label="Kinds of changes without a sentence" kinds={unwritten} own={own} put={put} />
          </details>
        )}
      </div>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <button type="button" className="button button-main" disabled={busy || kinds === undefined} onClick={save}>
          Save openers
        </button>
        <Dialog.Close className="button">Cancel</Dialog.Close>
      </div>
    </DialogFrame>
  )
}

function KindsOfOpeners({
  label,
  kinds,
  own,
  put,
}: {
  label: string
  kinds: readonly Kind[]
  own: ReadonlyMap<number, string>
  put: (kind: number, text: string | null) => void
}) {
  return (
    <ul className="mt-1 grid gap-1.5" aria-label={label}>
      {kinds.map((kind) => {
        const text = own.get(kind.id)
        const sentence = text || kind.opener
        return (
          <li key={kind.id} className="border-b border-rule pb-1.5">
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={text !== undefined} onChange={(event) => put(kind.id, event.target.checked ? '' : null)} />
              <span className="font-semibold">{kind.name}</span>
              <span className="quiet">{kind.freshDays === null ? 'always fresh' : `fresh for ${kind.freshDays} days`}</span>
            </label>
            {text !== undefined && (
              <div className="mt-1 ml-6 grid gap-1">
                <input
                  aria-label={`Sentence for ${kind.name}`}
                  className="w-full"
                  maxLength={400}
                  value={text}
                  placeholder={kind.opener ?? 'Write a sentence; this kind has none'}
                  onChange={(event) => put(kind.id, event.target.value)}
                />
                {sentence && <span className="quiet italic">{openerText(sentence, EXAMPLE)}</span>}
              </div>
            )}
          </li>
        )
      })}
    </ul>
  )
}
