'use client'

import { useRef, useState } from 'react'
import type { ImportedChanges } from '@/core/views/change-views'
import { count } from '@/ui/book/figures'
import { sendFileTo } from '@/ui/forms/send-file'

/** Imports a file of changes, and tells what became of its rows. */
export function ImportChanges() {
  const picker = useRef<HTMLInputElement>(null)
  const [part, setPart] = useState<number | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [done, setDone] = useState<{ name: string; said: ImportedChanges } | null>(null)
  const send = async (file: File | undefined) => {
    if (!file) return
    setPart(0)
    setTold(null)
    setDone(null)
    try {
      setDone({ name: file.name, said: await sendFileTo<ImportedChanges>('/api/changes/file', file, file.name, setPart) })
    } catch (error) {
      setTold((error as Error).message)
    }
    setPart(null)
  }
  return (
    <section aria-label="Import a file of changes" className="mt-3">
      <p className="quiet">
        A file of changes has a column <i>What</i> (left, new role, or a kind of change), <i>Day</i> or <i>Seen</i>, and <i>Person</i> or{' '}
        <i>Organisation</i>; others are <i>Email</i>, <i>Before</i>, <i>After</i>, <i>Note</i>, <i>Link</i> and <i>ID</i>.
      </p>
      <input
        ref={picker}
        type="file"
        className="sr-only"
        aria-label="File of changes"
        tabIndex={-1}
        accept=".csv,.tsv,.txt,.xlsx,.jsonl"
        onChange={(event) => {
          void send(event.target.files?.[0])
          event.target.value = ''
        }}
      />
      <button type="button" className="button mt-1.5 px-2! py-0.5!" disabled={part !== null} onClick={() => picker.current?.click()}>
        {part === null ? 'Import changes' : 'Importing changes'}
      </button>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {done && <Outcome name={done.name} said={done.said} />}
    </section>
  )
}

function Outcome({ name, said }: { name: string; said: ImportedChanges }) {
  const rows: [text: string, n: number][] = [
    ['reported', said.reported],
    ['known already', said.known],
    ['about nobody in the directory', said.nobody],
    ['could be about several records', said.inDoubt],
    ['could not be read', said.refused],
  ]
  return (
    <div role="status">
      <table className="account mt-2" aria-label={`What became of ${name}`}>
        <thead>
          <tr>
            <th scope="col">{name}</th>
            <th scope="col" className="figure balance">
              Rows
            </th>
          </tr>
        </thead>
        <tbody>
          {rows
            .filter(([, n]) => n > 0)
            .map(([text, n]) => (
              <tr key={text}>
                <td className="first-letter:uppercase">{text}</td>
                <td className="figure balance">{count(n)}</td>
              </tr>
            ))}
          <tr className="total">
            <td>All rows</td>
            <td className="figure balance">{count(said.rows)}</td>
          </tr>
        </tbody>
      </table>
      {said.not.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-verdigris">Rows that were not reported</summary>
          <ul className="quiet mt-1">
            {said.not.map(({ row, why }) => (
              <li key={row}>
                Row {count(row)}: {why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  )
}
