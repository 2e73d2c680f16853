'use client'

import { Undo2 } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState, useTransition } from 'react'
import type { ListFigures } from '@/core/lists/account'
import { lineText } from '@/core/lists/line'
import type { ListView as View } from '@/core/lists/view'
import type { ActionResult, ListView, PeoplePage, RoundState } from '@/core/outputs/views'
import { AddLine } from './add-line'
import { Arch } from './arch'
import { ask, Told } from './ask'
import { count, day } from './figures'
import { isWhole } from './line-editing'
import { LineRow } from './line-row'
import { ListMenu } from './list-menu'
import { roundStones } from './round-stones'
import { Spread } from './spread'
import { TabRow } from './tab-row'
import { PeopleTable } from './people-table'
import { useLines } from './use-lines'
import { usePeople } from './use-people'

export interface ListActions {
  saveList: (id: number, basedOn: number, lines: unknown) => Promise<ActionResult<number>>
  copy: (id: number) => Promise<ActionResult<number>>
  change: (id: number, to: { name?: string; shared?: boolean }) => Promise<ActionResult<unknown>>
  remove: (id: number) => Promise<ActionResult<unknown>>
  start: (id: number) => Promise<ActionResult<unknown>>
}

export interface ListEditorProps {
  list: ListView
  me: { id: string; name: string; mayCoordinate: boolean }
  round: { id: number; number: number; state: RoundState; at: string } | null
  hasReleased: boolean
  batches: { id: number; name: string }[]
  towns: string[]
  actions: ListActions
}

/** A list's spread: its lines with their running balances on the left, the people behind any of its figures on the right. */
export function ListEditor({ list, me, round, hasReleased, batches, towns, actions }: ListEditorProps) {
  const router = useRouter()
  const { lines, edit, amend, undo, canUndo, dirty, saved } = useLines(list)
  const [inHand, setInHand] = useState<string | null>(null)
  const [justAdded, setJustAdded] = useState<string | null>(null)
  const [view, setView] = useState<View>({ tab: 'on' })
  const [figures, setFigures] = useState<ListFigures | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const whole = lines.filter(isWhole)
  const key = JSON.stringify([whole, view])

  const people = usePeople(key, async (offset, signal) => {
    const answer = await accountWhenUp({ lines: whole, view, offset, screen: `list-${list.id}` }, signal, setTold)
    setFigures(answer.figures)
    setTold(null)
    return answer.page
  })

  const save = () =>
    begin(async () => {
      if (!dirty || whole.length < lines.length) return
      const result = await actions.saveList(list.id, list.edition, whole)
      if (!result.ok) return setTold(result.error)
      saved()
      setSaid(`Saved as edition ${result.value}.`)
      router.refresh()
    })

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).closest('input, textarea')) return
      if (event.key === 'z' && canUndo) undo()
      else if (event.key === 's') save()
      else return
      event.preventDefault()
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  })

  const tabs = figures?.tabs
  const chosenLine = 'line' in view ? lines.find((l) => l.id === view.line) : undefined
  return (
    <Spread
      label={{ left: 'The account of the list', right: 'The people' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <div className="min-w-0">
              <h1 className="break-words">{list.name}</h1>
              <p className="quiet">
                {list.shared ? `Shared by ${list.mine ? 'you' : list.owner}` : 'Private to you'} · Edition {list.edition}, saved {day(list.savedAt)} by {list.savedBy}
                {round ? ` · round ${round.number} ${round.state} ${day(round.at)}` : ''}
              </p>
            </div>
            <ListMenu list={list} actions={actions} onTold={setTold} />
          </div>
          <RoundCard list={list} round={round} hasReleased={hasReleased} mayStart={me.mayCoordinate} dirty={dirty} onStart={() => begin(async () => void (await tellRefusal(actions.start(list.id), setTold)))} busy={busy} />
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          <table className="account mt-2" aria-label="Lines">
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col" className="figure">
                  Out
                </th>
                <th scope="col" className="figure">
                  Unknown
                </th>
                <th scope="col" className="figure">
                  In
                </th>
                <th scope="col" className="figure balance">
                  Balance
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line, i) => (
                <LineRow
                  key={line.id}
                  line={line}
                  number={i + 1}
                  figures={figures?.lines.find((f) => f.id === line.id)}
                  inHand={inHand === line.id}
                  justAdded={justAdded === line.id}
                  onTake={() => setInHand(line.id)}
                  onChange={(next) => {
                    const changed = lines.map((l) => (l.id === line.id ? next : l))
                    if (justAdded === line.id) amend(changed)
                    else edit(changed)
                    setJustAdded(null)
                  }}
                  onRemove={i === 0 ? undefined : () => edit(lines.filter((l) => l.id !== line.id))}
                  view={view}
                  onView={setView}
                  choices={{ batches, towns, me }}
                />
              ))}
              <tr className="total">
                <td>On the list now</td>
                <td className="figure text-madder">{count(figures?.totals.out)}</td>
                <td className="figure text-ochre">{count(figures?.totals.unknown)}</td>
                <td className="figure text-verdigris">{count(figures?.totals.in)}</td>
                <td className="figure balance" data-testid="balance">
                  {count(figures?.totals.balance)}
                </td>
              </tr>
            </tbody>
          </table>
          <div className="mt-4 flex flex-wrap items-center gap-2">
            <AddLine
              onAdd={(line) => {
                edit([...lines, line])
                setInHand(line.id)
                setJustAdded(line.id)
              }}
            />
            <button type="button" className="button" onClick={undo} disabled={!canUndo}>
              <Undo2 size={15} aria-hidden="true" /> Undo
            </button>
            <button type="button" className="button button-main" onClick={save} disabled={!dirty || busy || whole.length < lines.length}>
              Save edition {list.edition + 1}
            </button>
            <span role="status" className="quiet">
              {whole.length < lines.length ? 'A line is not whole yet and is not counted.' : dirty ? 'Not saved yet.' : (said ?? '')}
            </span>
          </div>
        </>
      }
      right={
        <>
          <TabRow
            label="Tabs of people"
            open={view.tab}
            onOpen={(tab) => setView({ tab } as View)}
            tabs={[
              { key: 'on', title: 'On the list', total: tabs?.on ?? null },
              { key: 'out', title: 'Left out', total: tabs?.leftOut ?? null },
              { key: 'unknown', title: 'Unknown', total: tabs?.unknown ?? null },
              ...(tabs && tabs.never > 0 ? [{ key: 'never', title: 'Never on the page', total: tabs.never }] : []),
            ]}
          />
          {chosenLine && (
            <p className="quiet mt-2 flex items-start justify-between gap-3">
              <span>
                Only {people.total === null ? '' : count(people.total)} {view.tab === 'moved' ? MOVED[view.column] : 'decided by'} line {lines.indexOf(chosenLine) + 1}: {lineText(chosenLine)}
              </span>
              <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => setView({ tab: view.tab === 'moved' ? 'on' : view.tab } as View)}>
                Show all
              </button>
            </p>
          )}
          <PeopleTable people={people} because={view.tab === 'out' || view.tab === 'unknown' ? 'Deciding line' : undefined} label="People" empty={EMPTY[view.tab]} />
        </>
      }
    />
  )
}

