'use server'

import { dropColumnSet } from '@/usecases/lists/delete-column-set'
import { saveColumnSet } from '@/usecases/lists/save-column-set'
import type { These } from '@/core/views/these'
import { listOfThese } from '@/usecases/lists/list-of-these'
import { revalidatePath } from 'next/cache'
import { redirect } from 'next/navigation'
import { array, boolean, mixed, object, string } from 'yup'
import { type Subject, SUBJECTS } from '@/core/records/subject'
import { STARTING_LISTS } from '@/core/lists/starting'
import type { ListView } from '@/core/lists/view'
import { keepDraft } from '@/usecases/lists/drafts'
import { foldSets, type Found, pickSet } from '@/usecases/lists/list-in-hand'
import { createList, startLine } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { type Mark, type Marked, markPeople } from '@/usecases/directory/mark-people'
import { ownersAsPeople } from '@/usecases/intake/owners-as-people'
import { propose } from '@/usecases/lists/proposals'
import { shareList } from '@/usecases/lists/share-list'
import { undoAct } from '@/usecases/directory/undo-act'
import { act } from '@/app/requests/answer'
import { free, having, resultsView, listView, ref, refs, typed, word } from '@/app/requests/asked'
import { putAreaAway } from '@/usecases/lists/put-area-away'
import { deleteList } from '@/usecases/lists/delete-list'
import { archiveList } from '@/usecases/lists/archive-list'
import { pinList } from '@/usecases/lists/pin-list'
import { labelList } from '@/usecases/lists/label-list'
import { restoreList } from '@/usecases/lists/restore-list'
import { copyList } from '@/usecases/lists/copy-list'
import { commentOn } from '@/usecases/lists/comment-on'
import { settleComments } from '@/usecases/lists/settle-comments'
import { takeInHand } from '@/usecases/lists/take-in-hand'
import { putOnList } from '@/usecases/lists/put-on-list'
import { keepTable } from '@/usecases/lists/keep-table'
import { takeProposal } from '@/usecases/lists/take-proposal'
import { leaveProposal } from '@/usecases/lists/leave-proposal'
import { takeBackProposal } from '@/usecases/lists/take-back-proposal'
import { readDecision } from '@/usecases/lists/read-decision'
import { goBackTo } from '@/usecases/lists/go-back-to'
import { handOver } from '@/usecases/lists/hand-over'
import { startRound } from '@/usecases/rounds/start-round'
import { setPlacement } from '@/usecases/lists/set-placement'
import { setOpeners } from '@/usecases/lists/set-openers'
import { setOnlyFollow, setRhythm } from '@/usecases/lists/set-rhythm'
import { renameList } from '@/usecases/lists/rename-list'

/** `begin` is a subject, with `none of` before it for a list that begins empty, or the name of one of the lists to begin with. */
export async function newList(name: string, shared: boolean, begin = 'person') {
  return act([typed(), boolean().required(), typed()], [name, shared, begin], (who, called, open, first) => {
    const ready = STARTING_LISTS.find((l) => l.name === first)
    return createList(
      who,
      called,
      open,
      ready ? ready.lines : [{ ...startLine(SUBJECTS.find((s) => first.endsWith(s)) ?? 'person'), off: first.startsWith('none of ') }],
    )
  })
}

export async function saveList(id: number, basedOn: number, lines: unknown, why = '') {
  return act([ref(), ref(), free(), typed()], [id, basedOn, lines, why], (who, list, edition, page, word) =>
    saveEdition(who, list, edition, page, { why: word }),
  )
}

export async function table(id: number, columns: unknown) {
  return act([ref(), free()], [id, columns], keepTable)
}

export async function saveColumns(subject: Subject, name: string, columns: unknown) {
  return act([word(SUBJECTS), typed(), free()], [subject, name, columns], saveColumnSet)
}

export async function dropColumns(id: number) {
  return act([ref()], [id], dropColumnSet)
}

