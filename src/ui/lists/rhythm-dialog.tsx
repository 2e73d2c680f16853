'use client'

import { Dialog } from 'radix-ui'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { type Rhythm, WEEKDAY_NAME, WEEKDAYS } from '@/core/calendar/rhythm'
import type { ActionResult } from '@/core/views/action-result'

export interface RhythmActions {
  rhythm: (id: number, rhythm: unknown) => Promise<ActionResult<unknown>>
  onlyFollow: (id: number, only: boolean) => Promise<ActionResult<unknown>>
}

/** When a list is due again: by the week, by the month, or so many days after its last round; or only for following. */
export function RhythmDialog({
  id,
  rhythm,
  onlyFollow,
  actions,
  onClose,
}: {
  id: number
  rhythm: Rhythm | null
  onlyFollow: boolean
  actions: RhythmActions
  onClose: () => void
}) {
  const router = useRouter()
  const [every, setEvery] = useState<Rhythm['every'] | 'never' | 'follow'>(onlyFollow ? 'follow' : (rhythm?.every ?? 'never'))
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const send = (form: FormData) =>
    begin(async () => {
      const number = (name: string) => Number(form.get(name))
      const next =
        every === 'week'
          ? { every, on: form.getAll('on'), weeks: number('weeks') }
          : every === 'month'
            ? { every, day: number('day') }
            : every === 'days'
              ? { every, days: number('days') }
              : null
      const only = await actions.onlyFollow(id, every === 'follow')
      const done = only.ok ? await actions.rhythm(id, next) : only
      if (!done.ok) return setTold(done.error)
      onClose()
      router.refresh()
    })
  return (
    <Dialog.Root open onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="floating fixed top-[18vh] left-1/2 w-[480px] max-w-[94vw] -translate-x-1/2 p-5!"
          aria-describedby={undefined}
        >
          <Dialog.Title asChild>
            <h2>When is this list due?</h2>
          </Dialog.Title>
          <form
            className="mt-3 grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              send(new FormData(event.currentTarget))
            }}
          >
            <label className="field">
              <span>Rhythm</span>
              <select value={every} onChange={(event) => setEvery(event.target.value as typeof every)}>
                <option value="never">none</option>
                <option value="week">on days of the week</option>
                <option value="month">on a day of the month</option>
                <option value="days">so many days after its last round</option>
                <option value="follow">never: only for following its people</option>
              </select>
            </label>
            {every === 'week' && (
              <>
                <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
                  <legend className="quiet mb-1 font-semibold">Days</legend>
                  {WEEKDAYS.map((day) => (
                    <label key={day} className="flex items-center gap-1.5">
                      <input type="checkbox" name="on" value={day} defaultChecked={rhythm?.every === 'week' && rhythm.on.includes(day)} />
                      {WEEKDAY_NAME[day]}
                    </label>
                  ))}
                </fieldset>
                <label className="field">
                  <span>Every so many weeks</span>
                  <input name="weeks" type="number" min={1} max={52} defaultValue={rhythm?.every === 'week' ? rhythm.weeks : 1} />
                </label>
              </>
            )}
            {every === 'month' && (
              <label className="field">
                <span>Day of the month; 31 is its last day</span>
                <input name="day" type="number" min={1} max={31} defaultValue={rhythm?.every === 'month' ? rhythm.day : 1} />
              </label>
            )}
            {every === 'days' && (
              <label className="field">
                <span>Days after its last round began</span>
                <input name="days" type="number" min={1} max={3650} defaultValue={rhythm?.every === 'days' ? rhythm.days : 30} />
              </label>
            )}
            {every === 'follow' && (
              <p className="quiet">It never goes out in a round. You hear of changes of its people, and nobody on it learns of that.</p>
            )}
            {told && (
              <p role="alert" className="told">
                {told}
              </p>
            )}
            <div className="flex gap-2">
              <button type="submit" className="button button-main" disabled={busy}>
                Save rhythm
              </button>
              <Dialog.Close className="button">Cancel</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
