'use client'

import { useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { LETTER_FIELDS } from '@/core/rounds/letter'
import type { Letter, LetterCheck, LetterPage } from '@/core/views/letter-views'
import { count, day } from '@/ui/book/figures'
import { Confirm } from '@/ui/forms/confirm'

const RATES = [60, 300, 600, 1200, 3000]

/** The letter of a round: who sends it, what it says, what its readers lack, and sending it. */
export function LetterForm({
  page,
  letter,
  check,
  saved,
  busy,
  onChange,
  onSave,
  onTry,
  onSend,
}: {
  page: LetterPage
  letter: Letter
  /** The letter as it stands now, held against its readers; null until it was. */
  check: LetterCheck | null
  saved: boolean
  busy: boolean
  onChange: (letter: Letter) => void
  onSave: () => void
  onTry: () => void
  onSend: (perMinute: number) => void
}) {
  const body = useRef<HTMLTextAreaElement>(null)
  const [perMinute, setPerMinute] = useState(300)
  const write = (part: Partial<Letter>) => onChange({ ...letter, ...part })
  const put = (field: string) => {
    const at = body.current
    if (!at) return
    const [from, to] = [at.selectionStart, at.selectionEnd]
    // At once, so that the place for the next key is set before the key comes.
    flushSync(() => write({ body: `${letter.body.slice(0, from)}{${field}}${letter.body.slice(to)}` }))
    at.focus()
    at.setSelectionRange(from + field.length + 2, from + field.length + 2)
  }
  const gaps = check?.gaps ?? []
  const lacking = gaps.filter(({ standIn }) => standIn === null)
  const ready = saved && check !== null && check.troubles.length === 0 && lacking.length === 0 && check.people > 0 && check.due !== 0
  const only = !page.mayWrite
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        onSave()
      }}
    >
      <div className="grid grid-cols-2 gap-3">
        <label className="field">
          <span>Sender’s name</span>
          <input
            value={letter.senderName}
            readOnly={only}
            maxLength={100}
            onChange={(event) => write({ senderName: event.target.value })}
          />
        </label>
        <label className="field">
          <span>Sender’s email address</span>
          <input type="email" value={letter.senderEmail} readOnly={only} onChange={(event) => write({ senderEmail: event.target.value })} />
        </label>
      </div>
      <label className="field">
        <span>Sender’s postal address, which stands in every email</span>
        <input value={letter.address} readOnly={only} maxLength={400} onChange={(event) => write({ address: event.target.value })} />
      </label>
      <label className="field">
        <span>Subject</span>
        <input value={letter.subject} readOnly={only} maxLength={200} onChange={(event) => write({ subject: event.target.value })} />
      </label>
      <label className="field">
        <span>Letter</span>
        <textarea
          ref={body}
          rows={8}
          value={letter.body}
          readOnly={only}
          maxLength={20_000}
          aria-describedby="letter-help"
          onChange={(event) => write({ body: event.target.value })}
        />
      </label>
      {!only && (
        <fieldset className="flex flex-wrap items-center gap-1.5">
          <legend className="sr-only">Put a field into the letter</legend>
          <span className="quiet">Put in:</span>
          {LETTER_FIELDS.map((field) => (
            <button key={field} type="button" className="chip" onClick={() => put(field)}>
              {field}
            </button>
          ))}
        </fieldset>
      )}
      <p id="letter-help" className="quiet">
        {'{given name|there}'} puts in the given name, or “there” where none is known. **Bold**, *italic* and [a link](https://…) can be
        written so. The sender, the address and a link to stop these emails stand under every email.
      </p>
      <section aria-label="What to look at" className="grid gap-1.5" aria-live="polite">
        {check?.troubles.map((trouble) => (
          <p key={trouble} className="told">
            {trouble}
          </p>
        ))}
        {gaps.map(({ field, people, standIn }) => (
          <p key={field} className={standIn === null ? 'told' : 'quiet'}>
            {count(people)} of {count(check?.people)} people have no {field}
            {standIn === null
              ? `. Nothing stands in for it: write {${field}|something else}.`
              : standIn === ''
                ? '; it is left out for them.'
                : `; “${standIn}” stands in for it.`}
          </p>
        ))}
        {check && check.people > 0 && check.troubles.length === 0 && gaps.length === 0 && (
          <p className="quiet">Every field is known for all {count(check.people)} people.</p>
        )}
        {check?.people === 0 && <p className="quiet">Nobody is clear to contact by email in this round.</p>}
        {page.takenBy.length > 0 && page.state === 'released' && (
          <p className="said">
            The email file of this round was downloaded by {page.takenBy.map(({ name, at }) => `${name} on ${day(at)}`).join(', ')}. Make
            sure that nobody sends from it, too.
          </p>
        )}
      </section>
      {!only && (
        <div className="flex flex-wrap items-center gap-2">
          <button type="submit" className={`button ${ready ? '' : 'button-main'}`} disabled={busy || saved}>
            {saved ? 'Saved' : 'Save letter'}
          </button>
          <button type="button" className="button" disabled={busy || !check || check.people === 0} onClick={onTry}>
            Send one to me
          </button>
          {page.state === 'released' ? (
            <Confirm
              title={`Send ${count(check?.due)} emails?`}
              act={`Send ${count(check?.due)} emails`}
              onAct={() => onSend(perMinute)}
              trigger={
                <button type="button" className="button button-main" disabled={busy || !ready}>
                  Send the emails
                </button>
              }
            >
              <p>
                From {letter.senderName}, {letter.senderEmail}: “{letter.subject}”. Each is recorded as a contact of this round. Whoever
                must not be contacted any more is left out at the moment their email would leave. Emails that have left cannot be taken
                back.
                {check && check.due !== null && check.due < check.people
                  ? ` ${count(check.people - check.due)} of ${count(check.people)} were contacted or stopped already.`
                  : ''}
              </p>
              <label className="field mt-3 max-w-[220px]">
                <span>At most so many a minute</span>
                <select value={perMinute} onChange={(event) => setPerMinute(Number(event.target.value))}>
                  {RATES.map((rate) => (
                    <option key={rate} value={rate}>
                      {count(rate)}
                    </option>
                  ))}
                </select>
              </label>
            </Confirm>
          ) : (
            <span className="quiet">Emails are sent once the round is released.</span>
          )}
        </div>
      )}
      {only && (
        <p className="quiet">
          {page.state === 'closed' ? 'The round is closed.' : 'Coordinators and managers who may use the list write and send its emails.'}
        </p>
      )}
    </form>
  )
}
