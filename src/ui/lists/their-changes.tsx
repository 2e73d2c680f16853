'use client'

import { useMemo, useState } from 'react'
import { bringOver, theirChanges } from '@/core/lists/bring-over'
import { type Line, lineText } from '@/core/lists/line'
import { Mark } from './line-marks'

export interface Theirs {
  edition: number
  by: string
  lines: Line[]
  basis: Line[]
}

/**
 * Somebody saved while this was worked on, or proposes something: what they changed, line by line, each to be brought over
 * or left.
 */
export function TheirChanges({
  mine,
  theirs,
  proposed = false,
  onBring,
  onTheirs,
}: {
  mine: Line[]
  theirs: Theirs
  proposed?: boolean
  onBring: (lines: Line[]) => void
  onTheirs: () => void
}) {
  const changes = useMemo(() => theirChanges(theirs.basis, mine, theirs.lines), [mine, theirs])
  const [left, setLeft] = useState<Set<string>>(() => new Set(changes.filter((c) => c.meetsMine).map((c) => c.change.line.id)))
  const chosen = changes.filter(({ change }) => !left.has(change.line.id)).map(({ change }) => change)
  return (
    <section
      role="alert"
      aria-label={proposed ? 'Choose from what is proposed' : 'Saved by somebody else'}
      className="my-3 rounded-lg border border-ochre bg-ochre-wash/50 px-4 py-3"
    >
      <b>{proposed ? `${theirs.by} proposes these.` : `${theirs.by} saved edition ${theirs.edition} while you worked on this.`}</b>
      <p className="quiet">
        Nothing of yours is lost. Choose which of their changes to bring over, then save.
        {proposed && ' The proposal is taken once an edition has all of it.'}
      </p>
      <ul className="my-2 grid gap-1.5">
        {changes.map(({ change, meetsMine }) => (
          <li key={change.line.id}>
            <label className="flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-1"
                checked={!left.has(change.line.id)}
                onChange={(event) =>
                  setLeft((before) => {
                    const next = new Set(before)
                    if (event.target.checked) next.delete(change.line.id)
                    else next.add(change.line.id)
                    return next
                  })
                }
              />
              <span>
                <Mark is={change.is} /> {lineText(change.line)}
                {change.is === 'changed' && <span className="quiet block">was: {lineText(change.was)}</span>}
                {meetsMine && (
                  <span className="block text-[12.5px] text-madder">You changed this line too. Bringing theirs over replaces yours.</span>
                )}
              </span>
            </label>
          </li>
        ))}
        {changes.length === 0 && <li className="quiet">Their edition says the same as the one you began from.</li>}
      </ul>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button button-main" onClick={() => onBring(bringOver(mine, theirs.lines, chosen))}>
          {chosen.length > 0 ? `Bring ${chosen.length} over and go on` : 'Go on with mine'}
        </button>
        <button type="button" className="button" onClick={onTheirs}>
          {proposed ? 'None of them now' : 'Take theirs, drop mine'}
        </button>
      </div>
    </section>
  )
}
