import type { Line } from '@/core/lists/line'
import { allows, type ListRole } from '@/core/records/list-roles'
import type { ListView } from '@/core/views/list-views'
import { dueAfter } from '@/core/calendar/rhythm'
import { openerWishes } from '@/db/rounds/opener-rows'
import { lastRoundDay } from '@/db/rounds/round-rows'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { latestEdition, type ListRow, listWithRole } from '@/db/lists/list-rows'
import { editionLines } from '@/db/lists/editions'
import { placementOf } from '@/db/lists/placement-rows'
import { pinRow } from '@/db/lists/list-marks'
import { namesOf } from '@/db/team/colleagues'
import { draftRow } from '@/db/lists/drafts'

const NEEDED: Record<ListRole, string> = { see: 'see it', use: 'use it', edit: 'edit it' }

/** A list with which this person may do what is needed. One they may not see is as good as none. */
export async function listFor(actor: Actor, id: number, needs: ListRole = 'see', trx: Knex = db(), lock = false): Promise<ListRow> {
  const list: ListRow | undefined = Number.isSafeInteger(id) ? await listWithRole(trx, id, actor.id, lock) : undefined
  if (!list?.role) throw new Refused('There is no such list, or it is private to somebody else.', 'not found')
  if (!allows(list.role, needs))
    throw new Refused(`You may look at “${list.name}”, not ${NEEDED[needs]}. Its owner decides who may.`, 'not allowed')
  return list
}

/** A list with its latest edition, and the draft this person left of it. */
export async function openList(actor: Actor, id: number): Promise<ListView> {
  const list = await listFor(actor, id)
  const edition = await latestEdition(id)
  const draft = await draftRow(db(), id, actor.id)
  const names = new Map((await namesOf(db(), list.owner_id, edition.saved_by)).map((u) => [u.id, u.name]))
  return {
    id: list.id,
    name: list.name,
    shared: list.shared,
    role: list.role,
    labels: list.labels,
    archived: list.archived_at !== null,
    pinned: (await pinRow(db(), id, actor.id)) !== undefined,
    rhythm: list.rhythm,
    due: list.rhythm && dueAfter(list.rhythm, (await lastRoundDay(db(), id, list.zone)) ?? (list.rhythm_from as string)),
    onlyFollow: list.only_follow,
    openers: (await openerWishes(db(), id)).map(({ kind, own }) => ({ kind, own })),
    placement: await placementOf(db(), id),
    mine: list.owner_id === actor.id,
    owner: names.get(list.owner_id) ?? '',
    edition: edition.number,
    savedBy: names.get(edition.saved_by) ?? '',
    savedAt: edition.saved_at.toISOString(),
    lines: edition.lines,
    draft: draft
      ? {
          basedOn: draft.based_on,
          lines: draft.lines,
          basis: draft.based_on === edition.number ? edition.lines : await linesOfEdition(id, draft.based_on),
        }
      : null,
  }
}

/** The lines of one edition of a list. */
export async function linesOfEdition(list: number, number: number, trx: Knex = db()): Promise<Line[]> {
  const edition = await editionLines(trx, list, number)
  if (!edition) throw new Refused(`There is no edition ${number} of this list.`, 'not found')
  return edition.lines
}
