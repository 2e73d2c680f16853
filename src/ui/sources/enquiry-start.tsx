'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import { type Fillable, FILLABLES, type Of } from '@/core/sources/enquiry'

const NAME: Record<Fillable, string> = {
  email: 'email',
  phone: 'phone',
  role: 'role',
  organisation: 'organisation',
  address: 'postal address',
}

export interface StartActions {
  check: (of: Of) => Promise<ActionResult<number>>
  fill: (of: Of, fields: Fillable[]) => Promise<ActionResult<number>>
}

/** Whose addresses are checked, or whose gaps filled. What it may cost is shown before anything is paid. */
export function EnquiryStart({ of, actions }: { of: Of; actions: StartActions | null }) {
  const [fields, setFields] = useState<Fillable[]>([...FILLABLES])
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const go = (work: () => Promise<ActionResult<number>>) =>
    begin(async () => {
      const result = await work()
      if (result.ok) router.push(`/intake/enquiries/${result.value}`)
      else setTold(result.error)
    })
  return (
    <main className="leaf bg-leaf" style={{ minHeight: 'calc(100dvh - 53px)' }}>
      <div className="mx-auto max-w-[680px]">
        <h1 className="break-words">{of.name}</h1>
        <p className="quiet">
          Next you see how many there are, how many are complete already, and what the rest may cost. Nothing is bought before you confirm.
        </p>
        {!actions && <p className="mt-4 text-soft">Coordinators and managers use sources.</p>}
        {told && (
          <p role="alert" className="told mt-3">
            {told}
          </p>
        )}
        {actions && (
          <>
            <section className="mt-6" aria-labelledby="fill">
              <h2 id="fill">Fill gaps</h2>
              {'file' in of ? (
                <p className="mt-1">
                  For each row with an email address, a profile, or a name and organisation, a source is asked who it is. What it finds
                  stands beside the row’s own cells in a new file; no cell of yours is changed.
                </p>
              ) : (
                <fieldset className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
                  <legend className="mb-1">Where somebody has no</legend>
                  {FILLABLES.map((field) => (
                    <label key={field} className="flex items-center gap-2">
                      <input
                        type="checkbox"
                        checked={fields.includes(field)}
                        onChange={(event) => setFields(FILLABLES.filter((f) => (f === field ? event.target.checked : fields.includes(f))))}
                      />
                      {NAME[field]}
                    </label>
                  ))}
                </fieldset>
              )}
              <button
                type="button"
                className="button button-main mt-3"
                disabled={busy || fields.length === 0}
                onClick={() => go(() => actions.fill(of, fields))}
              >
                See what it would cost
              </button>
            </section>
            {!('file' in of) && (
              <section className="mt-8 border-t border-rule pt-5" aria-labelledby="check">
                <h2 id="check">Check email addresses</h2>
                <p className="mt-1">
                  Each is verified, uncertain (its domain takes mail for any name), or bad. Bad ones are closed. An address that was checked
                  not long ago costs nothing.
                </p>
                <button type="button" className="button button-main mt-3" disabled={busy} onClick={() => go(() => actions.check(of))}>
                  See how many there are
                </button>
              </section>
            )}
          </>
        )}
      </div>
    </main>
  )
}
