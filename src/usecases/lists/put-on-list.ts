import { randomBytes } from 'node:crypto'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import { type Line, MOST_LINES, type PickLine, validLines } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { idsFound } from '@/usecases/directory/find-people'
import { organisationIdsFound } from '@/usecases/directory/find-organisations'
import { writeDraft } from './drafts'
import { answerFor } from './list-account'
import { listFor } from './open-list'
import { latestEdition, type ListRow, lockList } from '@/db/lists/list-rows'
import { firstNames, insertPickSet, peopleOfSet } from '@/db/lists/pick-sets'
import { draftRow } from '@/db/lists/drafts'
import { premisesIdsFound } from '@/usecases/directory/find-premises'
import { checkPicked, type Found, listInHand, MOST_PICKED, type Put } from './list-in-hand'

/**
 * Puts records on the list in hand, or takes them off it, as a line of this person's draft: everything on another list
 * as a line that names it, everything else as a pick line. Picks of one kind that follow each other share a line. Gives
 * how many were picked, and the draft as it was, so that it can be had back. Throws Refused where the list is of something
 * else.
 */
export async function putOnList(actor: Actor, side: 'in' | 'out', found: Found, reason = ''): Promise<Put> {
  const hand = await listInHand(actor)
  if (!hand) throw new Refused('There is no list in hand. Open a list and take it in hand first.')
  const list = await listFor(actor, hand.id)
  const other = 'list' in found ? await listFor(actor, found.list, 'use') : null
  const of = 'list' in found ? (other as ListRow).subject : found.of
  if (list.subject !== of)
    throw new Refused(`The list in hand, “${list.name}”, is of ${SUBJECT_NAMES[list.subject]}: ${SUBJECT_NAMES[of]} cannot be put on it.`)
  if ('list' in found && found.list === list.id) throw new Refused('This is the list in hand. Choose another list.')
  if (other && 'list' in found && found.view.tab === 'on') {
    if (list.shared && !other.shared)
      throw new Refused(`“${list.name}” is shared and cannot name “${other.name}”, which is private. Share that one first.`)
    const before = await addLine(actor, list, {
      id: lineId(),
      verb: side === 'in' ? 'add' : 'drop',
      off: false,
      unknownAsYes: false,
      criterion: { kind: 'list', list: { id: other.id, name: other.name }, edition: null },
    })
    return { list: list.name, listId: list.id, count: null, before }
  }
  const ids =
    'ids' in found
      ? [...new Set(found.ids)]
      : 'find' in found
        ? await foundIds(actor, found.of, found.find)
        : (await answerFor(actor, found, MOST_PICKED + 1)).answer.ids
  // What a line of picks says of where they came from, so that it can be read later, by others too: a private list is not named.
  const from =
    reason.trim() ||
    ('find' in found
      ? found.find.trim() === ''
        ? 'all of the directory'
        : `found in the directory: ${found.find.trim()}`
      : other && 'list' in found
        ? `from ${other.shared ? `“${other.name}”` : 'a private list'}, ${TAB_WORDS[found.view.tab]}`
        : '')
  await checkPicked(list.subject, ids)
  const before = await db().transaction((trx) => pick(trx, actor, list, side, ids, from.slice(0, 200)))
  return { list: list.name, listId: list.id, count: ids.length, before }
}

/** Returns the ids of the records of a subject that a search finds, up to one more than may be picked. */
export const foundIds = (actor: Actor, of: Subject, find: string): Promise<number[]> =>
  of === 'person'
    ? idsFound(actor, find, MOST_PICKED + 1)
    : of === 'organisation'
      ? organisationIdsFound(actor, find, MOST_PICKED + 1)
      : premisesIdsFound(actor, find, MOST_PICKED + 1)

export const TAB_WORDS: Record<ListView['tab'], string> = {
  on: 'on the list',
  out: 'left out',
  unknown: 'unknown',
  never: 'never on the page',
  new: 'new since the last look',
  moved: 'moved by a line',
}

/** Picks records onto a list in hand or off it, in the draft, and returns the draft before for the undo. */
export async function pick(
  trx: Knex,
  actor: Actor,
  list: ListRow,
  side: 'in' | 'out',
  ids: number[],
  reason: string,
): Promise<Put['before']> {
  const { lines, basedOn, drafted } = await draftOf(trx, actor, list)
  await writeDraft(trx, actor, list.id, basedOn, await withPicks(trx, actor, list.subject, lines, side, ids, reason))
  return { basedOn, lines: drafted ? lines : null }
}

/** Lines with some records picked: picks of one kind that follow each other share a line. */
export async function withPicks(
  trx: Knex,
  actor: Actor,
  of: Subject,
  lines: readonly Line[],
  side: 'in' | 'out',
  ids: readonly number[],
  reason: string,
): Promise<Line[]> {
  const last = lines[lines.length - 1]
  const shares =
    last?.verb === 'pick' && !last.off && last.side === side && last.by === actor.name && last.reason === reason && last.until === null
  const before: number[] = shares ? (await peopleOfSet(trx, last.set.id)).people : []
  const people = [...new Set([...before, ...ids])]
  const [{ id }] = await insertPickSet(trx, people, actor.id)
  const names = (await firstNames(trx, of, people)).map((p) => p.name)
  const line: PickLine = {
    id: shares ? last.id : lineId(),
    verb: 'pick',
    off: false,
    side,
    set: { id, count: people.length },
    names,
    reason,
    until: null,
    by: actor.name,
  }
  return checked([...(shares ? lines.slice(0, -1) : lines), line])
}

/** Adds a line to the draft of a list in hand, and returns the draft before for the undo. */
export async function addLine(actor: Actor, list: ListRow, line: Line): Promise<Put['before']> {
  return db().transaction(async (trx) => {
    const { lines, basedOn, drafted } = await draftOf(trx, actor, list)
    await writeDraft(trx, actor, list.id, basedOn, checked([...lines, line]))
    return { basedOn, lines: drafted ? lines : null }
  })
}

/** What this person last worked on of a list: their draft, else the latest edition. */
export async function draftOf(trx: Knex, actor: Actor, list: ListRow): Promise<{ lines: Line[]; basedOn: number; drafted: boolean }> {
  await lockList(trx, list.id)
  const draft = await draftRow(trx, list.id, actor.id)
  if (draft) return { lines: draft.lines, basedOn: draft.based_on, drafted: true }
  const { lines, number } = await latestEdition(list.id, trx)
  return { lines, basedOn: number, drafted: false }
}

/** Checks the lines of a list in hand. Refuses more than a list can hold. */
export function checked(lines: Line[]): Line[] {
  if (lines.length > MOST_LINES)
    throw new Refused(`The list in hand has ${MOST_LINES} lines, which is as many as it can hold. Take one away first.`)
  return validLines(lines)
}

/** Returns an id for a new line. */
export const lineId = () => randomBytes(5).toString('hex')
