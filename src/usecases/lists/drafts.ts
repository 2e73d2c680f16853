import { type Line, samePage, validLines } from '@/core/lists/line'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { deleteDraft, draftLines, lockDraft, putDraft } from '@/db/lists/drafts'

/**
 * Keeps what somebody works on and has not saved, so that leaving the page, or losing it, loses nothing and it can be
 * gone on with anywhere. `lines` null drops it. A line that is not whole yet is kept as it is by the screen, not here.
 * `over` is what the page that asks takes for kept so far (null: nothing): where another page of theirs kept something else since,
 * nothing is changed and what is kept is given; without it, it is kept all the same.
 */
export async function keepDraft(
  actor: Actor,
  id: number,
  basedOn: number,
  lines: unknown,
  over?: unknown,
): Promise<{ elsewhere: boolean; kept?: Line[] | null }> {
  await listFor(actor, id)
  const draft = lines === null ? null : checked(lines)
  const known = over === undefined || over === null ? over : checked(over)
  return db().transaction(async (trx) => {
    await lockDraft(trx, id, actor.id)
    if (known !== undefined) {
      const kept: Line[] | null = (await draftLines(trx, id, actor.id))?.lines ?? null
      const same = (a: Line[] | null, b: Line[] | null) => (a === null || b === null ? a === b : samePage(a, b))
      if (!same(kept, known) && !same(kept, draft)) return { elsewhere: true, kept }
    }
    // A draft that says what the latest edition says, as one that arrives after it was saved, is none.
    if (draft === null || samePage(draft, (await latestEdition(id, trx)).lines)) await deleteDraft(trx, id, actor.id)
    else await writeDraft(trx, actor, id, basedOn, draft)
    return { elsewhere: false }
  })
}

/** Writes the draft of whoever acts, replacing the one before. */
export async function writeDraft(trx: Knex, actor: Actor, id: number, basedOn: number, lines: Line[]): Promise<void> {
  await putDraft(trx, id, actor.id, basedOn, lines)
}

function checked(lines: unknown): Line[] {
  try {
    return validLines(lines)
  } catch (error) {
    throw new Refused(`The draft was not kept: ${(error as Error).message}.`)
  }
}
