import type { Having } from '@/engine/protocol'
import { readableParts } from './line-parts'
import { randomBytes } from 'node:crypto'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import { type Line, MOST_LINES, type PickLine, subjectOf, validLines } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { db, type Knex } from '@/db/connection'
import { EngineAway } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { idsFound } from '@/usecases/directory/find-people'
import { organisationIdsFound } from '@/usecases/directory/find-organisations'
import { writeDraft } from './drafts'
import { answerFor } from './list-account'
import { listFor } from './open-list'
import { premisesIdsFound } from '@/usecases/directory/premises'
import { checkTaken } from './check-taken'
import { countText } from '@/core/text/written'
import { latestEdition, type ListRow, lockList } from '@/db/lists/list-rows'
import { countLive, firstNames, insertPickSet, peopleOfSet, pickSets } from '@/db/lists/pick-sets'
import { dropHand, handRow, putInHand } from '@/db/lists/in-hand'
import { draftLines, draftRow } from '@/db/lists/drafts'

/** More people than this are not picked at once; a line that asks for them by criteria holds any number. */
export const MOST_PICKED = 200_000

/** The list a person is working on, wherever they are. */
export interface ListInHand {
  id: number
  name: string
  /** What it is of, and so what can be put on it. */
  subject: Subject
}

/** What is put on the list in hand or taken off it. */
export type Found =
  | { of: Subject; ids: number[] }
  /** All that is found in the directory, not just the page in view. */
  | { of: Subject; find: string }
  /** Everybody behind a tab or figure of another list. */
  | { list: number; lines: unknown; view: ListView }

/** What came of putting: onto which list, how many (null for a line that names a list), and the draft as it was before. */
export interface Put {
  list: string
  listId: number
  count: number | null
  before: { basedOn: number; lines: Line[] | null }
}

export async function listInHand(actor: Actor): Promise<ListInHand | null> {
  const row = await handRow(db(), actor.id)
  return row ?? null
}

/** How many the list in hand holds, by what this person last worked on of it; null where nothing is in hand, or the engine is away. */
export async function balanceInHand(actor: Actor): Promise<number | null> {
  const hand = await listInHand(actor)
  if (!hand) return null
  const draft = await draftLines(db(), hand.id, actor.id)
  const lines = draft?.lines ?? (await latestEdition(hand.id)).lines
  try {
    return (await answerFor(actor, { lines, view: { tab: 'on' } }, 0)).answer.total
  } catch (error) {
    if (error instanceof EngineAway) return null
    throw error
  }
}

/** Takes a list in hand, or (null) puts it down. */
export async function takeInHand(actor: Actor, id: number | null): Promise<void> {
  if (id === null) {
    await dropHand(db(), actor.id)
    return
  }
  await listFor(actor, id)
  await putInHand(db(), actor.id, id)
}

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
  if ('list' in found && found.list === list.id) throw new Refused('That is the list in hand itself.')
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

const foundIds = (actor: Actor, of: Subject, find: string): Promise<number[]> =>
  of === 'person'
    ? idsFound(actor, find, MOST_PICKED + 1)
    : of === 'organisation'
      ? organisationIdsFound(actor, find, MOST_PICKED + 1)
      : premisesIdsFound(actor, find, MOST_PICKED + 1)

/** Refuses what cannot be picked at once: nothing, too much, or what is not in the directory any more. */
async function checkPicked(subject: Subject, ids: number[]): Promise<void> {
  if (ids.length === 0) throw new Refused(subject === 'person' ? 'Nobody was chosen.' : 'Nothing was chosen.')
  if (ids.length > MOST_PICKED)
    throw new Refused(
      `More than ${countText(MOST_PICKED)} ${SUBJECT_NAMES[subject]} cannot be picked at once. Narrow it, or say it with a line of criteria.`,
    )
  const live = subject === 'organisation' ? { live: true } : { state: 'live' }
  const known = await countLive(db(), subject, ids, live)
  if (Number(known?.n) !== ids.length)
    throw new Refused(
      `${subject === 'person' ? 'Somebody who' : 'Something that'} was chosen is no longer in the directory. Look again and choose once more.`,
    )
}

