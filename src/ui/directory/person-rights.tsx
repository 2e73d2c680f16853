'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import { Confirm } from '@/ui/forms/confirm'

/** What somebody may ask for: why they were contacted, what is known of them, and to be erased. */
export function PersonRights({
  person,
  name,
  mayFile,
  erase,
}: {
  person: number
  name: string
  mayFile: boolean
  /** Absent for whoever may not. */
  erase: ((person: number) => Promise<ActionResult<unknown>>) | null
}) {
  const router = useRouter()
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <section className="mt-5" aria-label="On their request">
      <h2>If they ask</h2>
      <p className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        <Link href={`/directory/people/${person}/proof`} className="font-semibold text-verdigris">
          Why contacted, why not
        </Link>
        {mayFile && (
          <>
            <a href={`/directory/people/${person}/file?as=html`} className="font-semibold text-verdigris" download>
              What is known, as a page
            </a>
            <a href={`/directory/people/${person}/file?as=json`} className="font-semibold text-verdigris" download>
              as JSON
            </a>
          </>
        )}
      </p>
      {erase && (
        <Confirm
          title={`Erase ${name}?`}
          act="Erase for good"
          onAct={() =>
            begin(async () => {
              const result = await erase(person)
              setTold(result.ok ? null : result.error)
              router.refresh()
            })
          }
          trigger={
            <button type="button" className="button mt-2" disabled={busy}>
              Erase on request
            </button>
          }
        >
          <p>
            What is known of them goes: their record, the rows and the uploads they came in with, files of rounds they were in, and words
            about them in notes. It cannot be undone.
          </p>
          <p className="mt-2">
            A suppression of their email, phone and profile stays as keys that tell nothing, so that they are caught when they come in
            again. Counts of past rounds stay, and an entry says who erased them and when.
          </p>
          <p className="quiet mt-2">
            The database clears the old rows from its files at its next cleaning, usually within a day. Its write-ahead log holds them until
            it is written over, and backups until you delete those made before today.
          </p>
        </Confirm>
      )}
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
    </section>
  )
}
