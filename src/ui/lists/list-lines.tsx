'use client'

import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import type { ReactNode } from 'react'
import type { Subject } from '@/core/records/subject'
import type { Line } from '@/core/lists/line'
import { type LineWarning, warningsOf } from '@/core/lists/warnings'
import type { ListView as View } from '@/core/lists/view'
import type { ListFigures } from '@/core/lists/account'
import type { ListView } from '@/core/views/list-views'
import { AccountTable } from './account-table'
import type { Choices } from './form-props'
import { type LineActs, LineRow } from './line-row'
import { announcementsFor } from './list-asking'

/** The lines of a list with their figures, in an order that can be changed by pointer and by keyboard. */
export function ListLines({
  list,
  lines,
  whole,
  figures,
  subject,
  view,
  choices,
  acts,
  inHand,
  justAdded,
  talk,
  onMove,
}: {
  list: ListView
  lines: Line[]
  /** Those of the lines that are complete. */
  whole: Line[]
  figures: ListFigures | null
  subject: Subject
  view: View
  choices: Choices
  acts: LineActs
  inHand: string | null
  justAdded: string | null
  /** The comments on a line, where there are any. */
  talk: (line: Line, number: number) => ReactNode
  onMove: (from: number, to: number) => void
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements: announcementsFor(lines) }}
      onDragEnd={({ active, over }) => {
        const [from, to] = [lines.findIndex((l) => l.id === active.id), lines.findIndex((l) => l.id === over?.id)]
        if (from > 0 && to > 0 && from !== to) onMove(from, to)
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
              choices={choices}
              warnings={warned(whole, line, figures)}
              talk={talk(line, i + 1)}
              saved={list.lines.some((l) => l.id === line.id)}
            />
          ))}
        </SortableContext>
      </AccountTable>
    </DndContext>
  )
}

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
