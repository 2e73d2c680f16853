'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { dateText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'

export interface OwnPostActions {
  addPost: (post: unknown) => Promise<ActionResult<unknown>>
  removePost: (id: number) => Promise<ActionResult<unknown>>
}

/** Where one worked before, so that colleagues see whom one may know from there. */
export function OwnPosts({
  posts,
  actions,
}: {
  posts: { id: number; organisation: string; from: string; to: string | null }[]
  actions: OwnPostActions
}) {
  const router = useRouter()
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const run = (work: () => Promise<ActionResult<unknown>>, then?: () => void) =>
    begin(async () => {
      const done = await work()
      setTold(done.ok ? null : done.error)
      if (done.ok) then?.()
      router.refresh()
    })
  return (
    <section className="mt-6" aria-label="Where you worked before">
      <h2>Where you worked before</h2>
      <p className="quiet">A person’s page shows which colleagues worked at the same organisation at the same time.</p>
      <ul>
        {posts.map(({ id, organisation, from, to }) => (
          <li key={id} className="flex items-center justify-between gap-3 border-b border-rule py-1.5">
            <span>
              {organisation} <span className="quiet">{`${dateText(from)} to ${to === null ? 'today' : dateText(to)}`}</span>
            </span>
            <button
              type="button"
              className="font-semibold text-verdigris"
              disabled={busy}
              onClick={() => run(() => actions.removePost(id))}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 grid grid-cols-[1fr_auto_auto_auto] items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          const form = event.currentTarget
          const given = Object.fromEntries(new FormData(form))
          run(
            () => actions.addPost({ ...given, to: given.to || null }),
            () => form.reset(),
          )
        }}
      >
        <label className="field">
          <span>Organisation</span>
          <input name="organisation" required maxLength={200} />
        </label>
        <label className="field">
          <span>First day</span>
          <input name="from" type="date" required />
        </label>
        <label className="field">
          <span>Last day</span>
          <input name="to" type="date" />
        </label>
        <button type="submit" className="button" disabled={busy}>
          Add
        </button>
      </form>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
    </section>
  )
}