const MOVED = { out: 'taken out by', unknown: 'unknown to', in: 'taken in by', stayedUnknown: 'unknown to, and kept by,' } as const

const EMPTY: Record<View['tab'], string> = {
  on: 'Nobody is on the list. Take out a line, or add people with one.',
  out: 'No line leaves anybody out.',
  unknown: 'Every question of this page could be answered for everybody.',
  never: 'Everybody in the directory was on the page at some line.',
  moved: 'This line moved nobody.',
}

/** Asks for the account; while the engine is away says so and asks again until it is back. */
async function accountWhenUp(body: object, signal: AbortSignal, tell: (text: string) => void): Promise<{ figures: ListFigures; page: PeoplePage }> {
  for (;;) {
    try {
      return await ask('/api/list-account', body, signal)
    } catch (error) {
      if (!(error instanceof Told) || !error.away || signal.aborted) throw error
      tell(error.message)
      await new Promise((resolve) => setTimeout(resolve, 1500))
      if (signal.aborted) throw error
    }
  }
}

async function tellRefusal(result: Promise<ActionResult<unknown> | undefined>, tell: (text: string) => void): Promise<void> {
  const got = await result
  if (got && !got.ok) tell(got.error)
}

function RoundCard({ list, round, hasReleased, mayStart, dirty, onStart, busy }: { list: ListView; round: ListEditorProps['round']; hasReleased: boolean; mayStart: boolean; dirty: boolean; onStart: () => void; busy: boolean }) {
  const building = round?.state === 'being built'
  return (
    <div className="my-3 flex items-center gap-4 rounded-lg border border-rule bg-leaf px-4 py-2.5">
      <Arch
        width={84}
        stones={roundStones(round?.state ?? null, { requalify: hasReleased ? `/lists/${list.id}/requalify` : undefined, screen: round ? `/rounds/${round.id}` : undefined })}
      />
      <p className="min-w-0 flex-1">
        <b>{round === null ? 'No round yet.' : building ? `Round ${round.number} is being built.` : `Round ${round.number} is ${round.state === 'released' ? 'out' : 'closed'}.`}</b>
        <br />
        {round === null
          ? 'Start one when the list is right.'
          : building
            ? 'Screening is next.'
            : hasReleased
              ? 'See who joined and left before the next.'
              : ''}
      </p>
      {building && (
        <Link href={`/rounds/${round.id}`} className="button button-main">
          Go on to screening
        </Link>
      )}
      {!building && hasReleased && (
        <Link href={`/lists/${list.id}/requalify`} className="button button-main">
          Requalify
        </Link>
      )}
      {!building && !hasReleased && mayStart && (
        <button type="button" className="button button-main" onClick={onStart} disabled={dirty || busy} title={dirty ? 'Save the list first' : undefined}>
          Start round {(round?.number ?? 0) + 1}
        </button>
      )}
    </div>
  )
}
