import { useState } from 'react'
import type { WhoKnows } from '@/core/views/tie-views'

/** A question to a colleague for an introduction, with a note and whom it could go through. */
export function AskForm({
  name,
  through,
  busy,
  onAsk,
  onCancel,
}: {
  name: string
  through: WhoKnows['outside']
  busy: boolean
  onAsk: (through: number | null, note: string) => void
  onCancel: () => void
}) {
  const [note, setNote] = useState('')
  const [by, setBy] = useState('')
  return (
    <form
      className="mt-2 grid gap-2 rounded-lg border border-strong p-3"
      aria-label={`Ask ${name} for an introduction`}
      onSubmit={(event) => {
        event.preventDefault()
        onAsk(by === '' ? null : Number(by), note)
      }}
    >
      <label className="field">
        <span>What {name} should know</span>
        <textarea rows={2} maxLength={1000} value={note} onChange={(event) => setNote(event.target.value)} />
      </label>
      {through.length > 0 && (
        <label className="field">
          <span>Through</span>
          <select value={by} onChange={(event) => setBy(event.target.value)}>
            <option value="">directly</option>
            {through.map((own) => (
              <option key={own.id} value={own.id}>
                {own.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy}>
          Ask {name}
        </button>
        <button type="button" className="button" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </form>
  )
}
