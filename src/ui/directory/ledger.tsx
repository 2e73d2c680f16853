import type { LedgerItem } from '@/core/views/record-views'
import { day } from '@/ui/book/figures'

/** The dated history of a record, the newest first. */
export function Ledger({ items }: { items: LedgerItem[] }) {
  return (
    <ol className="mt-2">
      {items.map((entry) => (
        <li key={entry.id} className="grid grid-cols-[92px_1fr_auto] gap-3 border-b border-rule py-2">
          <time className="text-soft tabular-nums" dateTime={entry.at}>
            {day(entry.at)}
          </time>
          <span className="min-w-0 break-words">
            <span className="font-medium">{entry.title}</span>
            {entry.detail && <span className="quiet block">{entry.detail}</span>}
          </span>
          <span className="quiet">{entry.by}</span>
        </li>
      ))}
    </ol>
  )
}
