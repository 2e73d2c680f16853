'use client'

import Link from 'next/link'
import { useState } from 'react'
import type { LetterCheck } from '@/core/views/letter-views'
import { count } from '@/ui/book/figures'

/** As mail programs show a letter that says nothing of how it looks. */
const STYLE =
  'body{font:14px/20px system-ui,sans-serif;color:#1d2523;margin:0}hr{border:0;border-top:1px solid #ded7c8;margin:16px 0 10px}a{color:#1b5e55}'

/** The letter as one of its readers gets it, with the way to the others. */
export function LetterPreview({
  check,
  told,
  onChoose,
}: {
  check: LetterCheck | null
  told: string | null
  onChoose: (n: number) => void
}) {
  const [plain, setPlain] = useState(false)
  const shown = check?.shown
  return (
    <>
      <h2>As they get it</h2>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {check && !shown && <p className="quiet mt-2">Nobody gets this email.</p>}
      {check && shown && (
        <>
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <button type="button" className="button" disabled={shown.n === 0} onClick={() => onChoose(shown.n - 1)}>
              Previous person
            </button>
            <button type="button" className="button" disabled={shown.n + 1 >= check.people} onClick={() => onChoose(shown.n + 1)}>
              Next person
            </button>
            <span className="quiet">
              {count(shown.n + 1)} of {count(check.people)}
            </span>
            <label className="ml-auto flex items-center gap-2">
              <input type="checkbox" checked={plain} onChange={(event) => setPlain(event.target.checked)} />
              Plain text
            </label>
          </div>
          <dl className="mt-3 grid grid-cols-[80px_1fr] gap-x-3 gap-y-1 border-b border-rule pb-3">
            <dt className="quiet">To</dt>
            <dd>
              <Link href={`/directory/people/${shown.person}`} className="font-semibold">
                {shown.name}
              </Link>
              {shown.to ? ` · ${shown.to}` : ''}
            </dd>
            <dt className="quiet">Subject</dt>
            <dd data-testid="letter-subject">{shown.subject || '–'}</dd>
          </dl>
          {plain ? (
            <pre className="mt-3 font-sans whitespace-pre-wrap" data-testid="letter-text">
              {shown.text}
            </pre>
          ) : (
            <iframe
              title="The letter as HTML"
              data-testid="letter-html"
              className="mt-3 h-[60vh] w-full"
              sandbox=""
              srcDoc={`<style>${STYLE}</style>${shown.html}`}
            />
          )}
        </>
      )}
    </>
  )
}
