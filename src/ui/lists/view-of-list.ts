import type { Line } from '@/core/lists/line'
import type { ListView as View } from '@/core/lists/view'

const COLUMNS = ['out', 'unknown', 'in', 'stayedUnknown'] as const

/** Reads a view from the words of an address: null where they are none of a list with these lines. */
export const viewIn =
  (lines: readonly Line[]) =>
  ({ tab, line, column }: Record<string, string>): View | null => {
    const known = lines.some((l) => l.id === line)
    if (tab === 'never') return { tab }
    if ((tab === 'out' || tab === 'unknown') && (line === undefined || known)) return { tab, line }
    const own = COLUMNS.find((c) => c === column)
    return tab === 'moved' && known && own ? { tab, line, column: own } : null
  }
