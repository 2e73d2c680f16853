import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText } from '@/core/lists/line'
import type { ListView, RecordsPage } from '@/core/views/list-views'
import { askInParts } from '@/ui/book/ask'
import type { Theirs } from './their-changes'

/** Asks for an account and a page of the records behind it. `heard` is handed the figures before the page is there. */
export const accountPage = async (
  body: object,
  signal: AbortSignal,
  heard: (part: { figures: ListFigures; fresh: number | null }) => void = () => {},
): Promise<RecordsPage> => askInParts('/api/list-account', { ...body, parts: true }, signal, heard)

/** A page with its cells in the order of the columns that are shown, where only some of them were `asked` for. */
export const withCells = ({ records, ...page }: RecordsPage, columns: readonly string[], asked: readonly string[]): RecordsPage => ({
  ...page,
  records: records.map((record) => ({ ...record, cells: columns.map((column) => record.cells?.[asked.indexOf(column)] ?? null) })),
})

/** A draft that was worked on from an edition that is not the latest any more. */
export function startingConflict({ draft, edition, savedBy, lines }: ListView): Theirs | null {
  return draft && draft.basedOn < edition ? { edition, by: savedBy, lines, basis: draft.basis } : null
}

/** What is said to those who move lines without seeing them move. */
export function announcementsFor(lines: Line[]) {
  const name = (id: string | number) => {
    const i = lines.findIndex((l) => l.id === id)
    return i < 0 ? 'the line' : `line ${i + 1}, ${lineText(lines[i])}`
  }
  return {
    onDragStart: ({ active }: { active: { id: string | number } }) => `Picked up ${name(active.id)}.`,
    onDragOver: ({ over }: { over: { id: string | number } | null }) => (over ? `Over ${name(over.id)}.` : ''),
    onDragEnd: ({ over }: { over: { id: string | number } | null }) => (over ? 'Put down.' : 'Put back.'),
    onDragCancel: () => 'Put back.',
  }
}
