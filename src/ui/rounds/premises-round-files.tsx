'use client'

import { Download } from 'lucide-react'
import { useState } from 'react'
import type { LettersStand, PremisesRoundPage } from '@/core/views/premises-round-views'
import { count, day as dayOf } from '@/ui/book/figures'
import { Confirm } from '@/ui/forms/confirm'
import { LabelsDialog } from './labels-dialog'

/** The file and the labels of a released round of premises; recording that its letters were posted; closing it. */
export function PremisesRoundFiles({
  round,
  stand,
  today,
  busy,
  onPosted,
  onUnposted,
  onClose,
}: {
  round: PremisesRoundPage
  stand: LettersStand | null
  /** The team's calendar day (YYYY-MM-DD). */
  today: string
  busy: boolean
  onPosted: (day: string) => void
  onUnposted: () => void
  onClose: () => void
}) {
  const [day, setDay] = useState(today)
  const { file } = round
  const out = round.state === 'released'
  return (
    <section aria-label="Files" className="mt-4">
      <div className="flex flex-wrap items-center gap-2">
        {file?.withdrawn ? (
          <span className="text-soft">Letters file, {count(file.rows)}: withdrawn, since somebody in it was erased</span>
        ) : (
          file &&
          round.mayTake && (
            <>
              <a
                href={`/rounds/${round.id}/files/post`}
                className="button"
                title={file.leftOut === 0 ? `SHA-256 ${file.sha256}` : undefined}
                download
              >
                <Download size={15} aria-hidden="true" /> Letters file, {count(file.rows - file.leftOut)}
              </a>
              <LabelsDialog round={round.id} />
              <a
                href={`/rounds/${round.id}/files/all`}
                className="font-semibold text-verdigris"
                title="The file, its columns, and a manifest with checksums, in one archive"
                download
              >
                Download all
              </a>
            </>
          )
        )}
        {out && round.mayRelease && (
          <button type="button" className="button ml-auto" onClick={onClose} disabled={busy}>
            Close the round
          </button>
        )}
      </div>
      {file && file.leftOut > 0 && !file.withdrawn && (
        <p className="said mt-2">
          The file and the labels leave out {count(file.leftOut)} of {count(file.rows)} letters, which must not leave any more.{' '}
          {file.takenBy.length === 0
            ? 'Nobody has downloaded a file with them.'
            : `A file with them was downloaded by ${file.takenBy.map(({ name, at }) => `${name} on ${dayOf(at)}`).join(', ')}.`}{' '}
          {round.mayTake && (
            <a href={`/rounds/${round.id}/files/post?as=released`} title={`SHA-256 ${file.sha256}`} download>
              Download the file as it was released
            </a>
          )}
        </p>
      )}
      {out && round.mayTake && stand && (
        <div className="mt-3 flex flex-wrap items-end gap-2">
          {stand.toPost + stand.stopped > 0 && stand.toPost > 0 && (
            <>
              <label className="field">
                <span>Posted on</span>
                <input type="date" value={day} max={today} onChange={(event) => setDay(event.target.value)} />
              </label>
              <Confirm
                title="Record the letters as posted?"
                act={`Record ${count(stand.toPost)} as posted`}
                onAct={() => onPosted(day)}
                trigger={
                  <button type="button" className="button button-main" disabled={busy || day === ''}>
                    Record as posted
                  </button>
                }
              >
                <p>
                  {count(stand.toPost)} letters become contacts of their premises, and of whom they name.{' '}
                  {stand.stopped > 0 && `${count(stand.stopped)} that must not leave any more are stopped. `}
                  It can be taken back until the round is closed.
                </p>
              </Confirm>
            </>
          )}
          {stand.posted > 0 && (
            <button type="button" className="button" onClick={onUnposted} disabled={busy}>
              Take back “posted”
            </button>
          )}
        </div>
      )}
      <p className="quiet mt-2">
        {out
          ? 'Closing records “not worked” for every letter that was not posted. Starting the next round closes this one too.'
          : 'The file is the one that was released, without letters that must not leave any more.'}
      </p>
    </section>
  )
}
