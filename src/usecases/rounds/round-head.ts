import { allows } from '@/core/records/list-roles'
import type { RoundHead } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { latestEdition, type ListRow } from '@/db/lists/list-rows'
import type { RoundRow } from '@/db/rounds/round-rows'
import { nameOf } from '@/db/team/colleagues'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'
import { calledOf, stateOf } from './rounds'

/** What a round says of itself, and what this person may do with it. */
export async function roundHead(actor: Actor, round: RoundRow, list: ListRow): Promise<RoundHead> {
  const edition = round.released_at ? await numberById(db(), round.edition_id) : await latestEdition(list.id)
  const by = await nameOf(db(), round.released_by ?? round.started_by)
  return {
    id: round.id,
    number: round.number,
    supplement: round.supplement,
    called: calledOf(round),
    listId: list.id,
    list: list.name,
    state: stateOf(round),
    startedAt: round.started_at.toISOString(),
    releasedAt: round.released_at?.toISOString() ?? null,
    closedAt: round.closed_at?.toISOString() ?? null,
    by: by?.name ?? '',
    edition: edition.number,
    mayRelease: mayCoordinate(actor) && allows(list.role, 'use'),
    mayTake: allows(list.role, 'use'),
  }
}
