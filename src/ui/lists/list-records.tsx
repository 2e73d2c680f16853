'use client'

import { SavedColumnSets } from '@/ui/tables/saved-column-sets'
import type { ListActions } from './list-actions'
import type { SavedColumns } from '@/core/facets/table'
import { useBesideInAddress } from '@/ui/book/view-in-address'
import { useState } from 'react'
import { type Fill, FillUnknown } from './fill-unknown'
import { FACETS } from '@/core/facets/registry'
import type { TableSet } from '@/core/facets/table'
import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText, subjectOf } from '@/core/lists/line'
import { allows } from '@/core/records/list-roles'
import type { ListView as View } from '@/core/lists/view'
import type { ActionResult } from '@/core/views/action-result'
import type { ListView, RecordView } from '@/core/views/list-views'
import { ChosenBar, type MarkAction, type Marked, type UnmarkAction } from '@/ui/tables/chosen-bar'
import { CrowdMenu } from '@/ui/tables/crowd-menu'
import { count, day } from '@/ui/book/figures'
import { type Group, GroupBy, ListGroups } from './list-groups'
import { RecordBeside } from '@/ui/directory/record-beside'
import { RecordTable } from '@/ui/tables/record-table'
import { useChosen } from '@/ui/tables/use-chosen'
import { TabRow } from '@/ui/book/tab-row'
import { TableSetup } from '@/ui/tables/table-setup'
import type { Records } from '@/ui/tables/use-records'

interface ListRecordsProps {
  list: ListView
  lines: Line[]
  /** Those lines that are whole and counted. */
  whole: Line[]
  view: View
  onView: (view: View) => void
  records: Records
  figures: ListFigures | null
  fresh: number | null
  lookedAt: string | null
  /** Grows when the data changed. */
  heard: number
  table: TableSet
  onTable: (table: TableSet) => void
  columnSets: SavedColumns[]
  saveColumns: ListActions['saveColumns']
  dropColumns: ListActions['dropColumns']
  group: Group | null
  onGroup: (group: Group | null) => void
  team: { id: string; name: string }[]
  onPick: (side: 'in' | 'out', who: Marked, reason: string) => Promise<void>
  mark: MarkAction
  unmark: UnmarkAction
  /** Whether lines are not saved yet. */
  dirty: boolean
  /** Of premises: makes a batch of people of their owners; absent where this person may not. */
  owners?: (of: { lines: Line[]; view: View }) => Promise<ActionResult<{ batch: number; people: number; left: number }>>
  /** Asks a source for what people lack; absent where this person may not. */
  fill?: Fill
}

