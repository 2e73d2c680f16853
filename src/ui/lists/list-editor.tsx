'use client'

import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useRouter } from 'next/navigation'
import { useEffect, useLayoutEffect, useMemo, useRef, useState, useTransition } from 'react'
import type { ListFigures } from '@/core/lists/account'
import type { TableSet } from '@/core/facets/table'
import { type Line, type PickLine, subjectOf } from '@/core/lists/line'
import { type LineWarning, warningsOf } from '@/core/lists/warnings'
import { allows, type Sharing } from '@/core/lists/roles'
import type { ListView as View } from '@/core/lists/view'
import type { ActionResult } from '@/core/views/action-result'
import type { LineComment, ListView, ProposalView, Uploaded } from '@/core/views/list-views'
import type { RoundState } from '@/core/views/round-views'
import { AddLine } from './add-line'
import { useBook, useNews } from '@/ui/book/book'
import type { Choices } from './criterion-forms'
import { isWhole, moved, newId } from './line-editing'
import { announcementsFor, startingConflict } from './list-asking'
import { RoundCard } from './list-round-card'
import { type LineActs, LineRow } from './line-row'
import { GoneTalk, LineTalk, type TalkActions } from './line-talk'
import { ListBar } from './list-bar'
import { ListHeading } from './list-heading'
import { ProposalRecords, type ProposalSide } from './proposal-records'
import { Proposals, type SettleProposal } from './proposals'
import type { ShareActions } from './share-dialog'
import { sendFileTo } from '@/ui/forms/send-file'
import { Spread } from '@/ui/book/spread'
import { uploadTold } from './upload-told'
import { type Theirs, TheirChanges } from './their-changes'
import { AccountTable } from './account-table'
import type { MarkAction, UnmarkAction, Marked } from '@/ui/tables/chosen-bar'
import type { Group } from './list-groups'
import { ListRecords } from './list-records'
import { useLatest } from '@/ui/book/use-latest'
import { useLines } from './use-lines'
import { useListAccount } from './use-list-account'
import { useReaders } from './use-readers'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { WantedSize } from './wanted-size'

export interface ListActions extends ShareActions, TalkActions {
  shelve: (id: number, to: { archived?: boolean; pinned?: boolean; labels?: string[] }) => Promise<ActionResult<unknown>>
  saveList: (id: number, basedOn: number, lines: unknown, why?: string) => Promise<ActionResult<{ edition: number } | { theirs: Theirs }>>
  copy: (id: number) => Promise<ActionResult<number>>
  rename: (id: number, name: string) => Promise<ActionResult<unknown>>
  propose: (id: number, basedOn: number, lines: unknown, note: string) => Promise<ActionResult<number>>
  settleProposal: SettleProposal
  remove: (id: number) => Promise<ActionResult<unknown>>
  start: (id: number) => Promise<ActionResult<unknown>>
  table: (id: number, table: TableSet) => Promise<ActionResult<unknown>>
  owners: (id: number, of: { lines: unknown; view: View }) => Promise<ActionResult<{ batch: number; people: number; left: number }>>
  picks: (id: number, who: Marked) => Promise<ActionResult<{ set: { id: number; count: number }; names: string[]; by: string }>>
  fold: (id: number, sets: number[]) => Promise<ActionResult<{ set: { id: number; count: number } }>>
  mark: MarkAction
  unmark: UnmarkAction
}

export interface ListEditorProps {
  list: ListView
  me: { id: string; name: string; mayCoordinate: boolean }
  round: { id: number; number: number; state: RoundState; at: string } | null
  hasReleased: boolean
  choices: Omit<Choices, 'me'>
  /** When this person last opened the list, before now. */
  lookedAt: string | null
  /** How this person set up the table. */
  table: TableSet
  sharing: Sharing
  comments: LineComment[]
  proposals: ProposalView[]
  actions: ListActions
}

