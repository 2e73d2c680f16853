import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkedShape } from './area-shape'
import { areaOwner, insertArea } from '@/db/lists/areas'

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
      throw new Refused('Only the owner of an area can redraw it. Save yours under another name.', 'not allowed')
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