const TAB_WORDS: Record<ListView['tab'], string> = {
  on: 'on the list',
  out: 'left out',
  unknown: 'unknown',
  never: 'never on the page',
  new: 'new since the last look',
  moved: 'moved by a line',
}

/** Several sets of picked records as one: what folds pick lines together. */
export async function foldSets(actor: Actor, listId: number, sets: number[]): Promise<{ set: { id: number; count: number } }> {
  await listFor(actor, listId)
  const readable = await readableParts(actor, 'set', sets)
  const rows: { id: number; people: number[] }[] = await pickSets(db(), readable)
  if (rows.length !== new Set(sets).size) throw new Refused('A set that a line names does not exist.')
  const people = [...new Set(sets.flatMap((id) => rows.find((row) => row.id === id)?.people ?? []))]
  if (people.length > MOST_PICKED)
    throw new Refused(`Together they are more than ${countText(MOST_PICKED)}, which is as many as one line can pick.`)
  const [{ id }] = await insertPickSet(db(), people, actor.id)
  return { set: { id, count: people.length } }
}

/** A set of records of a list's subject that somebody picked, with the names of the first of them: what a pick line names. */
export async function pickSet(
  actor: Actor,
  listId: number,
  given: number[] | { lines: unknown; view: ListView; having?: Having | null },
): Promise<{ set: { id: number; count: number }; names: string[]; by: string }> {
  const list = await listFor(actor, listId)
  const found = Array.isArray(given) ? null : await answerFor(actor, given, MOST_PICKED + 1)
  if (found && subjectOf(found.lines) !== list.subject) throw new Refused(`This is a list of ${SUBJECT_NAMES[list.subject]}.`)
  if (found) await checkTaken(actor, list.id, found.lines)
  const ids = found ? found.answer.ids : [...new Set((given as number[]).filter(Number.isSafeInteger))]
  await checkPicked(list.subject, ids)
  const [{ id }] = await insertPickSet(db(), ids, actor.id)
  const names = (await firstNames(db(), list.subject, ids)).map((row) => row.name)
  return { set: { id, count: ids.length }, names, by: actor.name }
}

async function pick(trx: Knex, actor: Actor, list: ListRow, side: 'in' | 'out', ids: number[], reason: string): Promise<Put['before']> {
  const { lines, basedOn, drafted } = await draftOf(trx, actor, list)
  const last = lines[lines.length - 1]
  const shares =
    last?.verb === 'pick' && !last.off && last.side === side && last.by === actor.name && last.reason === reason && last.until === null
  const before: number[] = shares ? (await peopleOfSet(trx, last.set.id)).people : []
  const people = [...new Set([...before, ...ids])]
  const [{ id }] = await insertPickSet(trx, people, actor.id)
  const names = (await firstNames(trx, list.subject, people)).map((p) => p.name)
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
  await writeDraft(trx, actor, list.id, basedOn, checked([...(shares ? lines.slice(0, -1) : lines), line]))
  return { basedOn, lines: drafted ? lines : null }
}

async function addLine(actor: Actor, list: ListRow, line: Line): Promise<Put['before']> {
  return db().transaction(async (trx) => {
    const { lines, basedOn, drafted } = await draftOf(trx, actor, list)
    await writeDraft(trx, actor, list.id, basedOn, checked([...lines, line]))
    return { basedOn, lines: drafted ? lines : null }
  })
}

/** What this person last worked on of a list: their draft, else the latest edition. */
async function draftOf(trx: Knex, actor: Actor, list: ListRow): Promise<{ lines: Line[]; basedOn: number; drafted: boolean }> {
  await lockList(trx, list.id)
  const draft = await draftRow(trx, list.id, actor.id)
  if (draft) return { lines: draft.lines, basedOn: draft.based_on, drafted: true }
  const { lines, number } = await latestEdition(list.id, trx)
  return { lines, basedOn: number, drafted: false }
}

function checked(lines: Line[]): Line[] {
  if (lines.length > MOST_LINES)
    throw new Refused(`The list in hand has ${MOST_LINES} lines, which is as many as it can hold. Take one away first.`)
  return validLines(lines)
}

const lineId = () => randomBytes(5).toString('hex')
