'use client'

import { Command } from 'cmdk'
import { Plus } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import type { Subject } from '@/core/records/subject'
import { foundBy } from '@/core/criteria/found-by'
import { GROUPS } from '@/core/criteria/kind'
import { CRITERIA, type CriterionName, fits } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { useAsked } from '@/ui/book/asking'
import { newLimit, newLine } from './line-editing'

const VERBS = [
  ['keep', 'Keep', 'keeps the records that match; unknown ones leave, in a column of their own'],
  ['drop', 'Drop', 'removes the records that match; unknown ones stay'],
  ['add', 'Add', 'adds every record in the directory that matches'],
] as const

type Verb = (typeof VERBS)[number][0]

/** So long after it opened at most, in milliseconds, a form that closes may still give its focus back. */
const LATE = 400

/** Adds a line: what it does, and what it asks, found by its words. Beside each question stands for how many its answer is known. */
export function AddLine({
  lines,
  subject,
  onAdd,
  onFile,
}: {
  lines: Line[]
  subject: Subject
  onAdd: (line: Line) => void /** Looks up whom a file names, and adds the line; absent where files name nobody. */
  onFile?: (file: File) => void
}) {
  const [open, setOpen] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const [verb, setVerb] = useState<Verb>('keep')
  const [typed, setTyped] = useState('')
  const { answer: presence = null } = useAsked<{ on: number; unknown: Partial<Record<CriterionName, number>> }>(
    open ? ['/api/list-presence', { lines }] : null,
  )
  const menu = useRef<HTMLDivElement>(null)
  const openedAt = useRef(0)
  useEffect(() => {
    if (!open) return
    openedAt.current = performance.now()
    setTyped('')
    setVerb('keep')
  }, [open])
  const add = (line: Line) => {
    setOpen(false)
    onAdd(line)
  }
  const kinds = (Object.keys(CRITERIA) as CriterionName[]).filter((kind) => fits(kind, subject))
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger data-add-line className="button">
        <Plus size={15} aria-hidden="true" /> Add a line
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          ref={menu}
          className="floating max-h-(--radix-popover-content-available-height) w-[390px] overflow-y-auto p-2!"
          align="start"
          sideOffset={4}
          collisionPadding={12}
          aria-label="Add a line"
          onFocusOutside={(event) => {
            // The form that was closed by the same press gives its focus back only now; the menu stays, and takes it again.
            if (performance.now() - openedAt.current > LATE) return
            event.preventDefault()
            menu.current?.querySelector('input')?.focus()
          }}
        >
          <fieldset className="mb-1 flex gap-1" aria-label="What the line does">
            {VERBS.map(([own, title, what]) => (
              <label
                key={own}
                title={what}
                className={`relative cursor-pointer rounded px-2.5 py-1 text-[13px] font-semibold ${verb === own ? 'bg-verdigris text-leaf' : 'hover:bg-page'}`}
              >
                <input
                  type="radio"
                  name="verb"
                  className="absolute inset-0 m-0 cursor-pointer appearance-none rounded border-0! bg-transparent!"
                  checked={verb === own}
                  onChange={() => setVerb(own)}
                />{' '}
                {title}
              </label>
            ))}
            <button
              type="button"
              className="ml-auto rounded px-2.5 py-1 text-[13px] font-semibold hover:bg-page"
              onClick={() => add(newLimit(subject))}
            >
              Limit
            </button>
            {onFile && (
              <button
                type="button"
                className="rounded px-2.5 py-1 text-[13px] font-semibold hover:bg-page"
                title="Picks the people a file of yours names; nothing of it is stored"
                onClick={() => picker.current?.click()}
              >
                From a file
              </button>
            )}
            <input
              ref={picker}
              type="file"
              aria-label="File of people"
              className="sr-only"
              tabIndex={-1}
              onChange={(event) => {
                const file = event.target.files?.[0]
                event.target.value = ''
                if (!file) return
                setOpen(false)
                onFile?.(file)
              }}
            />
          </fieldset>
          <p className="quiet mb-1.5 px-1">{VERBS.find(([own]) => own === verb)?.[2]}</p>
          <Command
            label="What it asks"
            filter={(kind, typed) => (Object.hasOwn(CRITERIA, kind) && foundBy(kind as CriterionName, typed) ? 1 : 0)}
          >
            <Command.Input
              autoFocus
              placeholder="role, town, roof… or drop role"
              className="mb-1.5 w-full"
              value={typed}
              onValueChange={(text) => {
                // What a line does can be typed before what it asks.
                const said = VERBS.find(([own]) => text.toLowerCase().startsWith(`${own} `))
                if (said) setVerb(said[0])
                setTyped(said ? text.slice(said[0].length + 1) : text)
              }}
            />
            <Command.List className="max-h-[min(330px,46vh)] overflow-y-auto">
              <Command.Empty className="px-2 py-3 text-soft">No criterion found for “{typed}”. Try another word.</Command.Empty>
              {GROUPS.map((group) => {
                const own = kinds.filter((kind) => CRITERIA[kind].group === group)
                return (
                  own.length > 0 && (
                    <Command.Group
                      key={group}
                      heading={group}
                      className="[&>[cmdk-group-heading]]:quiet [&>[cmdk-group-heading]]:px-2 [&>[cmdk-group-heading]]:pt-2 [&>[cmdk-group-heading]]:pb-0.5 [&>[cmdk-group-heading]]:text-[12.5px] [&>[cmdk-group-heading]]:text-soft"
                    >
                      {own.map((kind) => (
                        <Command.Item
                          key={kind}
                          value={kind}
                          className="menu-item flex items-baseline justify-between gap-3 aria-selected:bg-page"
                          onSelect={() => add(newLine(verb, kind, subject))}
                          aria-label={CRITERIA[kind].name}
                        >
                          <span>{CRITERIA[kind].name}</span>
                          <Known of={presence} kind={kind} />
                        </Command.Item>
                      ))}
                    </Command.Group>
                  )
                )
              })}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** For what share of those on the page so far the answer is known, where some of it is not. */
function Known({ of, kind }: { of: { on: number; unknown: Partial<Record<CriterionName, number>> } | null; kind: CriterionName }) {
  const unknown = of?.unknown[kind]
  if (!of || unknown === undefined || of.on === 0) return null
  if (unknown === of.on) return <span className="text-[12px] whitespace-nowrap text-ochre">not recorded here</span>
  const share = Math.round((unknown / of.on) * 100)
  return (
    <span className={`text-[12px] whitespace-nowrap ${share >= 50 ? 'text-ochre' : 'text-soft'}`}>
      {share === 0 ? 'recorded for everyone' : `missing for ${share} %`}
    </span>
  )
}
