'use client'

import {
  CategoryScale,
  Chart,
  type ChartConfiguration,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js'
import { useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import type { TrendRow } from '@/core/views/result-views'
import { count, day } from '@/ui/book/figures'

Chart.register(CategoryScale, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip)

/** What a line of the chart counts. Lines are told apart by colour, dash and the shape of their points. */
export const TREND_LINES = [
  { key: 'listed', title: 'On the list', colour: '--color-ink', dash: [], point: 'circle' },
  { key: 'clear', title: 'Clear', colour: '--color-ochre', dash: [6, 3], point: 'rect' },
  { key: 'contacted', title: 'Contacted', colour: '--color-soft', dash: [2, 3], point: 'triangle' },
  { key: 'answered', title: 'Answered', colour: '--color-verdigris', dash: [], point: 'rectRot' },
  { key: 'optOuts', title: 'Opted out', colour: '--color-madder', dash: [8, 3, 2, 3], point: 'crossRot' },
] as const

/** The rounds of a list as lines of a chart. Left and right go from round to round, Enter opens one; the table beside says the same. */
export function TrendChart({ rounds }: { rounds: TrendRow[] }) {
  const router = useRouter()
  const canvas = useRef<HTMLCanvasElement>(null)
  const chart = useRef<Chart | null>(null)
  const at = useRef(rounds.length - 1)
  useEffect(() => {
    if (!canvas.current) return
    const own = new Chart(
      canvas.current,
      configOf(rounds, getComputedStyle(canvas.current), (i) => router.push(`/rounds/${rounds[i].id}/results`)),
    )
    chart.current = own
    return () => own.destroy()
  }, [rounds, router])
  const show = (i: number) => {
    at.current = Math.min(Math.max(i, 0), rounds.length - 1)
    const active = TREND_LINES.map((_, datasetIndex) => ({ datasetIndex, index: at.current }))
    chart.current?.setActiveElements(active)
    chart.current?.tooltip?.setActiveElements(active, { x: 0, y: 0 })
    chart.current?.update('none')
  }
  return (
    <div className="relative h-[340px]">
      {/* The table beside it holds every figure; the chart is one picture of them. */}
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`Chart of ${rounds.length} rounds: on the list, clear, contacted, answered and opted out. Left and right go from round to round, Enter opens one.`}
        onFocus={() => show(at.current)}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft') show(at.current - 1)
          else if (event.key === 'ArrowRight') show(at.current + 1)
          else if (event.key === 'Enter') router.push(`/rounds/${rounds[at.current].id}/results`)
          else return
          event.preventDefault()
        }}
      />
    </div>
  )
}

function configOf(rounds: TrendRow[], style: CSSStyleDeclaration, open: (i: number) => void): ChartConfiguration<'line'> {
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const font = { family: style.fontFamily, size: 12 }
  return {
    type: 'line',
    data: {
      labels: rounds.map((own) => `${own.number}, ${day(own.releasedAt)}`),
      datasets: TREND_LINES.map((line) => ({
        label: line.title,
        data: rounds.map((own) => own[line.key]),
        borderColor: colour(line.colour),
        backgroundColor: colour(line.colour),
        borderDash: [...line.dash],
        borderWidth: 1.6,
        pointStyle: line.point,
        pointRadius: 4,
        pointHoverRadius: 6,
      })),
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'index', intersect: false },
      onClick: (_, elements) => elements[0] && open(elements[0].index),
      scales: {
        x: { grid: { display: false }, ticks: { font, color: colour('--color-soft') }, border: { color: colour('--color-strong') } },
        y: {
          beginAtZero: true,
          grid: { color: colour('--color-rule') },
          border: { display: false },
          ticks: { font, color: colour('--color-soft'), callback: (value) => count(Number(value)), precision: 0 },
        },
      },
      plugins: {
        legend: { position: 'bottom', labels: { font, color: colour('--color-ink'), usePointStyle: true, boxWidth: 28 } },
        tooltip: {
          bodyFont: font,
          titleFont: font,
          backgroundColor: colour('--color-ink'),
          callbacks: { label: ({ dataset, parsed }) => ` ${dataset.label}: ${count(parsed.y)}` },
        },
      },
    },
  }
}
