import { Download } from 'lucide-react'
import Link from 'next/link'
import type { RoundPage } from '@/core/views/round-views'
import { CHANNEL_NAME, CHANNEL_TITLE } from '@/core/records/channels'
import { count, day } from '@/ui/book/figures'
import { LabelsDialog } from './labels-dialog'
import { type LayoutActions, LayoutDialog } from './layout-dialog'
import { type ShareActions, ShareDialog } from './share-dialog'

/** The files of a released round, and closing it. */
export function RoundFiles({
  round,
  busy,
  actions,
  onClose,
  onChanged,
}: {
  round: RoundPage
  busy: boolean
  actions: LayoutActions & ShareActions
  onClose: () => void
  onChanged: () => void
}) {
  return (
    <section aria-label="Files" className="mt-4">
      <div className="flex flex-wrap items-center gap-2">
        {round.files.map((file) =>
          file.withdrawnAt ? (
            <span key={file.channel} className="text-soft" title={`SHA-256 ${file.sha256}`}>
              {CHANNEL_TITLE[file.channel]} file, {count(file.rows)}: withdrawn, since somebody in it was erased
            </span>
          ) : round.mayTake ? (
            <a
              key={file.channel}
              href={`/rounds/${round.id}/files/${file.channel}`}
              className="button"
              title={file.leftOut === 0 ? `SHA-256 ${file.sha256}` : undefined}
              download
            >
              <Download size={15} aria-hidden="true" /> {CHANNEL_TITLE[file.channel]} file, {count(file.rows - file.leftOut)}
            </a>
          ) : (
            <span key={file.channel} title="You can see this list but not download its files.">
              {CHANNEL_TITLE[file.channel]} file, {count(file.rows)}
            </span>
          ),
        )}
        {round.mayTake && <LayoutDialog round={round} actions={actions} onSaved={onChanged} />}
        {round.mayRelease && round.state === 'released' && <ShareDialog round={round} actions={actions} onShared={onChanged} />}
        {round.mayTake && round.files.some(({ channel, rows, withdrawnAt }) => channel === 'post' && rows > 0 && !withdrawnAt) && (
          <LabelsDialog round={round.id} />
        )}
        {round.mayTake && round.files.some(({ withdrawnAt }) => !withdrawnAt) && (
          <a
            href={`/rounds/${round.id}/files/all`}
            className="font-semibold text-verdigris"
            title="Each file, its columns, and a manifest with checksums, in one archive"
            download
          >
            Download all
          </a>
        )}
        {round.mayTake && (
          <a
            href={`/rounds/${round.id}/files/about`}
            className="font-semibold text-verdigris"
            title="List, edition, columns, rows and checksums, for whoever receives the files"
            download
          >
            Download file details
          </a>
        )}
        {round.state === 'released' && round.mayRelease && !round.base && (
          <button type="button" className="button ml-auto" onClick={onClose} disabled={busy}>
            Close the round
          </button>
        )}
      </div>
      {round.mailedAt && (
        <p className="said mt-2">
          This round’s emails are sent from here, begun on {day(round.mailedAt)}. Do not send them from the email file, too.{' '}
          <Link href={`/rounds/${round.id}/letter`} className="font-semibold">
            How far they are
          </Link>
        </p>
      )}
      {round.shares.map(({ channel, by, at, colleagues }) => (
        <p key={channel} className="mt-2" data-testid={`shares-${channel}`}>
          {CHANNEL_TITLE[channel]} contacts of{' '}
          {colleagues.map(({ id, name, people, open }, i) => (
            <span key={id}>
              {i > 0 && ', '}
              {round.mayTake ? (
                <a
                  href={`/rounds/${round.id}/files/${channel}?for=${encodeURIComponent(id)}`}
                  className="font-semibold text-verdigris"
                  download
                >
                  {name}
                </a>
              ) : (
                name
              )}{' '}
              {count(open)} of {count(people)} to make
            </span>
          ))}{' '}
          <span className="quiet">
            · shared out by {by}, {day(at)}
          </span>
        </p>
      ))}
      {round.files
        .filter((file) => file.leftOut > 0 && !file.withdrawnAt)
        .map((file) => (
          <p key={file.channel} className="quiet mt-2">
            The {CHANNEL_NAME[file.channel]} file leaves out {count(file.leftOut)} of {count(file.rows)}, who must not be contacted any more
            {round.steps && ' or need not be, since they answered'}.{' '}
            {round.mayTake && (
              <a href={`/rounds/${round.id}/files/${file.channel}?as=released`} title={`SHA-256 ${file.sha256}`} download>
                Download the {CHANNEL_NAME[file.channel]} file as it was released
              </a>
            )}
          </p>
        ))}
      {round.stopped.map(({ channel, people, takenBy }) => (
        <p key={channel} className="said mt-2">
          {count(people)} {people === 1 ? 'person was' : 'people were'} suppressed for {CHANNEL_NAME[channel]} since the release and must
          not be contacted.{' '}
          {takenBy.length === 0
            ? `Nobody has downloaded a ${CHANNEL_NAME[channel]} file that names them.`
            : `A ${CHANNEL_NAME[channel]} file that names them was downloaded by ${takenBy.map(({ name, at }) => `${name} on ${day(at)}`).join(', ')}.`}
        </p>
      ))}
      <p className="quiet mt-2">
        {round.state === 'released'
          ? round.base
            ? `It closes with round ${round.base.called}.`
            : `Closing records “not worked” for every contact still to come${round.supplements.length > 0 ? ', those of its supplements too' : ''}. Starting the next round closes this one too.`
          : 'The files are those that were released, byte for byte, without whoever must not be contacted any more.'}
      </p>
    </section>
  )
}
