'use client'

import { Circle, Hand, Pentagon, SquareDashed, Waypoints } from 'lucide-react'
import type { Tool } from './area-map'

const TOOLS: [Tool, string, typeof Hand][] = [
  ['look', 'Look around', Hand],
  ['polygon', 'Polygon: click its corners, the last one twice', Pentagon],
  ['hole', 'Hole: a polygon inside another', SquareDashed],
  ['circle', 'Circle: click its centre, then its edge', Circle],
  ['corners', 'Move corners', Waypoints],
]

/** What a press on the map does. */
export function AreaTools({ tool, onTool }: { tool: Tool; onTool: (tool: Tool) => void }) {
  return (
    <fieldset className="flex flex-wrap gap-1" aria-label="On the map">
      {TOOLS.map(([own, title, Icon]) => (
        <button
          key={own}
          type="button"
          aria-pressed={tool === own}
          title={title}
          className={`button ${tool === own ? 'button-main' : ''}`}
          onClick={() => onTool(own)}
        >
          <Icon size={15} aria-hidden="true" /> {title.split(':')[0]}
        </button>
      ))}
    </fieldset>
  )
}
