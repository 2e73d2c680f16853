'use client'

import { Upload } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { sendFile } from './send-file'

const KINDS = '.csv,.tsv,.tab,.txt,.xlsx,.jsonl,.ndjson,.geojson,.vcf,.vcard,.zip'

/** Takes in a file that is chosen or dropped, or rows that are pasted. */
export function DropFile() {
  const router = useRouter()
  const picker = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const [told, setTold] = useState<string | null>(null)
  const [part, setPart] = useState<number | null>(null)
  const [pasted, setPasted] = useState('')
  const send = async (file: Blob | undefined, name: string) => {
    if (!file) return
    setPart(0)
    setTold(null)
    try {
      router.push(`/intake/${await sendFile(file, name, setPart)}`)
    } catch (error) {
      setTold((error as Error).message)
      setPart(null)
    }
  }
  const chosen = (file: File | undefined) => void send(file, file?.name ?? '')
  return (
    <>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: dropping is a shortcut; the button in it does the same */}
      <div
        className={`mt-4 grid justify-items-center gap-2 rounded-lg border-2 border-dashed px-6 py-7 ${over ? 'border-verdigris bg-wash' : 'border-strong'}`}
        onDragOver={(event) => {
          event.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault()
          setOver(false)
          chosen(event.dataTransfer.files[0])
        }}
      >
        <button type="button" className="button button-main" onClick={() => picker.current?.click()} disabled={part !== null}>
          <Upload size={16} aria-hidden="true" />{' '}
          {part === null ? 'Choose a file' : part < 1 ? `${Math.round(part * 100)} % is here` : 'Reading the file'}
        </button>
        <input
          ref={picker}
          type="file"
          accept={KINDS}
          aria-label="File"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => chosen(event.target.files?.[0])}
        />
        <p className="quiet">
          or drop it here: CSV, a workbook, JSON Lines, GeoJSON, vCards, or an archive of them, up to 500 MB. You see how the rows will be
          stored before anything is saved.
        </p>
        {told && (
          <p role="alert" className="told">
            {told}
          </p>
        )}
      </div>
      <details className="mt-3">
        <summary className="cursor-pointer font-semibold text-verdigris">Paste rows instead</summary>
        <form
          className="mt-2 grid gap-2.5"
          onSubmit={(event) => {
            event.preventDefault()
            void send(new Blob([pasted], { type: 'text/plain' }), 'pasted rows.txt')
          }}
        >
          <label className="field">
            <span>Rows, with or without headings, copied from a sheet or an email</span>
            <textarea rows={6} value={pasted} onChange={(event) => setPasted(event.target.value)} />
          </label>
          <button type="submit" className="button justify-self-end" disabled={part !== null || pasted.trim() === ''}>
            Show rows
          </button>
        </form>
      </details>
    </>
  )
}
