/** How far a stone of a round is: done, the one in hand, or still to come. */
export type StoneState = 'done' | 'now' | 'to come'

export interface Stone {
  title: string
  state: StoneState
  href?: string
}

const FILL: Record<StoneState, string> = {
  done: 'var(--color-verdigris)',
  now: 'var(--color-ochre-wash)',
  'to come': 'var(--color-wash)',
}
const EDGE: Record<StoneState, string> = {
  done: 'var(--color-verdigris)',
  now: 'var(--color-ochre)',
  'to come': 'var(--color-strong)',
}

/** A round as an arch of seven stones, the fourth its keystone. Stones that lead somewhere are links. */
export function Arch({ stones, width = 134 }: { stones: Stone[]; width?: number }) {
  const said = stones.map((s) => `${s.title} ${s.state}`).join(', ')
  return (
    <svg
      className="shrink-0"
      width={width}
      height={(width * 78) / 134}
      viewBox="0 0 134 78"
      role="group"
      aria-label={`The round as an arch: ${said}`}
    >
      {stones.map((stone, i) => {
        const key = i === 3
        const shape = (
          <path
            key={stone.title}
            d={wedge(i, stones.length, key ? 72 : 66, key ? 36 : 40)}
            fill={FILL[stone.state]}
            stroke={key ? 'var(--color-madder)' : EDGE[stone.state]}
            strokeWidth={key ? 1.6 : 1.2}
          />
        )
        return stone.href ? (
          <a key={stone.title} href={stone.href} aria-label={`${stone.title}: ${stone.state}`}>
            {shape}
          </a>
        ) : (
          <g key={stone.title}>{shape}</g>
        )
      })}
    </svg>
  )
}

/** The outline of stone i of n between two radii, springing from the left. */
function wedge(i: number, n: number, outer: number, inner: number): string {
  const gap = 0.025
  const a = Math.PI - (Math.PI * i) / n - gap
  const b = Math.PI - (Math.PI * (i + 1)) / n + gap
  const at = (angle: number, r: number) => `${(67 + r * Math.cos(angle)).toFixed(1)} ${(75 - r * Math.sin(angle)).toFixed(1)}`
  return `M${at(a, inner)} L${at(a, outer)} A${outer} ${outer} 0 0 1 ${at(b, outer)} L${at(b, inner)} A${inner} ${inner} 0 0 0 ${at(a, inner)} Z`
}
