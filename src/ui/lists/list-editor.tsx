'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useLayoutEffect, useMemo, useRef, useTransition } from 'react'
import type { TableSet } from '@/core/facets/table'
import { type Line, subjectOf } from '@/core/lists/line'
import { allows } from '@/core/records/list-roles'
import type { ListView as View } from '@/core/lists/view'
import { AddLine } from './add-line'
import { useBook, useNews } from '@/ui/book/book'
import { isWhole, limitTo, moved, newId } from './line-editing'
import { startingConflict } from './list-asking'
import { NotForRounds, RoundCard } from './list-round-card'
import type { LineActs } from './line-row'
import { GoneTalk, LineTalk } from './line-talk'
import { ListBar } from './list-bar'
import { ListHeading } from './list-heading'
import { ProposalRecords } from './proposal-records'
import { Proposals } from './proposals'
import { Spread } from '@/ui/book/spread'
import { TheirChanges } from './their-changes'
import { ListRecords } from './list-records'
import { useLatest } from '@/ui/book/use-latest'
import { useLines } from './use-lines'
import { useListAccount } from './use-list-account'
import type { ListEditorProps } from './list-actions'
import { ListLines } from './list-lines'
import { viewIn } from './view-of-list'
import { ListNotices } from './list-notices'
import { useListChanges } from './use-list-changes'
import { useListPage } from './use-list-page'
import { useReaders } from './use-readers'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { WantedSize } from './wanted-size'

