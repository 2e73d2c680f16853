'use client'

import Link from 'next/link'
import { DropdownMenu } from 'radix-ui'
import type { ChangeRow } from '@/core/views/change-views'
import { effectText, recordPath, sourceText, whatText, whenText } from './change-words'

/** What one key, or one press, does with the change in focus. */
export type Pressed = 'take' | 'handle' | 'put off' | 'set aside' | 'contact' | 'list' | 'open' | 'confirm' | 'turn down'

interface Props {
  row: ChangeRow
  current: boolean
  busy: boolean
  hand: string | null
  onFocus: () => void
  onDo: (what: Pressed) => void
  onPutOff: (days: number) => void
}

/** One change: when, who, what, what it does to lists, and who says so; with what can be done where it is in focus. */
export function ChangeItem({ row, current, busy, hand, onFocus, onDo, onPutOff }: Props) {
  const effect = effectText(row)
  const what = whatText(row)
  return (
    <li
      data-change={row.id}
      tabIndex={current ? 0 : -1}
      aria-current={current ? 'true' : undefined}
      onFocus={onFocus}
      onMouseDown={onFocus}
      className={`grid grid-cols-[100px_minmax(0,1fr)_150px] gap-x-3 border-b border-rule px-3 py-2 ${current ? 'bg-wash' : ''}`}
    >
      <span className="text-[13px] text-soft">{whenText(row)}</span>
      <div className="min-w-0 break-words">
        <p>
          <Link prefetch={false} href={recordPath(row.of, row.record)} className="font-semibold no-underline hover:underline">
            {row.name}
          </Link>{' '}
          {row.organisation && <span className="text-[13px] text-soft">{row.organisation}</span>}
        </p>
        <p>
          {what.said} {what.after !== null && <b className="font-semibold">{what.after}</b>}
          {row.link && (
            <>
              {' '}
              <a href={row.link} rel="noreferrer noopener" target="_blank" className="text-[13px] text-verdigris">
                source
              </a>
            </>
          )}
        </p>
        {(effect || row.opener) && (
          <p className="text-[13px] text-verdigris">
            {effect}
            {effect && row.opener && ' · '}
            {row.opener && <>opener ready: “{row.opener}”</>}
          </p>
        )}
        {current && (
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {row.decide !== null && (
              <>
                <Do what="confirm" keyed="Y" busy={busy} onDo={onDo}>
                  Confirm
                </Do>
                <Do what="turn down" keyed="N" busy={busy} onDo={onDo}>
                  It is not so
                </Do>
              </>
            )}
            <Do what="take" keyed="T" busy={busy} onDo={onDo}>
              {row.mine && row.state === 'taken' ? 'Let go' : 'Take'}
            </Do>
            <Do what="handle" keyed="D" busy={busy} onDo={onDo}>
              Done
            </Do>
            <PutOff busy={busy} onPutOff={onPutOff} />
            <Do what="set aside" keyed="X" busy={busy} onDo={onDo}>
              Set aside
            </Do>
            {row.of === 'person' && (
              <Do what="contact" keyed="C" busy={busy} onDo={onDo}>
                Record contact
              </Do>
            )}
            {hand !== null && (
              <Do what="list" keyed="L" busy={busy} onDo={onDo}>
                Put on {hand}
              </Do>
            )}
          </div>
        )}
      </div>
      <span className="text-right text-[13px] text-soft">
        <span className={row.sure === 'to be confirmed' ? 'text-ochre' : ''}>{sourceText(row)}</span>
        {row.state === 'taken' && (
          <b className="block font-semibold text-ink">{row.mine ? 'taken by you' : `taken by ${row.stateBy ?? ''}`}</b>
        )}
      </span>
    </li>
  )
}

function Do({
  what,
  keyed,
  busy,
  onDo,
  children,
}: {
  what: Pressed
  keyed: string
  busy: boolean
  onDo: (what: Pressed) => void
  children: React.ReactNode
}) {
  return (
    <button type="button" className="button px-2! py-0.5!" aria-keyshortcuts={keyed} disabled={busy} onClick={() => onDo(what)}>
      {children} <kbd className="text-[11px] font-normal text-soft">{keyed}</kbd>
    </button>
  )
}

const LATER = [
  ['Tomorrow', 1],
  ['In three days', 3],
  ['In a week', 7],
  ['In a month', 30],
] as const

function PutOff({ busy, onPutOff }: { busy: boolean; onPutOff: (days: number) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button px-2! py-0.5!" disabled={busy} aria-keyshortcuts="P">
        Put off <kbd className="text-[11px] font-normal text-soft">P</kbd>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="floating" align="start" sideOffset={4}>
          {LATER.map(([title, days]) => (
            <DropdownMenu.Item key={days} className="menu-item" onSelect={() => onPutOff(days)}>
              {title}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
