import { allows } from '@/core/records/list-roles'
import type { PremisesRoundPage } from '@/core/views/premises-round-views'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { latestEdition } from '@/db/lists/list-rows'
import { fileRows } from '@/db/rounds/frozen-round'
import { lettersHeld } from '@/db/rounds/premises-round-rows'
import { releasedBefore } from '@/db/rounds/round-rows'
import { nameOf } from '@/db/team/colleagues'
import { now } from '@/runtime/clock'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'
import { choiceOf, premisesRoundFor } from './premises-rounds'
import { stateOf } from './rounds'

/** The page of a round of premises without its figures, which come with `screenPremisesRound`. */
export async function openPremisesRound(actor: Actor, id: number): Promise<PremisesRoundPage> {
  const { round, list } = await premisesRoundFor(actor, id)
  const edition = round.released_at ? await numberById(db(), round.edition_id) : await latestEdition(list.id)
  const by = await nameOf(db(), round.released_by ?? round.started_by)
  const [file] = await fileRows(db(), id)
  return {
    id,
    number: round.number,
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
    choice: choiceOf(round),
    file: file
      ? {
          name: file.name,
          rows: file.rows,
          leftOut: (await lettersHeld(db(), id, now())).size,
          sha256: file.sha256,
          withdrawn: file.withdrawnAt !== null,
        }
      : null,
    earlier: await releasedBefore(db(), round),
  }
}
