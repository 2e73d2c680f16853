'use client'

import { useState } from 'react'
import { CHANNEL_NAME, CHANNELS, type Channel } from '@/core/records/channels'
import type { PersonView } from '@/core/views/record-views'
import type { ContactCheck } from '@/core/views/round-views'
import { ask } from '@/ui/book/ask'

/** Asks once more, at the moment of a contact, whether it may be made, and says where it goes or why not. */
export function CheckContact({ round, person }: { round: number; person: PersonView }) {
  const [said, setSaid] = useState<{ channel: Channel; check: ContactCheck | { may: false; title: string; detail: string } } | null>(null)
  const open = CHANNELS.filter((channel) => person.reach[channel] === 'open')
  if (open.length === 0) return null
  const check = async (channel: Channel) => {
    try {
      setSaid({ channel, check: await ask<ContactCheck>(`/api/rounds/${round}/check`, { person: person.id, channel }) })
    } catch (error) {
      setSaid({ channel, check: { may: false, title: 'Not checked', detail: (error as Error).message } })
    }
  }
  return (
    <span className="quiet block">
      Check before{' '}
      {open.map((channel) => (
        <button
          key={channel}
          type="button"
          className="mr-2 font-semibold text-verdigris hover:underline"
          aria-label={`Check ${person.name} before ${CHANNEL_NAME[channel]}`}
          onClick={() => check(channel)}
        >
          {channel === 'direct' ? 'message' : channel === 'phone' ? 'call' : channel === 'post' ? 'letter' : 'email'}
        </button>
      ))}
      {said && (
        <span role="status" className={`block ${said.check.may ? '' : 'text-madder'}`}>
          {said.check.may
            ? `Clear now by ${CHANNEL_NAME[said.channel]}: ${said.check.to}`
            : `Do not contact by ${CHANNEL_NAME[said.channel]}. ${said.check.title}: ${said.check.detail}`}
        </span>
      )}
    </span>
  )
}
