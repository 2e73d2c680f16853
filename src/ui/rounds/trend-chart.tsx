'use client'

import { useRouter } from 'next/navigation'
import type { TrendRow } from '@/core/views/result-views'
import { count, day } from '@/ui/book/figures'
import { LineChart } from '@/ui/book/line-chart'

/** What a line of the chart counts. */
export const TREND_LINES = [
  { key: 'listed', title: 'On the list', colour: '--color-ink', dash: [], point: 'circle' },
  { key: 'clear', title: 'Clear', colour: '--color-ochre', dash: [6, 3], point: 'rect' },
  { key: 'contacted', title: 'Contacted', colour: '--color-soft', dash: [2, 3], point: 'triangle' },
  { key: 'answered', title: 'Answered', colour: '--color-verdigris', dash: [], point: 'rectRot' },
  { key: 'optOuts', title: 'Opted out', colour: '--color-madder', dash: [8, 3, 2, 3], point: 'crossRot' },
] as const

/** The rounds of a list as lines of a chart; each point opens its round, and the table beside it says the same. */
export function TrendChart({ rounds }: { rounds: TrendRow[] }) {
  const router = useRouter()
  return (
    <LineChart
      label={`Chart of ${rounds.length} rounds: on the list, clear, contacted, answered and opted out. Left and right go from round to round, Enter opens one.`}
      points={rounds.map((own) => `${own.number}, ${day(own.releasedAt)}`)}
      lines={TREND_LINES.map(({ key, ...line }) => ({ ...line, values: rounds.map((own) => own[key]) }))}
      height={340}
      said={count}
      onOpen={(i) => router.push(`/rounds/${rounds[i].id}/results`)}
    />
  )
}