/** A list's spread: its lines with their running balances on the left, the people behind any of its figures on the right. */
export function ListEditor({
  list,
  me,
  round,
  hasReleased,
  policy,
  choices,
  changes,
  lookedAt,
  table: firstTable,
  columnSets,
  sharing,
  comments,
  proposals,
  actions,
}: ListEditorProps) {
  const router = useRouter()
  const book = useBook()
  const soon = useRef<(lines: Line[]) => void>(() => {})
  const draft = useLines(
    list,
    async (edition, next, over) => {
      const kept = await book.actions.draft(list.id, edition, next, over)
      if (!kept.ok) throw new Error(kept.error)
      return kept.value
    },
    (next) => soon.current(next),
  )
  const { lines, basedOn, edit, amend, undo, canUndo, dirty, rebase, elsewhere: otherPage, keepThese } = draft
  const [page, put] = useListPage({ theirs: startingConflict(list), table: firstTable })
  const { inHand, justAdded, heard, theirs, elsewhere, told, said, table, why, group, came, trying, talking, weighed } = page
  const [view, setView] = useViewInAddress<View>({ tab: 'on' }, viewIn(list.lines))
  const [busy, begin] = useTransition()
  const proposal = proposals.find((p) => p.id === weighed?.id && !p.decision)
  const readers = useReaders(list.id, dirty)
  const mayEdit = allows(list.role, 'edit')
  const subject = subjectOf(lines)
  const whole = lines.filter(isWhole)
  useNews((news) => {
    if (news.is === 'data') put('heard')
    else if ((news.is === 'round' || news.is === 'talk') && news.list === list.id) router.refresh()
    else if (news.is === 'edition' && news.list !== list.id) put('heard')
    else if (news.is === 'edition' && news.edition > list.edition && !(busy && news.mine)) {
      if (dirty) put({ elsewhere: { edition: news.edition, by: news.mine ? 'You, on another page,' : news.by } })
      else router.refresh()
    }
  })

  const account = useListAccount({ list: list.id, lines, view, table, group, heard })
  const { figures, fresh, records } = account
  useLayoutEffect(() => {
    soon.current = account.soon
  })
  // What went wrong with the lines before is over once there are others.
  // biome-ignore lint/correctness/useExhaustiveDependencies: for the lines alone
  useEffect(() => put({ told: null }), [lines])
  const keepTable = (next: TableSet) => {
    put({ table: next })
    void actions.table(list.id, next)
  }
  const show = (next: View) => {
    setView(next)
    put({ weighed: null, group: null })
  }
  const { save, suggest, pickThem, pickFile, fold } = useListChanges({ list, mayEdit, whole, why, put, actions, begin, page: draft })
  const start = () =>
    begin(async () => {
      const started = await actions.start(list.id)
      if (started && !started.ok) put({ told: started.error })
    })
  const move = (id: string, by: number) => {
    const from = lines.findIndex((l) => l.id === id)
    if (from > 0 && from + by > 0 && from + by < lines.length) edit(moved(lines, from, from + by))
  }
  // The same at every drawing, so that an edit draws its own line anew and not all of them.
  const acts: LineActs = useLatest({
    take: (line: string) => put({ inHand: line }),
    change: (line: string, next: Line) => {
      const changed = lines.map((l) => (l.id === line ? next : l))
      if (justAdded === line) amend(changed)
      else edit(changed)
      put({ justAdded: null })
    },
    giveUp: (line: string) => {
      if (justAdded !== line) return
      put({ justAdded: null })
      undo()
      setTimeout(() => document.querySelector<HTMLElement>('[data-add-line]')?.focus())
    },
    remove: (line: string) => edit(lines.filter((l) => l.id !== line)),
    fold: (line: string) => void fold(line),
    move,
    comment: (line: string) => put({ talking: line }),
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
        onOpen={(open) => put({ talking: open ? line.id : null })}
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
            changes={changes}
            round={round}
            readers={readers}
            sharing={sharing}
            team={choices.team}
            actions={actions}
            mayCoordinate={me.mayCoordinate}
            onTold={(told) => put({ told })}
          />
          <Proposals
            {...{ proposals, dirty }}
            edition={list.edition}
            settle={actions.settleProposal}
            onTry={(trying) => put({ trying })}
            onTakenBack={(own) => !dirty && rebase(own.basedOn, own.basis, own.lines)}
            onShow={(proposal, side) => put({ weighed: { id: proposal.id, side } })}
          />
          {trying && (
            <TheirChanges
              proposed
              mine={lines}
              theirs={trying}
              onBring={(next) => {
                edit(next)
                put({ trying: null })
              }}
              onTheirs={() => put({ trying: null })}
            />
          )}
          {theirs && (
            <TheirChanges
              mine={lines}
              theirs={theirs}
              onBring={(next) => {
                rebase(theirs.edition, theirs.lines, next)
                put({ theirs: null })
                put({ elsewhere: null })
              }}
              onTheirs={() => {
                rebase(theirs.edition, theirs.lines, theirs.lines)
                put({ theirs: null })
                put({ elsewhere: null })
                router.refresh()
              }}
            />
          )}
          <ListNotices otherPage={otherPage} keepThese={keepThese} elsewhere={theirs ? null : elsewhere} onDiffer={save} busy={busy} />
          {subject !== 'organisation' ? (
            <RoundCard
              list={list}
              round={round}
              hasReleased={hasReleased && subject === 'person'}
              mayStart={me.mayCoordinate && allows(list.role, 'use')}
              dirty={dirty}
              onStart={start}
              busy={busy}
              policy={policy}
            />
          ) : (
            <NotForRounds />
          )}
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          {came && (
            <p role="status" className="said mt-3 flex items-start justify-between gap-3" data-testid="came">
              <span className="min-w-0 break-words">{came}</span>
              <button type="button" className="font-semibold text-verdigris" onClick={() => put({ came: null })}>
                Read
              </button>
            </p>
          )}
          <ListLines
            list={list}
            lines={lines}
            whole={whole}
            figures={figures}
            subject={subject}
            view={view}
            choices={ours}
            acts={acts}
            inHand={inHand}
            justAdded={justAdded}
            talk={talk}
            onMove={(from, to) => edit(moved(lines, from, to))}
          />
          <WantedSize
            wanted={table.wanted ?? null}
            onWanted={(wanted) => keepTable({ ...table, wanted })}
            {...{ list: list.id, lines: whole, figures }}
            onRemove={(id) => edit(lines.filter((l) => l.id !== id))}
            onLimit={(most) => edit([...lines, limitTo(most, subject)])}
            onAdd={(line) => edit([...lines, { ...line, id: newId() } as Line])}
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
            onWhy={(why) => put({ why })}
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
                put({ inHand: line.id })
                put({ justAdded: line.id })
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
            onTab={(side) => put({ weighed: { ...weighed, side } })}
            onBack={() => put({ weighed: null })}
          />
        ) : (
          <ListRecords
            list={list}
            lines={lines}
            whole={whole}
            view={view}
            onView={show}
            records={records}
            figures={figures}
            fresh={fresh}
            lookedAt={lookedAt}
            heard={heard}
            dirty={dirty}
            table={table}
            onTable={keepTable}
            columnSets={columnSets}
            saveColumns={actions.saveColumns}
            dropColumns={actions.dropColumns}
            group={group}
            onGroup={(group) => put({ group })}
            team={choices.team}
            onPick={pickThem}
            mark={actions.mark}
            unmark={actions.unmark}
            {...(me.mayCoordinate && allows(list.role, 'use') ? { fill: actions.fill } : {})}
            {...(subject === 'premises' && me.mayCoordinate && allows(list.role, 'use')
              ? { owners: (of: { lines: Line[]; view: View }) => actions.owners(list.id, of) }
              : {})}
          />
        )
      }
    />
  )
}
