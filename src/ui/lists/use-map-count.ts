'use client'

import { useEffect, useState } from 'react'
import type { AreaShape } from '@/core/areas/shape'
import type { Line } from '@/core/lists/line'
import type { Box, MapPoint } from './area-map'
import { ask, Told } from '@/ui/book/ask'

/** Where the records of some lines lie, and how many an area of what is drawn would have in it. */
export interface MapFound {
  points: MapPoint[]
  placed: number
  total: number
  inShape: number | null
}

export const isNothing = ({ polygons, circles, streets }: AreaShape): boolean => polygons.length + circles.length + streets.length === 0

/** Counts anew while a shape is drawn or the part of the map in view changes; what is wrong with a shape is told. */
export function useMapCount(
  lines: Line[],
  shape: AreaShape,
  tell: (text: string | null) => void,
): { found: MapFound | null; onBox: (box: Box, columns: number) => void } {
  const [box, setBox] = useState<{ box: Box; columns: number } | null>(null)
  const [found, setFound] = useState<MapFound | null>(null)
  const asked = JSON.stringify([box, shape])
  // biome-ignore lint/correctness/useExhaustiveDependencies: `asked` stands for the box and the shape
  useEffect(() => {
    if (!box) return
    const abort = new AbortController()
    const timer = setTimeout(() => {
      ask<MapFound>('/api/list-map', { lines, view: { tab: 'on' }, ...box, shape: isNothing(shape) ? null : shape }, abort.signal).then(
        (answer) => {
          setFound(answer)
          tell(null)
        },
        (error) => error instanceof Told && tell(error.message),
      )
    }, 80)
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [asked])
  return { found, onBox: (next, columns) => setBox({ box: next, columns }) }
}
