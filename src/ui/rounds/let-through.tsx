'use client'

import { Popover } from 'radix-ui'
import { useState, useTransition } from 'react'
import type { PersonView } from '@/core/views/record-views'
import { CHANNEL_NAME, type ScreenedChannel } from '@/core/records/channels'

/** Who was let through and why, a way to take it back, and a way to let somebody through with a written reason. */
export function LetThrough({
  person,
  onPass,
  onBack,
}: {
  person: PersonView
  onPass: (channel: ScreenedChannel, reason: string) => Promise<string | null>
  onBack: (channel: ScreenedChannel) => Promise<string | null>
}) {
  const [open, setOpen] = useState(false)
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const { let: through = [], may = [] } = person.through ?? {}
  if (through.length + may.length === 0) return null
  return (
    <span className="quiet block">
      {through.map(({ channel, reason, by }) => (
        <span key={channel} className="block">
          Let through by {CHANNEL_NAME[channel]}: {reason} ({by}){' '}
          <button
            type="button"
            className="font-semibold text-verdigris hover:underline"
            disabled={busy}
            onClick={() => begin(async () => setTold(await onBack(channel)))}
          >
            Take back
          </button>
        </span>
      ))}
      {may.length > 0 && (
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger className="font-semibold text-verdigris hover:underline" aria-label={`Let ${person.name} through`}>
            Let through
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content className="floating w-[320px]" align="start" sideOffset={6} aria-label="Let through">
              <form
                className="grid gap-3"
                onSubmit={(event) => {
                  event.preventDefault()
                  const form = new FormData(event.currentTarget)
                  begin(async () => {
                    const refused = await onPass(form.get('channel') as ScreenedChannel, String(form.get('reason') ?? ''))
                    setTold(refused)
                    if (refused === null) setOpen(false)
                  })
                }}
              >
                <b>Let {person.name} through</b>
                <label className="field">
                  <span>By</span>
                  <select name="channel">
                    {may.map((channel) => (
                      <option key={channel} value={channel}>
                        {CHANNEL_NAME[channel]}
                      </option>
                    ))}
                  </select>
                </label>
                <label className="field">
                  <span>Reason, kept with the round and in the ledger</span>
                  <textarea name="reason" rows={2} required maxLength={400} autoFocus />
                </label>
                {told && (
                  <p role="alert" className="told">
                    {told}
                  </p>
                )}
                <button type="submit" className="button button-main justify-self-end" disabled={busy}>
                  Let through
                </button>
              </form>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </span>
  )
}
