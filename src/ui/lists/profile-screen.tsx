'use client'

import { useViewInAddress } from '@/ui/book/view-in-address'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { questionsLike } from '@/core/facets/lines-like'
import type { ProfileOf } from '@/core/facets/profile'
import { FIRST_COLUMNS, type TableSet } from '@/core/facets/table'
import { FACETS } from '@/core/facets/registry'
import { type Line, subjectOf } from '@/core/lists/line'
import type { ActionResult } from '@/core/views/action-result'
import type { AlikePage, ListView, RecordView } from '@/core/views/list-views'
import { ask } from '@/ui/book/ask'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'
import { newId } from './line-editing'
import { accountPage, withCells } from './list-asking'
import { ProfileFacet } from './profile-facet'
import { RecordBeside } from '@/ui/directory/record-beside'
import { RecordTable } from '@/ui/tables/record-table'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { useRecords } from '@/ui/tables/use-records'

interface ProfileProps {
  list: ListView
  lists: { id: number; name: string; subject: string }[]
  newListOf: (name: string, shared: boolean, lines: unknown) => Promise<ActionResult<number>>
}

/** What a list is made of beside the directory or another list; the records behind any figure; and those most like the ones on it. */
export function ProfileScreen({ list, lists, newListOf }: ProfileProps) {
  const router = useRouter()
  const lines = list.draft?.lines ?? list.lines
  const subject = subjectOf(lines)
  const [base, setBase] = useState<number | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [view, setView] = useViewInAddress<{ tab: 'records' | 'alike' }>({ tab: 'records' }, ({ tab }) =>
    tab === 'alike' || tab === 'records' ? { tab } : null,
  )
  const { tab } = view
  const setTab = (next: 'records' | 'alike') => setView({ tab: next })
  const [shown, setShown] = useState<{ key: string; label: string | null } | null>(null)
  const [beside, setBeside] = useState<RecordView | null>(null)
  const [table, setTable] = useState<TableSet>({ columns: FIRST_COLUMNS[subject].slice(0, 3) as string[], sort: [] })
  const { answer: profile = null, told: notMade } = useAsked<{ total: number; baseTotal: number; facets: ProfileOf[] }>(
    ['/api/list-profile', { lines, base }],
    { hold: true },
  )
  const records = useRecords<AlikePage | null>(['profile', list.id, lines, tab, shown, table], async (offset, signal) => {
    if (tab === 'alike') {
      const found = await ask<AlikePage>('/api/list-alike', { lines, offset }, signal)
      return { ...found.page, about: found }
    }
    const columns = table.columns.filter((c) => Object.hasOwn(FACETS[subject], c))
    const page = await accountPage(
      { lines, view: { tab: 'on' }, offset, columns, sort: table.sort, having: shown, screen: `profile-${list.id}` },
      signal,
    )
    return withCells(page, table.columns, columns)
  })
  const alike = tab === 'alike' ? (records.about ?? null) : null
  const makeList = async () => {
    if (!alike) return
    const questions = questionsLike(alike.telling, subject)
    if (questions.length === 0) return setTold('These records are too few, or too much like everyone else, to make lines from.')
    const made: Line[] = [
      { id: newId(), verb: 'start', off: false, batch: null, ...(subject === 'person' ? {} : { subject }) },
      ...questions.map((criterion): Line => ({ id: newId(), verb: 'keep', off: false, unknownAsYes: false, criterion })),
      {
        id: newId(),
        verb: 'drop',
        off: false,
        unknownAsYes: false,
        criterion: { kind: 'list', list: { id: list.id, name: list.name }, edition: null },
      },
    ]
    const result = await newListOf(`More like ${list.name}`.slice(0, 120), list.shared, made)
    if (result.ok) router.push(`/lists/${result.value}`)
    else setTold(result.error)
  }
  return (
    <Spread
      width="720px"
      label={{ left: 'Profile', right: 'The records' }}
      left={
        <>
          <div className="flex flex-wrap items-start justify-between gap-3">
            <div>
              <h1>{list.name}</h1>
              <p className="quiet">
                {profile
                  ? `${count(profile.total)} beside ${count(profile.baseTotal)}. Shares are of those whose value is known.`
                  : 'Counting…'}
              </p>
            </div>
            <Link href={`/lists/${list.id}`} className="button no-underline">
              Back to its lines
            </Link>
          </div>
          <label className="field mt-2 max-w-[330px]">
            <span>Beside</span>
            <select value={base ?? ''} onChange={(e) => setBase(e.target.value === '' ? null : Number(e.target.value))}>
              <option value="">the whole directory</option>
              {lists
                .filter((l) => l.subject === subject)
                .map((l) => (
                  <option key={l.id} value={l.id}>
                    {l.name}
                  </option>
                ))}
            </select>
          </label>
          {(told ?? notMade) && (
            <p role="alert" className="told mt-2">
              {told ?? notMade}
            </p>
          )}
          {profile?.facets.map((facet) => (
            <ProfileFacet
              key={facet.key}
              facet={facet}
              shown={shown?.key === facet.key ? shown.label : undefined}
              onShow={(label) => {
                setTab('records')
                setShown({ key: facet.key, label })
              }}
            />
          ))}
        </>
      }
      right={
        <>
          <TabRow
            label="Records"
            open={tab}
            onOpen={(next) => setTab(next as typeof tab)}
            tabs={[
              { key: 'records', title: shown ? 'Behind the figure' : 'On the list', total: tab === 'records' ? records.total : null },
              { key: 'alike', title: 'More like these', total: tab === 'alike' ? records.total : null },
            ]}
          >
            {tab === 'alike' && alike && (
              <button
                type="button"
                className="min-h-6 text-[13px] font-semibold whitespace-nowrap text-verdigris hover:underline"
                onClick={makeList}
              >
                Make lines of it
              </button>
            )}
          </TabRow>
          {tab === 'records' && shown && (
            <p className="quiet mt-2 flex items-start justify-between gap-3">
              <span>
                {FACETS[subject][shown.key].title}: {shown.label ?? 'unknown'}
              </span>
              <button type="button" className="font-semibold text-verdigris" onClick={() => setShown(null)}>
                Show all
              </button>
            </p>
          )}
          {tab === 'alike' && (
            <p className="quiet mt-2">
              {alike
                ? `By what sets these ${count(alike.examples)} apart from everyone else; they are left out themselves. A score above 0 means similar, and each record shows why.`
                : 'Comparing…'}
            </p>
          )}
          <RecordTable
            subject={subject}
            records={records}
            table={table}
            onTable={setTable}
            because={tab === 'alike' ? 'Why' : undefined}
            empty="Nobody."
            onOpen={setBeside}
            open={beside?.id ?? null}
          />
          {beside && <RecordBeside subject={subject} record={beside} onClose={() => setBeside(null)} />}
        </>
      }
    />
  )
}
