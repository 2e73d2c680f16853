import type { PageOfLines } from '@/engine/protocol'
import type { Line } from '@/core/lists/line'
import type { ListIndexRow } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { askEngine, EngineAway } from '@/engine/client'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { expanded, withLastRounds } from './named-lists'
import { momentNow } from '@/usecases/screening/screening-now'
import { latestEdition, type ListRow } from '@/db/lists/list-rows'
import { type Look, lookBeforeRow, lookRow, looksOf, writeLook } from '@/db/lists/list-marks'
import { latestLinesOf } from '@/db/lists/editions'

/** Opening a list again within this long is still the same look, in milliseconds. */
const SAME_LOOK = 30 * 60_000

/**
 * Marks that this person opens a list: who is on it now is what the next look is held against. What was new since the
 * look before stays new while they come and go within half an hour. Gives when that look was.
 */
export async function markLook(actor: Actor, list: ListRow): Promise<Date | null> {
  const at = now()
  const look: Look | undefined = await lookRow(db(), list.id, actor.id)
  if (look && at.getTime() - look.latest_at.getTime() < SAME_LOOK) return look.before_at
  const packed = await membersOf(list).catch((error) => {
    if (error instanceof EngineAway) return null
    throw error
  })
  if (packed) {
    await writeLook(db(), { listId: list.id, actorId: actor.id, look, packed, at })
  }
  return look?.latest_at ?? null
}

async function membersOf(list: ListRow): Promise<Buffer> {
  const page = await expanded((await latestEdition(list.id)).lines)
  const moment = await withLastRounds(momentNow(list.zone), [page])
  return Buffer.from((await askEngine('members', { lines: page.lines, named: page.named, moment })).packed, 'base64')
}

/** Who was on when this person looked before, packed; null where they never did. */
export async function lookBefore(actor: Actor, list: number): Promise<string | null> {
  const look: Pick<Look, 'before'> | undefined = await lookBeforeRow(db(), list, actor.id)
  return look?.before?.toString('base64') ?? null
}

/** What each list holds now, and how many came on since this person last opened it. Empty while the engine is away. */
export async function freshOf(actor: Actor, rows: ListIndexRow[]): Promise<Map<number, { on: number; fresh: number | null }>> {
  if (rows.length === 0) return new Map()
  const editions: { list_id: number; lines: Line[] }[] = await latestLinesOf(
    db(),
    rows.map((r) => r.id),
  )
  const looks = new Map<number, Buffer>((await looksOf(db(), actor.id)).map((l) => [l.list_id, l.latest]))
  try {
    const lists: (PageOfLines & { since: string | null })[] = []
    for (const { list_id, lines } of editions) {
      const page = await expanded(lines)
      lists.push({ lines: page.lines, named: page.named, since: looks.get(list_id)?.toString('base64') ?? null })
    }
    const answer = await askEngine('balances', { lists, moment: await withLastRounds(momentNow(), lists) })
    return new Map(editions.map(({ list_id }, i) => [list_id, answer.lists[i]]))
  } catch (error) {
    if (error instanceof EngineAway) return new Map()
    throw error
  }
}
