import type { PremisesRoundPage } from '@/core/views/premises-round-views'
import { db } from '@/db/connection'
import { fileRows } from '@/db/rounds/frozen-round'
import { lettersHeld } from '@/db/rounds/premises-round-rows'
import { releasedBefore } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { choiceOf, premisesRoundFor } from './premises-rounds'
import { roundHead } from './round-head'

/** The page of a round of premises without its figures, which come with `screenPremisesRound`. */
export async function openPremisesRound(actor: Actor, id: number): Promise<PremisesRoundPage> {
  const { round, list } = await premisesRoundFor(actor, id)
  const [file] = await fileRows(db(), id)
  return {
    ...(await roundHead(actor, round, list)),
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
