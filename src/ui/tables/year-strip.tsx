import type { PersonView } from '@/core/views/record-views'

const TICK = {
  phone: { height: 14, tone: 'var(--color-verdigris)', name: 'phone' },
  email: { height: 8, tone: 'var(--color-soft)', name: 'email' },
  post: { height: 11, tone: 'var(--color-ochre)', name: 'post' },
  direct: { height: 5, tone: 'var(--color-madder)', name: 'direct message' },
  met: { height: 16, tone: 'var(--color-ink)', name: 'meeting' },
  'public reply': { height: 4, tone: 'var(--color-ink)', name: 'public reply' },
} as const

/** The contacts of the last twelve months as ticks, the newest at the right: a height and a tone a channel. */
export function YearStrip({ strip, width = 76 }: { strip: PersonView['strip']; width?: number }) {
  const counts = strip.reduce<Record<string, number>>((sum, [, channel]) => Object.assign(sum, { [channel]: (sum[channel] ?? 0) + 1 }), {})
  const said = Object.entries(counts).map(([channel, n]) => `${n} by ${TICK[channel as keyof typeof TICK].name}`)
  return (
    <svg
      width={width}
      height={16}
      role="img"
      aria-label={said.length > 0 ? `Contacts of the last year: ${said.join(', ')}` : 'No contact in the last year'}
    >
      <line x1={0} y1={15.5} x2={width} y2={15.5} stroke="var(--color-strong)" />
      {strip.map(([daysAgo, channel], i) => {
        const { height, tone } = TICK[channel]
        const x = Math.round(((364 - Math.min(364, Math.max(0, daysAgo))) / 364) * (width - 2)) + 1
        // biome-ignore lint/suspicious/noArrayIndexKey: ticks have no identity; two contacts of a day look the same
        return <line key={`${daysAgo}-${channel}-${i}`} x1={x} y1={15 - height} x2={x} y2={15} stroke={tone} strokeWidth={1.5} />
      })}
    </svg>
  )
}
