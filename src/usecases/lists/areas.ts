import type { AnswerTo } from '@/engine/protocol'
import type { AreaShape } from '@/core/areas/shape'
import { type Subject, SUBJECTS } from '@/core/records/subject'
import { subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import type { AreaView } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { readableParts } from './line-parts'
import { preparedLines } from './list-account'
import { checkedShape } from './area-shape'
import { mapSetting } from '@/db/team/settings'
import { archiveArea, areaOwner, areaShapes, insertArea, namedAreas } from '@/db/lists/areas'

/** Areas this person may name: those with a name that nobody drew anew since, shared or their own. */
export async function listAreas(actor: Actor): Promise<AreaView[]> {
  const rows = await namedAreas(db(), actor.id)
  return rows.map((a) => ({
    id: a.id,
    name: a.name,
    shape: a.shape,
    shared: a.shared,
    mine: a.owner_id === actor.id,
    owner: a.owner ?? '',
    at: a.created_at.toISOString(),
  }))
}

/** The shapes of some areas, whether they have a name or were drawn for a line alone. */
export async function areasOf(actor: Actor, ids: number[]): Promise<{ id: number; name: string; shape: AreaShape }[]> {
  return areaShapes(db(), await readableParts(actor, 'area', ids))
}

/**
 * Keeps an area. One that takes the place of another is a new one, and lines that name the other go on with it as it was:
 * only its owner may draw it anew. Without a name it belongs to the line it was drawn for.
 */
export async function keepArea(
  actor: Actor,
  asked: { name: string; shape: unknown; shared: boolean; named: boolean; replaces?: number | null },
): Promise<{ id: number; name: string }> {
  const shape = checkedShape(asked.shape)
  const name = String(asked.name).trim().replace(/\s+/g, ' ') || 'an area drawn here'
  if (name.length > 120) throw new Refused('Give the area a name of at most 120 letters.')
  if (asked.replaces) {
    const old = await areaOwner(db(), asked.replaces)
    if (!old || old.owner_id !== actor.id)
      throw new Refused('Only whose area it is can draw it anew. Keep yours under another name.', 'not allowed')
  }
  const [made] = await insertArea(db(), {
    name,
    shape,
    askedShared: asked.shared,
    askedNamed: asked.named,
    askedReplaces: asked.replaces,
    actorId: actor.id,
  })
  return made
}

/** Puts an area away: it is offered no more, and lines that name it go on with it. */
export async function putAreaAway(actor: Actor, id: number, away: boolean): Promise<void> {
  const changed = await archiveArea(db(), id, actor.id, away)
  if (changed === 0) throw new Refused('There is no such area of yours.', 'not found')
}

/** The map the team works over, as GeoJSON; nothing where none was given. */
export async function baseMap(_actor: Actor): Promise<string> {
  const row = await mapSetting(db())
  return row?.value ?? '{"type":"FeatureCollection","features":[]}'
}

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

type MapBox = [number, number, number, number]

/** Streets whose name is likest to what was typed. */
export async function findStreet(
  _actor: Actor,
  ask: { subject?: Subject; lines?: unknown; typed: string },
  signal?: AbortSignal,
): Promise<AnswerTo<'streets'>> {
  const subject = SUBJECTS.find((s) => s === ask.subject) ?? (Array.isArray(ask.lines) ? subjectOf(ask.lines) : 'person')
  return askEngine('streets', { subject, typed: String(ask.typed).slice(0, 120) }, signal)
}
