'use client'

import { useState } from 'react'
import type { AreaShape } from '@/core/areas/shape'
import type { Line } from '@/core/lists/line'
import type { Box, MapPoint } from './area-map'
import { useAsked } from '@/ui/book/asking'
import { useSettled } from '@/ui/book/use-answer'

/** How long after a movement of the map or a drawing they are counted, in milliseconds. */
const PAUSE = 80

/** Where the records of some lines lie, and how many an area of what is drawn would have in it. */
export interface MapFound {
  points: MapPoint[]
  placed: number
  total: number
  inShape: number | null
}

/** Whether an area has nothing drawn in it. */
export const isNothing = ({ polygons, circles, streets }: AreaShape): boolean => polygons.length + circles.length + streets.length === 0

/** Counts anew while a shape is drawn or the part of the map in view changes; what is wrong with a shape is told. */
export function useMapCount(
  lines: Line[],
  shape: AreaShape,
): { found: MapFound | null; told: string | null; onBox: (box: Box, columns: number) => void } {
  const [box, setBox] = useState<{ box: Box; columns: number } | null>(null)
  const now = JSON.stringify([box, isNothing(shape) ? null : shape])
  const settled = useSettled(now, PAUSE)
  const [seen, drawn] = JSON.parse(settled)
  const { answer, held, told } = useAsked<MapFound>(
    seen === null ? null : ['/api/list-map', { lines, view: { tab: 'on' }, ...seen, shape: drawn }],
    { hold: true },
  )
  // Points stay until the new ones are there; the figure of another shape does not.
  const found = answer ? { ...answer, inShape: held || settled !== now ? null : answer.inShape } : null
  return { found, told, onBox: (next, columns) => setBox({ box: next, columns }) }
}
