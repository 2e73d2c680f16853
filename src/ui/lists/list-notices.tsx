'use client'

/** What happened to the list in another tab, or by somebody else, while this page was open. */
export function ListNotices({
  otherPage,
  keepThese,
  elsewhere,
  onDiffer,
  busy,
}: {
  /** The lines are being edited in another tab, too. */
  otherPage: boolean
  keepThese: () => unknown
  /** A newer edition, and who saved it. */
  elsewhere: { edition: number; by: string } | null
  onDiffer: () => void
  busy: boolean
}) {
  return (
    <>
      {otherPage && (
        <div role="alert" className="told my-2">
          You edited these lines in another tab. Changes made here are not being kept.
          <span className="mt-1.5 flex gap-2">
            <button type="button" className="button" onClick={() => window.location.reload()}>
              Load the other version
            </button>
            <button type="button" className="button" onClick={() => void keepThese()}>
              Keep this version
            </button>
          </span>
        </div>
      )}
      {elsewhere && (
        <p role="status" className="my-2 flex items-center justify-between gap-3 rounded-md bg-ochre-wash px-3 py-1.5">
          {elsewhere.by} saved edition {elsewhere.edition} just now. Your changes are still here.
          <button type="button" className="button" onClick={onDiffer} disabled={busy}>
            See what differs
          </button>
        </p>
      )}
    </>
  )
}
