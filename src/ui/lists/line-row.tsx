'use client'

import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical, MoreHorizontal } from 'lucide-react'
import { DropdownMenu, Popover } from 'radix-ui'
import { memo, type ReactNode, useEffect, useRef, useState } from 'react'
import type { LineFigures } from '@/core/lists/account'
import type { Subject } from '@/core/records/subject'
import { type Line, lineSentence, PER_LACKS } from '@/core/lists/line'
import type { LineWarning } from '@/core/lists/warnings'
import type { ListView as View } from '@/core/lists/view'
import type { Choices } from './form-props'
import { CriterionForm } from './criterion-forms'
import { count, Figure } from '@/ui/book/figures'
import { focusLine, isWhole } from './line-editing'
import { LimitForm, PickForm, StartForm } from './line-forms'

/** What can be done with a line, by its id: the same functions as long as the list is open. */
export type LineActs = {
  take: (line: string) => void
  /** Gives up a line that was just added and not touched. */
  giveUp: (line: string) => void
  change: (line: string, next: Line) => void
  remove: (line: string) => void
  /** Folds a line of picks into the one above it. */
  fold: (line: string) => void
  /** Moves it up (−1) or down (1). */
  move: (line: string, by: number) => void
  /** Opens a place to say something of it. */
  comment: (line: string) => void
  view: (view: View) => void
  /** The lines above it that are whole. */
  above: (line: string) => Line[]
}

interface LineRowProps {
  line: Line
  number: number
  figures: LineFigures | undefined
  inHand: boolean
  justAdded: boolean
  acts: LineActs
  /** What the list is of. */
  subject: Subject
  /** Whether it can be folded into the one above it. */
  folds: boolean
  view: View
  choices: Choices
  /** What is worth saying of what the line does, in a sentence each. */
  warnings: LineWarning[]
  /** What people said of it; absent where nothing was said. */
  talk?: ReactNode
  /** Whether it stands in the list as it was saved, so that it can be commented on. */
  saved: boolean
}

