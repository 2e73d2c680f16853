import Link from 'next/link'
import type { PersonPage } from '@/core/views/record-views'
import { count, day } from '@/ui/book/figures'

/** The rows of files somebody was in, cell by cell as they came. */
export function AsItCame({ came }: { came: PersonPage['came'] }) {
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">
        As it came, {came.length === 1 ? 'in one row' : `in ${count(came.length)} rows`}
      </summary>
      {came.map((row) => (
        <div key={`${row.batch} ${row.row}`} className="mt-2 rounded-lg border border-rule p-3">
          <p className="quiet">
            <Link href={`/intake/${row.batch}`}>{row.file}</Link>, row {count(row.row)}, {day(row.at)}
          </p>
          <dl className="mt-1 grid grid-cols-[120px_1fr] gap-x-3 text-[13px]">
            {row.cells.map(({ title, cell }) => (
              <div key={title} className="contents">
                <dt className="break-words text-soft">{title}</dt>
                <dd className="break-words whitespace-pre-wrap">{cell}</dd>
              </div>
            ))}
          </dl>
        </div>
      ))}
    </details>
  )
}
