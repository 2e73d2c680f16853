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
import { useEffect, useRef } from 'react'

Chart.register(CategoryScale, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip)

/** A line of a chart. Lines are told apart by colour, dash and the shape of their points. */
export interface ChartLine {
  title: string
  /** A colour of the theme. */
  colour: string
  dash: readonly number[]
  point: 'circle' | 'rect' | 'triangle' | 'rectRot' | 'crossRot' | false
  values: readonly (number | null)[]
}

/**
 * Lines over some points. Left and right go from point to point, and Enter opens one, where they can be opened. A chart is one picture of
 * figures: the table beside it holds every one of them.
 */
export function LineChart({
  label,
  points,
  lines,
  height,
  most,
  said,
  onOpen,
}: {
  label: string
  points: readonly string[]
  lines: readonly ChartLine[]
  /** In pixels. */
  height: number
  /** The top of the scale; the largest value where it is not said. */
  most?: number
  said: (value: number) => string
  onOpen?: (i: number) => void
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const chart = useRef<Chart | null>(null)
  const at = useRef(points.length - 1)
  const open = useRef(onOpen)
  const drawn = JSON.stringify({ points, lines, most })
  useEffect(() => {
    open.current = onOpen
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn stands in one text
  useEffect(() => {
    if (!canvas.current) return
    at.current = points.length - 1
    const own = new Chart(
      canvas.current,
      configOf({ points, lines, most, said }, getComputedStyle(canvas.current), (i) => open.current?.(i)),
    )
    chart.current = own
    return () => own.destroy()
  }, [drawn])
  const show = (i: number) => {
    at.current = Math.min(Math.max(i, 0), points.length - 1)
    const active = lines.map((_, datasetIndex) => ({ datasetIndex, index: at.current }))
    chart.current?.setActiveElements(active)
    chart.current?.tooltip?.setActiveElements(active, { x: 0, y: 0 })
    chart.current?.update('none')
  }
  return (
    <div className="relative" style={{ height }}>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={label}
        onFocus={() => show(at.current)}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft') show(at.current - 1)
          else if (event.key === 'ArrowRight') show(at.current + 1)
          else if (event.key === 'Enter' && onOpen) onOpen(at.current)
          else return
          event.preventDefault()
        }}
      />
    </div>
  )
}

function configOf(
  { points, lines, most, said }: { points: readonly string[]; lines: readonly ChartLine[]; most?: number; said: (value: number) => string },
  style: CSSStyleDeclaration,
  open: (i: number) => void,
): ChartConfiguration<'line'> {
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const font = { family: style.fontFamily, size: 12 }
  return {
    type: 'line',
    data: {
      labels: [...points],
      datasets: lines.map((line) => ({
        label: line.title,
        data: [...line.values],
        borderColor: colour(line.colour),
        backgroundColor: colour(line.colour),
        borderDash: [...line.dash],
        borderWidth: 1.6,
        pointStyle: line.point || 'line',
        pointRadius: line.point ? 4 : 0,
        pointHoverRadius: line.point ? 6 : 3,
      })),
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'index', intersect: false },
      onClick: (_, elements) => elements[0] && open(elements[0].index),
      scales: {
        x: {
          grid: { display: false },
          ticks: { font, color: colour('--color-soft'), maxRotation: 0, autoSkip: true },
          border: { color: colour('--color-strong') },
        },
        y: {
          beginAtZero: true,
          ...(most === undefined ? {} : { max: most }),
          grid: { color: colour('--color-rule') },
          border: { display: false },
          ticks: {
            font,
            color: colour('--color-soft'),
            callback: (value) => said(Number(value)),
            ...(most === undefined ? { precision: 0 } : {}),
          },
        },
      },
      plugins: {
        legend: { position: 'bottom', labels: { font, color: colour('--color-ink'), usePointStyle: true, boxWidth: 28 } },
        tooltip: {
          bodyFont: font,
          titleFont: font,
          backgroundColor: colour('--color-ink'),
          callbacks: { label: ({ dataset, parsed }) => ` ${dataset.label}: ${said(parsed.y ?? 0)}` },
        },
      },
    },
  }
}
