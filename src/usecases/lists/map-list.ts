import type { AnswerTo } from '@/engine/protocol'
import type { ListView } from '@/core/lists/view'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { preparedLines } from './list-account'
import { checkedShape } from './area-shape'

/** Where those behind a tab or figure of some lines lie, and how many of them in a shape that is being drawn. */
export async function mapList(
  actor: Actor,
  ask: { lines: unknown; view: ListView; box: [number, number, number, number]; columns: number; shape?: unknown },
  signal?: AbortSignal,
): Promise<AnswerTo<'map'>> {
  const prepared = await preparedLines(actor, ask.lines)
  const box = ask.box.map(Number) as MapBox
  if (box.length !== 4 || box.some((side) => !Number.isFinite(side))) throw new Refused('The part of the map cannot be read.')
  return askEngine(
    'map',
    { ...prepared, view: ask.view, box, columns: Number(ask.columns) || 40, shape: ask.shape ? checkedShape(ask.shape) : null },
    signal,
  )
}

export type MapBox = [number, number, number, number]