/** A new list of some lines, as a profile makes them. */
export async function newListOf(name: string, shared: boolean, lines: unknown) {
  return act([typed(), boolean().required(), free()], [name, shared, lines], (who, called, open, page) =>
    createList(who, called, open, page as never),
  )
}

export async function goBack(id: number, edition: number) {
  return act([ref(), ref()], [id, edition], goBackTo)
}

const SHELF = object({
  archived: boolean().optional(),
  pinned: boolean().optional(),
  labels: array(string().max(200).required()).max(50).optional(),
}).required()

export async function shelve(id: number, to: { archived?: boolean; pinned?: boolean; labels?: string[] }) {
  const result = await act([ref(), SHELF], [id, to], async (who, list, { archived, pinned, labels }) => {
    if (archived !== undefined) await archiveList(who, list, archived)
    if (pinned !== undefined) await pinList(who, list, pinned)
    if (labels !== undefined) await labelList(who, list, labels)
  })
  revalidatePath('/lists')
  return result
}

export async function areaAway(id: number, away: boolean) {
  return act([ref(), boolean().required()], [id, away], putAreaAway)
}

const MARKED = object({ people: refs().optional(), lines: free(), view: listView().optional().default(undefined), having: having() })
  .test('whole', 'say who is meant', (of) => (of?.people ?? of?.view) !== undefined)
  .required()

export async function picks(id: number, marked: Marked) {
  return act([ref(), MARKED], [id, marked], (who, list, { people, ...of }) =>
    pickSet(who, list, people ?? (of as Exclude<Marked, { people: number[] }>)),
  )
}

export async function fold(id: number, sets: number[]) {
  return act([ref(), refs(1000)], [id, sets], foldSets)
}

const MARKS = ['tag', 'untag', 'holder', 'note'] as const
const MARK = mixed<Mark>(
  (value): value is Mark =>
    typeof value === 'object' &&
    value !== null &&
    Object.keys(value).length === 1 &&
    MARKS.some((kind) => typeof (value as Record<string, unknown>)[kind] === 'string'),
).required()

export async function mark(marked: Marked, what: Mark) {
  return act([MARKED, MARK], [marked, what], (who, { people, ...of }, on) => markPeople(who, people ? { people } : (of as Marked), on))
}

const CROWD = object({ lines: free(), view: listView(), having: having() }).required()

/** The owners of premises as a batch of people. */
export async function owners(id: number, of: { lines: unknown; view: ListView; having?: { key: string; label: string | null } | null }) {
  return act([ref(), CROWD], [id, of], ownersAsPeople)
}

export async function unmark(id: number) {
  return act([ref()], [id], undoAct)
}

/** `over`: what the page takes for kept so far, as a list of one; none where it is to be kept whatever stands there. */
export async function draft(id: number, basedOn: number, lines: unknown, over?: readonly [unknown]) {
  return act(
    [ref(), ref(), free(), array(mixed<NonNullable<unknown>>().nullable().defined()).max(1).optional()],
    [id, basedOn, lines, over],
    (who, list, edition, page, known) => keepDraft(who, list, edition, page, known?.length ? (known[0] ?? null) : undefined),
  )
}

export async function inHand(id: number | null) {
  const result = await act([ref().nullable()], [id], takeInHand)
  revalidatePath('/', 'layout')
  return result
}

/** What a page sends of what was found or chosen on it. */
export type FoundInput = { of: Subject; ids: number[] } | { of: Subject; find: string } | { list: number; lines: unknown; view: ListView }

const FOUND = object({
  of: word(SUBJECTS).optional(),
  ids: refs().optional(),
  find: string().max(1000).optional(),
  list: ref().optional(),
  lines: free(),
  view: listView().optional().default(undefined),
})
  .test('whole', 'say who is meant', (found) =>
    found?.list !== undefined ? found.view !== undefined : (found?.ids ?? found?.find) !== undefined,
  )
  .required()

