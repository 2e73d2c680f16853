'use client'

import { type BatchIndexRow, OUTCOMES } from '@/core/views/intake-views'
import Link from 'next/link'
import { DropFile } from '@/ui/forms/drop-file'
import { count, day } from '@/ui/book/figures'

const TONE: Record<string, string> = { new: 'text-verdigris', 'in doubt': 'text-ochre', refused: 'text-madder' }

/** Where files come in, and every batch that did. */
export function IntakeIndex({ batches, mayBringIn }: { batches: BatchIndexRow[]; mayBringIn: boolean }) {
  return (
    <main className="leaf bg-leaf" style={{ minHeight: 'calc(100dvh - 53px)' }}>
      <div className="mx-auto max-w-[1080px]">
        <h1>Intake</h1>
        <p className="quiet">
          Import people, contacts made elsewhere, or suppressions. Every row is accounted for, and the whole file is kept.
        </p>
        <p className="mt-2">
          <Link href="/intake/enquiries">Outside sources</Link>{' '}
          <span className="quiet">find organisations and premises, check addresses, fill gaps</span>
        </p>
        {mayBringIn ? <DropFile /> : <p className="mt-4 text-soft">Coordinators and managers import files.</p>}
        {batches.length === 0 ? (
          <p className="mt-8 text-soft">No files imported yet.</p>
        ) : (
          <table className="account mt-6">
            <thead>
              <tr>
                <th scope="col">File</th>
                {OUTCOMES.map((outcome) => (
                  <th key={outcome} scope="col" className="figure">
                    {outcome.slice(0, 1).toUpperCase() + outcome.slice(1)}
                  </th>
                ))}
                <th scope="col" className="figure balance">
                  Rows
                </th>
              </tr>
            </thead>
            <tbody>
              {batches.map((batch) => (
                <tr key={batch.id}>
                  <td>
                    <Link prefetch={false} href={`/intake/${batch.id}`} className="font-semibold break-words no-underline hover:underline">
                      {batch.fileName}
                    </Link>
                    <span className="quiet block">
                      {batch.kind} · {day(batch.at)} by {batch.by}
                      {batch.state !== 'done' && ` · ${STATE[batch.state] ?? batch.state}`}
                    </span>
                  </td>
                  {OUTCOMES.map((outcome) => (
                    <td key={outcome} className={`figure ${TONE[outcome] ?? ''}`}>
                      {batch.counts[outcome] ? count(batch.counts[outcome]) : ''}
                    </td>
                  ))}
                  <td className="figure balance">{count(batch.rows)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  )
}

const STATE: Record<string, string> = {
  mapping: 'waiting for you to map its columns',
  queued: 'waits its turn',
  running: 'being imported',
  failed: 'could not be read to the end',
}
