'use server'

import { revalidatePath } from 'next/cache'
import { redirect } from 'next/navigation'
import type { ListView } from '@/core/lists/view'
import { keepDraft } from '@/usecases/drafts'
import { type Found, foldSets, pickSet, putOnList, takeInHand } from '@/usecases/list-in-hand'
import { type Mark, type Marked, markPeople } from '@/usecases/mark-people'
import { undoAct } from '@/usecases/undo-act'
import { type Subject, SUBJECTS } from '@/core/columns/subject'
import { putAreaAway } from '@/usecases/areas'
import { keepTable } from '@/usecases/list-tables'
import { STARTING_LISTS } from '@/core/lists/starting'
import { archiveList, copyList, createList, goBackTo, labelList, pinList, deleteList, renameList, restoreList, saveEdition, startLine } from '@/usecases/lists'
import { commentOn, settleComments } from '@/usecases/line-comments'
import { leaveProposal, propose, readDecision, takeBackProposal, takeProposal } from '@/usecases/proposals'
import { startRound } from '@/usecases/rounds'
import { handOver, shareList } from '@/usecases/share-list'
import { act } from '../../answer'

/** `begin` is a subject, or the name of one of the lists to begin with. */
export async function newList(name: string, shared: boolean, begin = 'person') {
  const ready = STARTING_LISTS.find((l) => l.name === begin)
  return act((who) => createList(who, name, shared, ready ? ready.lines : [startLine(SUBJECTS.find((s) => s === begin) ?? 'person')]))
}

export async function saveList(id: number, basedOn: number, lines: unknown, why = '') {
  return act((who) => saveEdition(who, id, basedOn, lines, { why: String(why) }))
}

export async function table(id: number, columns: unknown) {
  return act((who) => keepTable(who, id, columns))
}

/** A new list of some lines, as a profile makes them. */
export async function newListOf(name: string, shared: boolean, lines: unknown) {
  return act((who) => createList(who, name, shared, lines as never))
}

export async function goBack(id: number, edition: number) {
  return act((who) => goBackTo(who, id, Number(edition)))
}

export async function shelve(id: number, to: { archived?: boolean; pinned?: boolean; labels?: string[] }) {
  const result = await act(async (who) => {
    if (to.archived !== undefined) await archiveList(who, id, to.archived)
    if (to.pinned !== undefined) await pinList(who, id, to.pinned)
    if (to.labels !== undefined) await labelList(who, id, to.labels)
  })
  revalidatePath('/lists')
  return result
}

export async function areaAway(id: number, away: boolean) {
  return act((who) => putAreaAway(who, id, away))
}

export async function picks(id: number, ids: number[]) {
  return act((who) => pickSet(who, id, ids.map(Number)))
}

export async function fold(id: number, sets: number[]) {
  return act((who) => foldSets(who, id, sets.map(Number)))
}

export async function mark(marked: Marked, what: Mark) {
  return act((who) => markPeople(who, marked, what))
}

export async function unmark(id: number) {
  return act((who) => undoAct(who, Number(id)))
}

export async function draft(id: number, basedOn: number, lines: unknown) {
  return act((who) => keepDraft(who, id, basedOn, lines))
}

export async function inHand(id: number | null) {
  const result = await act((who) => takeInHand(who, id))
  revalidatePath('/', 'layout')
  return result
}

/** What a page sends of what was found or chosen on it. */
export type FoundInput = { of: Subject; ids: number[] } | { of: Subject; find: string } | { list: number; lines: unknown; view: ListView }

export async function putOn(side: 'in' | 'out', found: FoundInput, reason = '') {
  return act((who) => putOnList(who, side === 'out' ? 'out' : 'in', checkedFound(found), String(reason)))
}

function checkedFound(found: FoundInput): Found {
  if ('list' in found) return { list: Number(found.list), lines: found.lines, view: found.view }
  const of = SUBJECTS.find((subject) => subject === found.of) ?? 'person'
  return 'ids' in found ? { of, ids: found.ids.map(Number).filter(Number.isSafeInteger) } : { of, find: String(found.find) }
}

export async function copy(id: number) {
  return act((who) => copyList(who, id))
}

export async function rename(id: number, name: string) {
  return act((who) => renameList(who, id, String(name)))
}

export async function share(id: number, sharing: unknown) {
  return act((who) => shareList(who, id, sharing))
}

export async function give(id: number, to: string) {
  return act((who) => handOver(who, id, String(to)))
}

export async function comment(id: number, line: string, text: string) {
  return act((who) => commentOn(who, id, String(line), String(text)))
}

export async function settle(id: number, line: string) {
  return act((who) => settleComments(who, id, String(line)))
}

export async function proposeLines(id: number, basedOn: number, lines: unknown, note: string) {
  return act((who) => propose(who, id, Number(basedOn), lines, String(note)))
}

/** What is done with a proposal: take it, leave it (with why), take it back, or mark that what became of it was read. */
export async function settleProposal(proposal: number, how: 'take' | 'leave' | 'take back' | 'read', reason = '') {
  return act(async (who) => {
    if (how === 'take') return takeProposal(who, Number(proposal))
    if (how === 'leave') return leaveProposal(who, Number(proposal), String(reason))
    if (how === 'take back') return takeBackProposal(who, Number(proposal))
    return readDecision(who, Number(proposal))
  })
}

export async function remove(id: number) {
  return act((who) => deleteList(who, id))
}

export async function restore(id: number) {
  const result = await act((who) => restoreList(who, id))
  revalidatePath('/lists')
  return result
}

export async function start(id: number) {
  const started = await act((who) => startRound(who, id))
  if (started.ok) redirect(`/rounds/${started.value}`)
  return started
}