export async function putOn(side: 'in' | 'out', found: FoundInput, reason = '') {
  return act(
    [word(['in', 'out'] as const), FOUND, typed()],
    [side, found, reason],
    (who, way, { of = 'person', ids, find, list, lines, view }, why) =>
      putOnList(who, way, (list !== undefined ? { list, lines, view } : ids ? { of, ids } : { of, find }) as Found, why),
  )
}

const THESE = object({
  of: word(SUBJECTS).optional(),
  ids: refs().optional(),
  find: string().max(1000).optional(),
  batch: ref().optional(),
  enquiry: ref().optional(),
  deciders: ref().optional(),
  round: ref().optional(),
  results: resultsView().optional().default(undefined),
  area: ref().optional(),
  territory: ref().optional(),
})
  .test('whole', 'say what the list is made of', (these) =>
    [these?.ids, these?.find, these?.batch, these?.enquiry, these?.deciders, these?.round, these?.area, these?.territory].some(
      (of) => of !== undefined,
    ),
  )
  .required()

/** A private list of what somebody has before them. */
export async function listOf(these: These) {
  return act([THESE], [these], (who, { of = 'person', ids, find, batch, enquiry, deciders, round, results, area: within, territory }) =>
    listOfThese(
      who,
      batch !== undefined
        ? { batch }
        : enquiry !== undefined
          ? { enquiry }
          : deciders !== undefined
            ? { deciders }
            : round !== undefined && results !== undefined
              ? { round, results }
              : territory !== undefined
                ? { territory }
                : within !== undefined
                  ? { area: within, of }
                  : ids
                    ? { of, ids }
                    : { of, find: find ?? '' },
    ),
  )
}

export async function copy(id: number) {
  return act([ref()], [id], copyList)
}

export async function rhythm(id: number, given: unknown) {
  const result = await act([ref(), free()], [id, given], setRhythm)
  revalidatePath(`/lists/${Number(id)}`)
  return result
}

export async function openers(id: number, wishes: unknown) {
  const result = await act([ref(), free()], [id, wishes], setOpeners)
  revalidatePath(`/lists/${Number(id)}`)
  return result
}

export async function placement(id: number, given: unknown) {
  const result = await act([ref(), free()], [id, given], setPlacement)
  revalidatePath(`/lists/${Number(id)}`)
  return result
}

export async function onlyFollow(id: number, only: boolean) {
  return act([ref(), boolean().strict().required()], [id, only], setOnlyFollow)
}

export async function rename(id: number, name: string) {
  return act([ref(), typed()], [id, name], renameList)
}

export async function share(id: number, sharing: unknown) {
  return act([ref(), free()], [id, sharing], shareList)
}

export async function give(id: number, to: string) {
  return act([ref(), typed()], [id, to], handOver)
}

export async function comment(id: number, line: string, text: string) {
  return act([ref(), typed(), typed(10_000)], [id, line, text], commentOn)
}

export async function settle(id: number, line: string) {
  return act([ref(), typed()], [id, line], settleComments)
}

export async function proposeLines(id: number, basedOn: number, lines: unknown, note: string) {
  return act([ref(), ref(), free(), typed()], [id, basedOn, lines, note], propose)
}

/** What is done with a proposal: take it, leave it (with why), take it back, or mark that what became of it was read. */
export async function settleProposal(proposal: number, how: 'take' | 'leave' | 'take back' | 'read', reason = '') {
  return act(
    [ref(), word(['take', 'leave', 'take back', 'read'] as const), typed()],
    [proposal, how, reason],
    async (who, id, done, why) => {
      if (done === 'take') return takeProposal(who, id)
      if (done === 'leave') return leaveProposal(who, id, why)
      if (done === 'take back') return takeBackProposal(who, id)
      return readDecision(who, id)
    },
  )
}

export async function remove(id: number) {
  return act([ref()], [id], deleteList)
}

export async function restore(id: number) {
  const result = await act([ref()], [id], restoreList)
  revalidatePath('/lists')
  return result
}

export async function start(id: number, onlyNew = false) {
  const started = await act([ref(), boolean().required()], [id, onlyNew], startRound)
  if (started.ok) redirect(`/rounds/${started.value}`)
  return started
}