/** One line of a list's page: its sentence with chips that open in place, and what it moves. */
export function LineRow({
  line,
  number,
  figures,
  inHand,
  justAdded,
  acts,
  subject,
  folds,
  view,
  choices,
  warnings,
  talk,
  saved,
}: LineRowProps) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: line.id,
    disabled: line.verb === 'start',
  })
  const whole = isWhole(line)
  const show = (column: 'out' | 'unknown' | 'in' | 'stayedUnknown') => ({
    chosen: view.tab === 'moved' && view.line === line.id && view.column === column,
    onChoose: () => acts.view({ tab: 'moved', line: line.id, column }),
  })
  const label = `line ${number}`
  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${inHand ? 'in-hand' : ''} ${isDragging ? 'relative z-10 bg-leaf shadow-md' : ''}`}
      onClick={() => acts.take(line.id)}
      // By the keyboard alone: what the line in hand says beside would move the lines away under a pointer that is pressed.
      onFocus={(event) => event.target.matches(':focus-visible') && acts.take(line.id)}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return
        const by = event.key === 'ArrowUp' ? -1 : 1
        const target = event.target as HTMLElement
        if (event.altKey) {
          event.preventDefault()
          acts.move(line.id, by)
        } else if (event.currentTarget.contains(target) && target.matches('button:not(.grip)')) {
          // What is open over the line, and the handle it is dragged by, have the arrows for themselves.
          event.preventDefault()
          focusLine(event.currentTarget, by)
        }
      }}
      data-testid={`line-${number}`}
    >
      <td className={`relative ${line.off ? 'text-soft line-through' : ''}`}>
        {line.verb !== 'start' && (
          <button
            type="button"
            ref={setActivatorNodeRef}
            {...attributes}
            {...listeners}
            aria-label={`Move line ${number}`}
            className="grip absolute top-2 -left-[18px] cursor-grab rounded text-strong hover:text-ink focus-visible:text-ink"
          >
            <GripVertical size={15} aria-hidden="true" />
          </button>
        )}
        <Sentence line={line} subject={subject} acts={acts} choices={choices} openAtOnce={justAdded} />
        <LineMenu line={line} number={number} acts={acts} folds={folds} saved={saved} />
        {talk}
        {inHand && figures && whole && !line.off && (
          <span className="quiet block" data-testid="without">
            Without this line the list would hold {count(figures.without)}
          </span>
        )}
        {line.verb === 'drop' && figures !== undefined && figures.stayedUnknown > 0 && (
          <span className="quiet block">
            <Figure value={figures.stayedUnknown} tone="unknown" label={`Unknown and kept by ${label}`} {...show('stayedUnknown')} />{' '}
            unknown stayed
          </span>
        )}
        {line.verb === 'limit' && figures !== undefined && figures.notLimited > 0 && (
          <span className="quiet block">
            {count(figures.notLimited)} {line.per === 'all' ? '' : PER_LACKS[line.per]} and are not limited
          </span>
        )}
        {whole &&
          warnings.map((warning) => (
            <span key={warning.text} className="block text-[13px] text-ochre" data-testid="warning">
              {warning.text}{' '}
              {warning.instead && (
                <button
                  type="button"
                  className="font-semibold text-verdigris"
                  onClick={() => acts.change(line.id, warning.instead as Line)}
                >
                  {warning.offer}
                </button>
              )}
            </span>
          ))}
        {line.verb === 'add' && figures !== undefined && figures.cameBack > 0 && (
          <span className="quiet block">{count(figures.cameBack)} of them came back</span>
        )}
      </td>
      <td className="figure">
        <Figure value={whole ? figures?.out : 0} tone="out" label={`Out by ${label}`} {...show('out')} />
      </td>
      <td className="figure">
        <Figure value={whole ? figures?.unknown : 0} tone="unknown" label={`Unknown to ${label}`} {...show('unknown')} />
      </td>
      <td className="figure">
        <Figure value={whole ? figures?.in : 0} tone="in" label={`In by ${label}`} {...show('in')} />
      </td>
      <td className="figure balance">{whole ? count(figures?.balance) : ''}</td>
    </tr>
  )
}

const Sentence = memo(function Sentence({
  line,
  subject,
  acts,
  choices,
  openAtOnce,
}: {
  line: Line
  subject: Subject
  acts: LineActs
  choices: Choices
  openAtOnce: boolean
}) {
  const [open, setOpen] = useState(false)
  const first = useRef<HTMLButtonElement>(null)
  const leaving = useRef<'outside' | 'given up' | null>(null)
  useEffect(() => {
    // The menu that added the line gives the focus back as it closes; the form opens after that.
    if (!openAtOnce) return
    const timer = setTimeout(() => setOpen(true), 60)
    return () => clearTimeout(timer)
  }, [openAtOnce])
  const { verb, phrases } = lineSentence(line, subject)
  const firstChip = phrases.findIndex((phrase) => 'chip' in phrase)
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <b>{verb}</b>{' '}
      {phrases.map((phrase, i) => {
        const space = i < phrases.length - 1 ? ' ' : ''
        if ('text' in phrase) return `${phrase.text}${space}`
        const chip = (
          <button
            type="button"
            ref={i === firstChip ? first : undefined}
            className={`chip ${isWhole(line) ? '' : 'chip-empty'}`}
            onClick={() => setOpen(true)}
          >
            {phrase.chip}
          </button>
        )
        const anchored = i === firstChip ? <Popover.Anchor asChild>{chip}</Popover.Anchor> : chip
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: pieces of a sentence are known by their place
          <span key={i}>
            {anchored}
            {space}
          </span>
        )
      })}
      <Popover.Portal>
        <Popover.Content
          className="floating max-h-(--radix-popover-content-available-height) w-[360px] overflow-y-auto"
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label="Change the line"
          onInteractOutside={() => {
            leaving.current = 'outside'
            setOpen(false)
          }}
          onEscapeKeyDown={() => {
            if (openAtOnce) leaving.current = 'given up'
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault()
            const how = leaving.current
            leaving.current = null
            if (how === 'given up') acts.giveUp(line.id)
            else if (how === null) first.current?.focus()
          }}
        >
          <LineForm
            line={line}
            before={acts.above}
            choices={choices}
            onChange={(next) => acts.change(line.id, next)}
            onDone={() => setOpen(false)}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
})

function LineForm({
  line,
  before,
  ...others
}: {
  line: Line
  before: LineActs['above']
  choices: Choices
  onChange: (line: Line) => void
  onDone: () => void
}) {
  // What stands above is as it was when the form was opened.
  const [above] = useState(() => before(line.id))
  const rest = { ...others, before: above }
  switch (line.verb) {
    case 'start':
      return <StartForm line={line} {...rest} />
    case 'limit':
      return <LimitForm line={line} {...rest} />
    case 'pick':
      return <PickForm line={line} {...rest} />
    default:
      return <CriterionForm line={line} {...rest} />
  }
}

const LineMenu = memo(function LineMenu({
  line,
  number,
  acts,
  folds,
  saved,
}: Pick<LineRowProps, 'line' | 'number' | 'acts' | 'folds' | 'saved'>) {
  const onChange = (next: Line) => acts.change(line.id, next)
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="ml-1.5 inline-flex translate-y-[3px] rounded text-soft hover:text-ink"
        aria-label={`More for line ${number}`}
      >
        <MoreHorizontal size={16} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="floating p-1.5!" align="start" sideOffset={4}>
          {'criterion' in line &&
            (['keep', 'drop', 'add'] as const)
              .filter((verb) => verb !== line.verb)
              .map((verb) => (
                <DropdownMenu.Item key={verb} className="menu-item" onSelect={() => onChange({ ...line, verb, unknownAsYes: false })}>
                  Make it {verb}
                </DropdownMenu.Item>
              ))}
          {line.verb === 'pick' && (
            <DropdownMenu.Item className="menu-item" onSelect={() => onChange({ ...line, side: line.side === 'in' ? 'out' : 'in' })}>
              Make it pick {line.side === 'in' ? 'out' : 'in'}
            </DropdownMenu.Item>
          )}
          {folds && (
            <DropdownMenu.Item className="menu-item" onSelect={() => acts.fold(line.id)}>
              Fold into the line above
            </DropdownMenu.Item>
          )}
          {line.verb === 'keep' && (
            <DropdownMenu.Item className="menu-item" onSelect={() => onChange({ ...line, unknownAsYes: !line.unknownAsYes })}>
              {line.unknownAsYes ? 'Unknown goes out' : 'Count unknown as yes'}
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className="menu-item" onSelect={() => onChange({ ...line, off: !line.off })}>
            {line.verb === 'start' ? (line.off ? 'Start with all records' : 'Start empty') : line.off ? 'Switch on' : 'Switch off'}
          </DropdownMenu.Item>
          {line.verb !== 'start' && saved && (
            <DropdownMenu.Item className="menu-item" onSelect={() => setTimeout(() => acts.comment(line.id), 60)}>
              Comment on it
            </DropdownMenu.Item>
          )}
          {line.verb !== 'start' && (
            <>
              <DropdownMenu.Item className="menu-item justify-between gap-6" onSelect={() => acts.move(line.id, -1)}>
                Move up <span className="quiet">Alt ↑</span>
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item justify-between gap-6" onSelect={() => acts.move(line.id, 1)}>
                Move down <span className="quiet">Alt ↓</span>
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => acts.remove(line.id)}>
                Remove
              </DropdownMenu.Item>
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
})