/** A list's spread: its lines with their running balances on the left, the people behind any of its figures on the right. */
export function ListEditor({
  list,
  me,
  round,
  hasReleased,
  choices,
  lookedAt,
  table: firstTable,
  sharing,
  comments,
  proposals,
  actions,
}: ListEditorProps) {
  const router = useRouter()
  const book = useBook()
  const soon = useRef<(lines: Line[]) => void>(() => {})
  const {
    lines,
    basedOn,
    edit,
    amend,
    undo,
    canUndo,
    dirty,
    saved,
    rebase,
    elsewhere: otherPage,
    keepThese,
  } = useLines(
    list,
    async (edition, next, over) => {
      const kept = await book.actions.draft(list.id, edition, next, over)
      return kept.ok ? kept.value : { elsewhere: false }
    },
    (next) => soon.current(next),
  )
  const [inHand, setInHand] = useState<string | null>(null)
  const [justAdded, setJustAdded] = useState<string | null>(null)
  const [view, setView] = useViewInAddress<View>({ tab: 'on' }, ({ tab, line, column }) =>
    tab === 'never'
      ? { tab }
      : (tab === 'out' || tab === 'unknown') && (line === undefined || list.lines.some((l) => l.id === line))
        ? { tab, line }
        : tab === 'moved' && list.lines.some((l) => l.id === line) && COLUMNS.includes(column as (typeof COLUMNS)[number])
          ? { tab, line, column: column as (typeof COLUMNS)[number] }
          : null,
  )
  const [heard, setHeard] = useState(0)
  const [theirs, setTheirs] = useState<Theirs | null>(() => startingConflict(list))
  const [elsewhere, setElsewhere] = useState<{ edition: number; by: string } | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const [table, setTable] = useState(firstTable)
  const [why, setWhy] = useState('')
  const [group, setGroup] = useState<Group | null>(null)
  const [came, setCame] = useState<string | null>(null)
  const [trying, setTrying] = useState<Theirs | null>(null)
  const [talking, setTalking] = useState<string | null>(null)
  const [weighed, setWeighed] = useState<{ id: number; side: ProposalSide } | null>(null)
  const proposal = proposals.find((p) => p.id === weighed?.id && !p.decision)
  const readers = useReaders(list.id, dirty)
  const mayEdit = allows(list.role, 'edit')
  const subject = subjectOf(lines)
  const whole = lines.filter(isWhole)
  useNews((news) => {
    if (news.is === 'data') setHeard((n) => n + 1)
    else if ((news.is === 'round' || news.is === 'talk') && news.list === list.id) router.refresh()
    else if (news.is === 'edition' && news.list !== list.id) setHeard((n) => n + 1)
    else if (news.is === 'edition' && news.edition > list.edition && !(busy && news.mine)) {
      if (dirty) setElsewhere({ edition: news.edition, by: news.mine ? 'You, on another page,' : news.by })
      else router.refresh()
    }
  })

  const { figures, fresh, people, soon: askSoon } = useListAccount({ list: list.id, lines, view, table, group, heard, tell: setTold })
  useLayoutEffect(() => {
    soon.current = askSoon
  })
  const keepTable = (next: TableSet) => {
    setTable(next)
    void actions.table(list.id, next)
  }
  const show = (next: View) => {
    setView(next)
    setWeighed(null)
    setGroup(null)
  }
  const pickThem = async (side: 'in' | 'out', who: Marked, reason: string) => {
    const made = await actions.picks(list.id, who)
    if (!made.ok) return setTold(made.error)
    edit([...lines, { id: newId(), verb: 'pick', off: false, side, ...made.value, reason, until: null }])
  }

  const pickFile = async (file: File) => {
    setTold(null)
    try {
      const { set, names, by, ...came } = await sendFileTo<Uploaded>(`/api/lists/${list.id}/upload`, file, file.name, () => {})
      edit([
        ...lines,
        { id: newId(), verb: 'pick', off: false, side: 'in', set, names, by, reason: `from ${file.name}`.slice(0, 200), until: null },
      ])
      setCame(uploadTold(set.count, came))
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const suggest = () =>
    begin(async () => {
      if (!dirty || whole.length < lines.length) return
      saved()
      const made = await actions.propose(list.id, basedOn, whole, why)
      if (!made.ok) {
        amend(lines)
        return setTold(made.error)
      }
      rebase(list.edition, list.lines, list.lines)
      setWhy('')
      setSaid(`Proposed to ${list.mine ? 'those who may edit it' : list.owner}.`)
      router.refresh()
    })
  const save = () =>
    begin(async () => {
      if (!mayEdit || !dirty || otherPage || whole.length < lines.length) return
      // What waits to be kept as a draft is what is being saved; were it kept after, it would look unsaved again.
      saved()
      const result = await actions.saveList(list.id, basedOn, whole, why)
      if (!result.ok) {
        amend(lines)
        return setTold(result.error)
      }
      if ('theirs' in result.value) {
        amend(lines)
        return setTheirs(result.value.theirs)
      }
      setWhy('')
      setSaid(`Saved as edition ${result.value.edition}.`)
      book.weigh()
      router.refresh()
    })
  const move = (id: string, by: number) => {
    const from = lines.findIndex((l) => l.id === id)
    if (from > 0 && from + by > 0 && from + by < lines.length) edit(moved(lines, from, from + by))
  }
  const fold = async (id: string) => {
    const i = lines.findIndex((l) => l.id === id)
    const [above, own] = [lines[i - 1] as PickLine, lines[i] as PickLine]
    const made = await actions.fold(list.id, [above.set.id, own.set.id])
    if (!made.ok) return setTold(made.error)
    const reason = [...new Set([above.reason, own.reason].filter(Boolean))].join('; ').slice(0, 200)
    edit([...lines.slice(0, i - 1), { ...above, set: made.value.set, reason }, ...lines.slice(i + 1)])
  }
  // The same at every drawing, so that an edit draws its own line anew and not all of them.
  const acts: LineActs = useLatest({
    take: (line: string) => setInHand(line),
    change: (line: string, next: Line) => {
      const changed = lines.map((l) => (l.id === line ? next : l))
      if (justAdded === line) amend(changed)
      else edit(changed)
      setJustAdded(null)
    },
    giveUp: (line: string) => {
      if (justAdded !== line) return
      setJustAdded(null)
      undo()
      setTimeout(() => document.querySelector<HTMLElement>('[data-add-line]')?.focus())
    },
    remove: (line: string) => edit(lines.filter((l) => l.id !== line)),
    fold: (line: string) => void fold(line),
    move,
    comment: (line: string) => setTalking(line),
    view: show,
    above: (line: string) =>
      lines
        .slice(
          0,
          lines.findIndex((l) => l.id === line),
        )
        .filter(isWhole),
  })
  const ours = useMemo(() => ({ ...choices, me }), [choices, me])
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )

  const talk = (line: Line, number: number) => {
    const said = comments.filter((c) => c.line === line.id)
    if (said.length === 0 && talking !== line.id) return undefined
    return (
      <LineTalk
        list={list.id}
        line={line.id}
        number={number}
        said={said}
        mayEdit={mayEdit}
        actions={actions}
        open={talking === line.id}
        onOpen={(open) => setTalking(open ? line.id : null)}
      />
    )
  }

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey)) return
      const typing = (event.target as HTMLElement).closest('input, textarea')
      if (event.key === 'z' && canUndo && !typing) undo()
      else if (event.key === 's' && !(event.target as HTMLElement).closest('[role=dialog]')) save()
      else return
      event.preventDefault()
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  })

  return (
    <Spread
      label={{ left: 'The account of the list', right: 'The people' }}
      left={
        <>
          <ListHeading
            list={list}
            lines={whole}
            round={round}
            readers={readers}
            sharing={sharing}
            team={choices.team}
            actions={actions}
            mayCoordinate={me.mayCoordinate}
            onTold={setTold}
          />
          <Proposals
            proposals={proposals}
            dirty={dirty}
            edition={list.edition}
            settle={actions.settleProposal}
            onTry={setTrying}
            onShow={(proposal, side) => setWeighed({ id: proposal.id, side })}
          />
          {trying && (
            <TheirChanges
              proposed
              mine={lines}
              theirs={trying}
              onBring={(next) => {
                edit(next)
                setTrying(null)
              }}
              onTheirs={() => setTrying(null)}
            />
          )}
          {theirs && (
            <TheirChanges
              mine={lines}
              theirs={theirs}
              onBring={(next) => {
                rebase(theirs.edition, theirs.lines, next)
                setTheirs(null)
                setElsewhere(null)
              }}
              onTheirs={() => {
                rebase(theirs.edition, theirs.lines, theirs.lines)
                setTheirs(null)
                setElsewhere(null)
                router.refresh()
              }}
            />
          )}
          {otherPage && (
            <div role="alert" className="told my-2">
              You edited these lines in another tab. Changes made here are not being kept.
              <span className="mt-1.5 flex gap-2">
                <button type="button" className="button" onClick={() => window.location.reload()}>
                  Load the other version
                </button>
                <button type="button" className="button" onClick={() => void keepThese()}>
                  Keep this version
                </button>
              </span>
            </div>
          )}
          {elsewhere && !theirs && (
            <p role="status" className="my-2 flex items-center justify-between gap-3 rounded-md bg-ochre-wash px-3 py-1.5">
              {elsewhere.by} saved edition {elsewhere.edition} just now. Your changes are still here.
              <button type="button" className="button" onClick={save} disabled={busy}>
                See what differs
              </button>
            </p>
          )}
          {subject === 'person' ? (
            <RoundCard
              list={list}
              round={round}
              hasReleased={hasReleased}
              mayStart={me.mayCoordinate && allows(list.role, 'use')}
              dirty={dirty}
              onStart={() => begin(async () => void (await tellRefusal(actions.start(list.id), setTold)))}
              busy={busy}
            />
          ) : (
            <p className="quiet mt-2 rounded-md border border-rule px-3 py-2">
              Rounds go to people. A list of people can name this one with a line: “Linked to a list”.
            </p>
          )}
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          {came && (
            <p role="status" className="said mt-3 flex items-start justify-between gap-3" data-testid="came">
              <span className="min-w-0 break-words">{came}</span>
              <button type="button" className="font-semibold text-verdigris" onClick={() => setCame(null)}>
                Read
              </button>
            </p>
          )}
          <DndContext
            sensors={sensors}
            collisionDetection={closestCenter}
            accessibility={{ announcements: announcementsFor(lines) }}
            onDragEnd={({ active, over }) => {
              const [from, to] = [lines.findIndex((l) => l.id === active.id), lines.findIndex((l) => l.id === over?.id)]
              if (from > 0 && to > 0 && from !== to) edit(moved(lines, from, to))
            }}
          >
            <AccountTable figures={figures}>
              <SortableContext items={lines.slice(1).map((l) => l.id)} strategy={verticalListSortingStrategy}>
                {lines.map((line, i) => (
                  <LineRow
                    key={line.id}
                    line={line}
                    number={i + 1}
                    figures={figures?.lines.find((f) => f.id === line.id)}
                    inHand={inHand === line.id}
                    justAdded={justAdded === line.id}
                    subject={subject}
                    folds={foldable(lines[i - 1], line)}
                    acts={acts}
                    view={view}
                    choices={ours}
                    warnings={warned(whole, line, figures)}
                    talk={talk(line, i + 1)}
                    saved={list.lines.some((l) => l.id === line.id)}
                  />
                ))}
              </SortableContext>
            </AccountTable>
          </DndContext>
          <WantedSize
            wanted={table.wanted ?? null}
            onWanted={(wanted) => keepTable({ ...table, wanted })}
            lines={whole}
            figures={figures}
            onRemove={(id) => edit(lines.filter((l) => l.id !== id))}
            onLimit={(most) =>
              edit([
                ...lines,
                {
                  id: newId(),
                  verb: 'limit',
                  off: false,
                  most,
                  per: 'all',
                  rank: subject === 'person' ? 'easiest to reach' : 'first in the directory',
                },
              ])
            }
          />
          <ListBar
            list={list}
            next={basedOn + 1}
            mayEdit={mayEdit}
            dirty={dirty}
            // Saving would end the draft that the other tab keeps.
            ready={!busy && !otherPage && whole.length === lines.length}
            canUndo={canUndo}
            why={why}
            onWhy={setWhy}
            onUndo={undo}
            onSave={save}
            onPropose={suggest}
            said={whole.length < lines.length ? 'A line is incomplete and is not counted yet.' : dirty ? 'Not saved yet.' : (said ?? '')}
          >
            <AddLine
              lines={whole}
              subject={subject}
              onFile={subject === 'person' ? (file) => begin(() => pickFile(file)) : undefined}
              onAdd={(line) => {
                edit([...lines, line])
                setInHand(line.id)
                setJustAdded(line.id)
              }}
            />
          </ListBar>
          <GoneTalk said={comments.filter((c) => !list.lines.some((l) => l.id === c.line))} />
        </>
      }
      right={
        weighed && proposal ? (
          <ProposalRecords
            key={proposal.id}
            proposal={proposal.id}
            by={proposal.by}
            subject={subject}
            edition={list.edition}
            heard={heard}
            tab={weighed.side}
            onTab={(side) => setWeighed({ ...weighed, side })}
            onBack={() => setWeighed(null)}
          />
        ) : (
          <ListRecords
            list={list}
            lines={lines}
            whole={whole}
            view={view}
            onView={show}
            records={people}
            figures={figures}
            fresh={fresh}
            lookedAt={lookedAt}
            heard={heard}
            table={table}
            onTable={keepTable}
            group={group}
            onGroup={setGroup}
            team={choices.team}
            onPick={pickThem}
            mark={actions.mark}
            unmark={actions.unmark}
            {...(subject === 'premises' && me.mayCoordinate && allows(list.role, 'use')
              ? { owners: (of: { lines: Line[]; view: View }) => actions.owners(list.id, of) }
              : {})}
          />
        )
      }
    />
  )
}

const COLUMNS = ['out', 'unknown', 'in', 'stayedUnknown'] as const

/** Whether a line of picks can be folded into the one above it. */
const foldable = (above: Line | undefined, line: Line): boolean =>
  above?.verb === 'pick' && line.verb === 'pick' && above.side === line.side && above.off === line.off && above.until === line.until

/** What is worth saying of a line, once its figures are there. */
function warned(lines: Line[], line: Line, figures: ListFigures | null): LineWarning[] {
  const at = lines.indexOf(line)
  const own = figures?.lines.find((f) => f.id === line.id)
  if (at < 1 || !own || figures?.lines.length !== lines.length) return []
  return warningsOf(lines, at, own, own.balance + own.out + own.unknown - own.in)
}

async function tellRefusal(result: Promise<ActionResult<unknown> | undefined>, tell: (text: string) => void): Promise<void> {
  const got = await result
  if (got && !got.ok) tell(got.error)
}
