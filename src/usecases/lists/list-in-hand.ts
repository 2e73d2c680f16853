import type { Having } from '@/engine/protocol'
import { readableParts } from './line-parts'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import { type Line, subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { db } from '@/db/connection'
import { EngineAway } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { answerFor } from './list-account'
import { listFor } from './open-list'
import { checkTaken } from './check-taken'
import { countText } from '@/core/text/written'
import { latestEdition } from '@/db/lists/list-rows'
import { countLive, firstNames, insertPickSet, pickSets } from '@/db/lists/pick-sets'
import { handRow } from '@/db/lists/in-hand'
import { draftLines } from '@/db/lists/drafts'

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

/** Returns the list that whoever acts has in hand; null where they have none. */
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

/** Refuses what cannot be picked at once: nothing, too much, or what is not in the directory any more. */
export async function checkPicked(subject: Subject, ids: number[]): Promise<void> {
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
