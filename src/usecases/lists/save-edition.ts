import { SUBJECT_NAMES } from '@/core/records/subject'
import { type Line, subjectOf } from '@/core/lists/line'
import { db, type Knex } from '@/db/connection'
import { askEngine, EngineAway } from '@/engine/client'
import { log } from '@/runtime/log'
import { type Actor, Refused } from '@/usecases/team/actor'
import { momentNow } from '@/usecases/screening/screening-now'
import { checkNames, expanded, withLastRounds } from './named-lists'
import { settleHeld } from './settle-held'
import { withTrueNames } from './true-names'
import { linesOfEdition, listFor } from './open-list'
import { signedLine, validPage } from './signed-lines'
import { latestEdition } from '@/db/lists/list-rows'
import { holdParts } from '@/db/lists/line-parts'
import { insertEditionRow, linesBefore } from '@/db/lists/editions'
import { deleteDraft } from '@/db/lists/drafts'
import { nameOf } from '@/db/team/colleagues'

export interface Saving {
  why?: string
  /** Whether what this person worked on ends with it: it stays where the lines are not theirs. */
  draft?: 'ends' | 'stays'
  /** The proposal the lines come from, which must still wait. */
  taking?: number
  /** What is written with it, in its transaction. */
  also?: (trx: Knex) => Promise<void>
}

/** What comes of saving: the number of the new edition, or what somebody else saved in the meantime. */
export type Saved = { edition: number } | { theirs: { edition: number; by: string; lines: Line[]; basis: Line[] } }

/**
 * Saves lines as the next edition. `basedOn` is the edition they were worked on from: where somebody saved another one
 * since, nothing is written and theirs comes back, with the lines both began from.
 */
export async function saveEdition(
  actor: Actor,
  id: number,
  basedOn: number,
  lines: unknown,
  { why = '', draft = 'ends', taking, also }: Saving = {},
): Promise<Saved> {
  const checked = validPage(lines)
  const { zone } = await listFor(actor, id, 'edit')
  const balance = await balanceOf(actor, checked, zone)
  return db().transaction(async (trx) => {
    await listFor(actor, id, 'edit', trx, true)
    const latest = await latestEdition(id, trx)
    if (latest.number !== basedOn) {
      const by = await nameOf(trx, latest.saved_by)
      return {
        theirs: { edition: latest.number, by: by?.name ?? 'Somebody', lines: latest.lines, basis: await linesOfEdition(id, basedOn, trx) },
      }
    }
    if (subjectOf(checked) !== subjectOf(latest.lines))
      throw new Refused(
        `This is a list of ${SUBJECT_NAMES[subjectOf(latest.lines)]} and stays one. Make another list for ${SUBJECT_NAMES[subjectOf(checked)]}.`,
      )
    await checkNames(actor, id, checked, latest.lines, trx)
    await insertEdition(trx, actor, id, latest.number + 1, checked, balance, why)
    await settleHeld(trx, actor, id, latest.number + 1, checked, taking)
    if (draft === 'ends') await deleteDraft(trx, id, actor.id)
    await also?.(trx)
    return { edition: latest.number + 1 }
  })
}

/** Writes an edition with the balance its lines had just before. Runs in the caller's transaction. */
export async function insertEdition(
  trx: Knex,
  actor: Actor,
  list: number,
  number: number,
  lines: Line[],
  balance: number | null,
  why = '',
): Promise<void> {
  const standing = (await linesBefore(trx, list, number))?.lines ?? []
  const signed = await withTrueNames(
    actor,
    lines.map((line) => signedLine(line, actor)),
    standing,
    trx,
  )
  await holdParts(trx, list, signed)
  await insertEditionRow(trx, { list, number, signed, balance, why, actorId: actor.id })
}

/**
 * How many are on a list of some lines now, asked before the transaction that saves them, since the engine may take its time. Null where
 * it has no answer: it is away, or the lines name what they cannot, which saving then tells.
 */
export async function balanceOf(actor: Actor, lines: Line[], zone: string): Promise<number | null> {
  try {
    const page = await expanded(
      lines.map((line) => signedLine(line, actor)),
      {},
    )
    const moment = await withLastRounds(momentNow(zone), [page])
    const answer = await askEngine('list', { ...page, moment, view: { tab: 'on' }, page: { offset: 0, limit: 0 } })
    return answer.figures.totals.balance
  } catch (error) {
    if (!(error instanceof EngineAway || error instanceof Refused))
      log.warn({ message: (error as Error).message }, 'lines about to be saved have no balance')
    return null
  }
}
