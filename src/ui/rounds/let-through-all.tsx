'use client'

import { Popover } from 'radix-ui'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import { CHANNEL_NAME, CHANNELS, type Channel } from '@/core/records/channels'
import type { ActionResult } from '@/core/views/action-result'
import { LetThroughForm } from './let-through-form'
import { count } from '@/ui/book/figures'

export interface LetThroughAllActions {
  passAll: (
    round: number,
    people: number[],
    channel: Channel,
    reason: string,
  ) => Promise<ActionResult<{ people: number[]; left: { why: string; count: number }[] }>>
  passAllBack: (round: number, people: number[], channel: Channel) => Promise<ActionResult<number>>
}

/** Lets everybody who is chosen through by one channel with one reason, and says who could not be. */
export function LetThroughAll({
  round,
  chosen,
  by,
  actions,
  onDone,
  onClear,
}: {
  round: number
  chosen: ReadonlySet<number>
  /** The channel that is looked at, which is offered first. */
  by?: Channel
  actions: LetThroughAllActions
  /** Something changed: the account is to be asked for anew. */
  onDone: () => void
  onClear: () => void
}) {
  const [open, setOpen] = useState(false)
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  if (chosen.size === 0) return null
  const pass = (channel: Channel, reason: string) =>
    begin(async () => {
      const done = await actions.passAll(round, [...chosen], channel, reason)
      if (!done.ok) return setTold(done.error)
      const { people, left } = done.value
      const others = left.map(({ why, count: n }) => `${count(n)} could not be. ${why}.`).join(' ')
      setOpen(false)
      onClear()
      onDone()
      if (people.length === 0) return void toast.error(`Nobody was let through. ${others}`, { duration: 12_000 })
      toast.success(
        `${count(people.length)} ${people.length === 1 ? 'person was' : 'people were'} let through by ${CHANNEL_NAME[channel]}. ${others}`,
        {
          duration: 12_000,
          action: {
            label: 'Undo',
            onClick: () =>
              void actions.passAllBack(round, people, channel).then((back) => {
                if (back.ok) toast.success(`${count(back.value)} let-throughs were taken back.`)
                else toast.error(back.error)
                onDone()
              }),
          },
        },
      )
    })
  return (
    <div
      className="flex flex-wrap items-center gap-3 border-b border-rule bg-ochre-wash/40 px-2 py-1.5"
      role="group"
      aria-label="Those who are chosen"
    >
      <span>{count(chosen.size)} chosen</span>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="button px-2! py-0.5!">Let them through</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content className="floating w-[330px]" align="start" sideOffset={6} aria-label="Let them through">
            <LetThroughForm
              title={`Let ${count(chosen.size)} through`}
              channels={by ? [by, ...CHANNELS.filter((channel) => channel !== by)] : CHANNELS}
              told={told}
              busy={busy}
              onSend={pass}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <button type="button" className="font-semibold text-verdigris" onClick={onClear}>
        Choose none
      </button>
    </div>
  )
}
