import type { Reach as ReachView } from '@/core/views/record-views'

import { CHANNELS } from '@/core/records/channels'

/** Reach in words: ink when open, struck in madder when closed, a dash when there is none. */
export function Reach({ reach }: { reach: ReachView }) {
  return (
    <span className="inline-flex flex-wrap gap-x-2 text-[12.5px]">
      {CHANNELS.map((channel) => {
        // A word of the full name: the four have to stand in a column.
        const name = channel === 'direct' ? 'direct' : channel
        const state = reach[channel]
        if (state === 'none')
          return (
            <span key={channel} className="text-soft">
              <span aria-hidden="true">–</span>
              <span className="sr-only">no {name}</span>
            </span>
          )
        return state === 'open' ? (
          <span key={channel}>{name}</span>
        ) : (
          <s key={channel} className="text-madder">
            <span className="sr-only">closed: </span>
            {name}
          </s>
        )
      })}
    </span>
  )
}