/** The records behind any figure of a list: as a table, counted by a column, chosen, and one of them beside. */
export function ListRecords({
  list,
  lines,
  whole,
  view,
  onView,
  records,
  figures,
  fresh,
  lookedAt,
  heard,
  table,
  onTable,
  columnSets,
  saveColumns,
  dropColumns,
  group,
  onGroup,
  team,
  onPick,
  mark,
  unmark,
  owners,
  dirty,
  fill,
}: ListRecordsProps) {
  const [by, setBy] = useState<string | null>(null)
  const [chosen, choose, chooseNone] = useChosen()
  const [besideId, setBesideId] = useBesideInAddress()
  // A record that is not among those fetched so far stays as it was when it was opened.
  const [opened, setOpened] = useState<RecordView | null>(null)
  const beside = besideId === null ? null : (records.find(besideId) ?? (opened?.id === besideId ? opened : null))
  const setBeside = (record: RecordView | null) => {
    setOpened(record)
    setBesideId(record?.id ?? null)
  }
  const subject = subjectOf(lines)
  const tabs = figures?.tabs
  const chosenLine = 'line' in view ? lines.find((l) => l.id === view.line) : undefined
  const lineFigures = figures?.lines.find((own) => own.id === chosenLine?.id)
  const pick = async (side: 'in' | 'out', who: Marked, reason: string) => {
    await onPick(side, who, reason)
    chooseNone()
  }
  return (
    <>
      <TabRow
        label="Tabs of people"
        open={view.tab}
        onOpen={(tab) => onView({ tab } as View)}
        tabs={[
          { key: 'on', title: 'On the list', total: tabs?.on ?? null },
          { key: 'out', title: 'Left out', total: tabs?.leftOut ?? null },
          { key: 'unknown', title: 'Unknown', total: tabs?.unknown ?? null },
          ...(fresh !== null ? [{ key: 'new', title: 'New since you looked', total: fresh }] : []),
          ...(tabs && tabs.never > 0 ? [{ key: 'never', title: 'Never on the page', total: tabs.never }] : []),
        ]}
      >
        <CrowdMenu
          // A menu for all behind the tab would not be for those of the group that are shown.
          total={group === null ? records.total : null}
          of={list.id}
          found={{ list: list.id, lines: whole, view }}
          // The list as it is saved is what a line of another list can name.
          {...(subject === 'organisation' && view.tab === 'on' && group === null && !dirty ? { deciders: list.id } : {})}
          {...(owners ? { owners: () => owners({ lines: whole, view }) } : {})}
          {...(allows(list.role, 'use')
            ? {
                csv: {
                  url: `/api/lists/${list.id}/csv`,
                  body: {
                    lines: whole,
                    view,
                    columns: table.columns.filter((key) => Object.hasOwn(FACETS[subject], key)),
                    openers: table.columns.includes('opener'),
                    sort: table.sort,
                  },
                },
              }
            : {})}
        />
      </TabRow>
      {view.tab === 'new' && (
        <p className="quiet mt-2 flex items-start justify-between gap-3">
          <span>
            Only the {count(fresh)} who joined since you last looked{lookedAt ? ` on ${day(lookedAt)}` : ''}; the list holds{' '}
            {count(tabs?.on)}.
          </span>
          <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => onView({ tab: 'on' })}>
            Show all
          </button>
        </p>
      )}
      {chosenLine && (
        <p className="quiet mt-2 flex items-start justify-between gap-3">
          <span>
            Only {records.total === null ? '' : count(records.total)} {view.tab === 'moved' ? MOVED[view.column] : 'decided by'} line{' '}
            {lines.indexOf(chosenLine) + 1}: {lineText(chosenLine, subject)}
          </span>
          <button
            type="button"
            className="font-semibold whitespace-nowrap text-verdigris"
            onClick={() => onView({ tab: view.tab === 'moved' ? 'on' : view.tab } as View)}
          >
            Show all
          </button>
        </p>
      )}
      {fill &&
        subject === 'person' &&
        lineFigures &&
        (view.tab === 'unknown' || view.tab === 'moved') &&
        chosenLine &&
        'criterion' in chosenLine && (
          <FillUnknown
            list={list.id}
            line={chosenLine}
            figures={lineFigures}
            saved={list.lines.some((own) => JSON.stringify(own) === JSON.stringify(chosenLine))}
            fill={fill}
          />
        )}
      {by !== null && group === null ? (
        <ListGroups subject={subject} lines={whole} view={view} by={by} heard={heard} onBy={setBy} onGroup={onGroup} />
      ) : (
        <>
          <div className="mt-2 flex flex-wrap items-center justify-between gap-3">
            <GroupBy subject={subject} by={by} onBy={setBy} />
            <TableSetup subject={subject} table={table} onTable={onTable}>
              <SavedColumnSets subject={subject} table={table} onTable={onTable} first={columnSets} save={saveColumns} drop={dropColumns} />
            </TableSetup>
          </div>
          {group && (
            <p className="quiet mt-1 flex items-start justify-between gap-3">
              <span>
                Only {records.total === null ? '' : count(records.total)} with {FACETS[subject][group.key].title.toLowerCase()}{' '}
                {group.label === null ? 'unknown' : `“${group.label}”`}
              </span>
              <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => onGroup(null)}>
                Back to the count
              </button>
            </p>
          )}
          <ChosenBar
            subject={subject}
            chosen={chosen}
            total={records.total}
            all={{ lines: whole, view, having: group }}
            team={team}
            onPick={pick}
            onClear={chooseNone}
            mark={mark}
            unmark={unmark}
          />
          <RecordTable
            subject={subject}
            records={records}
            table={table}
            onTable={onTable}
            because={view.tab === 'out' || view.tab === 'unknown' ? 'Deciding line' : undefined}
            empty={EMPTY[view.tab]}
            chosen={chosen}
            onChoose={choose}
            onOpen={setBeside}
            open={beside?.id ?? null}
          />
          {beside && <RecordBeside subject={subject} record={beside} onClose={() => setBeside(null)} />}
        </>
      )}
    </>
  )
}

const MOVED = { out: 'taken out by', unknown: 'unknown to', in: 'taken in by', stayedUnknown: 'unknown to, and kept by,' } as const

const EMPTY: Record<View['tab'], string> = {
  on: 'Nobody is on the list. Remove a line, or add people with one.',
  out: 'No line takes anybody out.',
  unknown: 'Nothing is unknown: every line has a value for everyone.',
  never: 'Everyone in the directory was on the list at some line.',
  new: 'Nobody has joined since you last looked.',
  moved: 'This line changed nothing.',
}
