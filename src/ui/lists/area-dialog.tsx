'use client'

import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { type AreaShape, EMPTY_SHAPE } from '@/core/areas/shape'
import type { Line } from '@/core/lists/line'
import { AreaMap, type Tool } from './area-map'
import { AreaParts } from './area-parts'
import { AreaTools } from './area-tools'
import { ask, Told } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'
import { isNothing, useMapCount } from './use-map-count'

/** Draws an area over the records of some lines, and counts while it is drawn. */
export function AreaDialog({
  lines,
  onClose,
  onKept,
}: {
  lines: Line[]
  onClose: () => void
  onKept: (area: { id: number; name: string }) => void
}) {
  const [shape, setShape] = useState<AreaShape>(EMPTY_SHAPE)
  const [tool, setTool] = useState<Tool>('polygon')
  const [notKept, setTold] = useState<string | null>(null)
  const [name, setName] = useState('')
  const [shared, setShared] = useState(true)
  const empty = isNothing(shape)
  const { found, told: notCounted, onBox } = useMapCount(lines, shape)
  const told = notKept ?? notCounted
  const keep = async (named: boolean) => {
    try {
      onKept(await ask<{ id: number; name: string }>('/api/areas', { name, shape, shared: named && shared, named }))
    } catch (error) {
      setTold(error instanceof Told ? error.message : 'The area could not be saved.')
    }
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          className="fixed inset-4 z-50 grid grid-rows-[auto_1fr_auto] gap-3 rounded-lg bg-leaf p-4 shadow-xl"
          aria-describedby={undefined}
        >
          <div className="flex flex-wrap items-center justify-between gap-3">
            <Dialog.Title className="font-title text-[19px]">An area on the map</Dialog.Title>
            <AreaTools tool={tool} onTool={setTool} />
          </div>
          <div className="grid min-h-0 grid-cols-[1fr_330px] gap-4 max-[900px]:grid-cols-1 max-[900px]:overflow-y-auto">
            <AreaMap
              label="Map of the county"
              shape={shape}
              onShape={setShape}
              tool={tool}
              onDrawn={() => setTool('look')}
              points={found?.points ?? []}
              onBox={onBox}
            />
            <div className="min-h-0 overflow-y-auto pr-1">
              <p role="status" className="mb-2" data-testid="in-shape">
                {found === null
                  ? 'Counting…'
                  : empty
                    ? `${count(found.placed)} of ${count(found.total)} have a place on the map.`
                    : `${count(found.inShape)} in what is drawn, of ${count(found.total)} on the list.`}
                {found !== null && found.total > found.placed && (
                  <span className="quiet block">{count(found.total - found.placed)} have none and count as unknown.</span>
                )}
              </p>
              {told && (
                <p role="alert" className="told mb-2">
                  {told}
                </p>
              )}
              <AreaParts shape={shape} onShape={setShape} lines={lines} />
            </div>
          </div>
          <div className="flex flex-wrap items-end justify-end gap-3">
            <label className="field">
              <span>Name, to use it in other lists</span>
              <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
            </label>
            <label className="flex items-center gap-2 pb-2">
              <input type="checkbox" checked={shared} onChange={(e) => setShared(e.target.checked)} /> for the team
            </label>
            <button type="button" className="button" onClick={onClose}>
              Leave it
            </button>
            <button type="button" className="button" disabled={empty} onClick={() => keep(false)}>
              Use in this line only
            </button>
            <button type="button" className="button button-main" disabled={name.trim() === '' || empty} onClick={() => keep(true)}>
              Save area
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
