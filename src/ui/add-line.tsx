'use client'

import { Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { CRITERIA, type CriterionName } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { newLimit, newLine } from './line-editing'

const VERBS = [
  ['keep', 'Keep', 'those who answer yes; unknown goes out in its own column'],
  ['drop', 'Drop', 'those who answer yes; unknown stays'],
  ['add', 'Add', 'everyone in the directory who answers yes'],
] as const

/** Adds a line: first what it does, then what it asks. */
export function AddLine({ onAdd }: { onAdd: (line: Line) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button">
        <Plus size={15} aria-hidden="true" /> Add a line
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="floating w-[330px] p-1.5!" align="start" sideOffset={4}>
          {VERBS.map(([verb, title, what]) => (
            <DropdownMenu.Sub key={verb}>
              <DropdownMenu.SubTrigger className="menu-item flex-col">
                <b>{title}</b>
                <span className="quiet">{what}</span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className="floating p-1.5!" sideOffset={6}>
                  {Object.entries(CRITERIA).map(([kind, { name }]) => (
                    <DropdownMenu.Item key={kind} className="menu-item" onSelect={() => onAdd(newLine(verb, kind as CriterionName))}>
                      {name}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          ))}
          <DropdownMenu.Item className="menu-item flex-col" onSelect={() => onAdd(newLimit())}>
            <b>Limit</b>
            <span className="quiet">to so many of each organisation, or in all, by a ranking</span>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
