import type { PremisesRoundPage } from '@/core/views/premises-round-views'
import { db } from '@/db/connection'
import { fileRows } from '@/db/rounds/round-files'
import { lettersHeld } from '@/db/rounds/premises-round-rows'
import { whoHas } from '@/db/rounds/stopped'
import { releasedBefore } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { choiceOf, premisesRoundFor } from './premises-rounds'
import { roundHead } from './round-head'

/** The page of a round of premises without its figures, which come with `screenPremisesRound`. */
export async function openPremisesRound(actor: Actor, id: number): Promise<PremisesRoundPage> {
  const { round, list } = await premisesRoundFor(actor, id)
  const [file] = await fileRows(db(), id)
  const held = file ? await lettersHeld(db(), id, now()) : new Map<number, unknown>()
  return {
    ...(await roundHead(actor, round, list)),
    choice: choiceOf(round),
    file: file
      ? {
          name: file.name,
          rows: file.rows,
          leftOut: held.size,
          sha256: file.sha256,
          withdrawn: file.withdrawnAt !== null,
          takenBy: (await whoHas(db(), id, [...held.keys()])).map(({ name, at }) => ({ name, at: at.toISOString() })),
        }
      : null,
    earlier: await releasedBefore(db(), round),
  }
}
