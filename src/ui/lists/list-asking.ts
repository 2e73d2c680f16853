import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText } from '@/core/lists/line'
import type { ListView, RecordsPage } from '@/core/views/list-views'
import { askInParts, Told } from '@/ui/book/ask'
import type { Theirs } from './their-changes'

/** Asks for the account; while the engine is away says so and asks again until it is back. `heard` is handed the figures before the page is there. */
export async function accountWhenUp(
  body: object,
  signal: AbortSignal,
  tell: (text: string) => void,
  heard: (part: { figures: ListFigures; fresh: number | null }) => void = () => {},
): Promise<{ page: RecordsPage }> {
  for (;;) {
    try {
      return { page: await askInParts('/api/list-account', { ...body, parts: true }, signal, heard) }
    } catch (error) {
      if (!(error instanceof Told) || !error.away || signal.aborted) throw error
      tell(error.message)
      await new Promise((resolve) => setTimeout(resolve, 1500))
      if (signal.aborted) throw error
    }
  }
}

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
