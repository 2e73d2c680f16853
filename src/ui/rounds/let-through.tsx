'use client'

import { Popover } from 'radix-ui'
import { useState, useTransition } from 'react'
import type { PersonView } from '@/core/views/record-views'
import { CHANNEL_NAME, type Channel } from '@/core/records/channels'
import { LetThroughForm } from './let-through-form'

/** Who was let through and why, a way to take it back, and a way to let somebody through with a written reason. */
export function LetThrough({
  person,
  onPass,
  onBack,
}: {
  person: PersonView
  onPass: (channel: Channel, reason: string) => Promise<string | null>
  onBack: (channel: Channel) => Promise<string | null>
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
              <LetThroughForm
                title={`Let ${person.name} through`}
                channels={may}
                told={told}
                busy={busy}
                onSend={(channel, reason) =>
                  begin(async () => {
                    const refused = await onPass(channel, reason)
                    setTold(refused)
                    if (refused === null) setOpen(false)
                  })
                }
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </span>
  )
}
