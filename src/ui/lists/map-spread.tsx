'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { type AreaShape, EMPTY_SHAPE } from '@/core/areas/shape'
import { FIRST_COLUMNS, type TableSet } from '@/core/facets/table'
import { FACETS } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import type { AreaView, ListView, RecordView } from '@/core/views/list-views'
import type { MapPoint, Tool } from './area-map'
import { AreaParts } from './area-parts'
import { AreaTools } from './area-tools'
import { ask, Told } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'
import { newId } from './line-editing'
import { accountPage, withCells } from './list-asking'
import { RecordBeside } from '@/ui/directory/record-beside'
import { RecordTable } from '@/ui/tables/record-table'
import { Spread } from '@/ui/book/spread'
import { isNothing, useMapCount } from './use-map-count'
import { useRecords } from '@/ui/tables/use-records'

const AreaMap = dynamic(() => import('./area-map').then((m) => m.AreaMap), { ssr: false })

/** A list on the map: on the left leaf where its records lie and what is drawn over them, on the right the records themselves, each linked to the other. */
export function MapSpread({
  list,
  areas,
  draft,
}: {
  list: ListView
  areas: AreaView[]
  draft: (id: number, basedOn: number, lines: unknown) => Promise<unknown>
}) {
  const router = useRouter()
  const lines = list.draft?.lines ?? list.lines
  const subject = subjectOf(lines)
  const [shape, setShape] = useState<AreaShape>(EMPTY_SHAPE)
  const [tool, setTool] = useState<Tool>('look')
  const [at, setAt] = useState<MapPoint | null>(null)
  const [notKept, setTold] = useState<string | null>(null)
  const [beside, setBeside] = useState<RecordView | null>(null)
  const [table, setTable] = useState<TableSet>({ columns: FIRST_COLUMNS[subject].slice(0, 2) as string[], sort: [] })
  const [name, setName] = useState('')
  const empty = isNothing(shape)
  const { found, told: notCounted, onBox } = useMapCount(lines, shape)
  const told = notKept ?? notCounted
  const place = at ? { premises: at.premises } : empty ? null : { shape }
  const records = useRecords(['map', list.id, lines, place, table], async (offset, signal) => {
    const columns = table.columns.filter((c) => Object.hasOwn(FACETS[subject], c))
    const page = await accountPage(
      { lines, view: { tab: 'on' }, offset, list: list.id, columns, sort: table.sort, place, screen: `map-${list.id}` },
      signal,
    )
    return withCells(page, table.columns, columns)
  })
  const keep = async () => {
    try {
      const area = await ask<{ id: number; name: string }>('/api/areas', { name, shape, shared: list.shared, named: name.trim() !== '' })
      await draft(list.id, list.draft?.basedOn ?? list.edition, [
        ...lines,
        { id: newId(), verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'area', areas: [area] } },
      ])
      router.push(`/lists/${list.id}`)
    } catch (error) {
      setTold(error instanceof Told ? error.message : 'The area could not be saved.')
    }
  }
  // Of premises the map shows where the record beside lies.
  const chosen = new Set(beside && subject === 'premises' ? [beside.id] : (at?.premises ?? []))
  return (
    <Spread
      width="760px"
      label={{ left: 'The map', right: 'The records' }}
      left={
        <>
          <div className="flex flex-wrap items-start justify-between gap-3">
            <div>
              <h1>{list.name}</h1>
              <p className="quiet" role="status" data-testid="on-map">
                {found === null
                  ? 'Counting…'
                  : empty
                    ? `${count(found.placed)} of ${count(found.total)} have a place on the map`
                    : `${count(found.inShape)} in what is drawn, of ${count(found.total)} on the list`}
                {found !== null && found.total > found.placed ? `; of ${count(found.total - found.placed)} it is not known` : ''}
              </p>
            </div>
            <Link href={`/lists/${list.id}`} className="button no-underline">
              Back to its lines
            </Link>
          </div>
          <div className="mt-2 flex flex-wrap items-end justify-between gap-3">
            <AreaTools tool={tool} onTool={setTool} />
            {areas.length > 0 && (
              <label className="field">
                <span className="sr-only">Show an area</span>
                <select value="" onChange={(e) => setShape(areas.find((a) => a.id === Number(e.target.value))?.shape ?? EMPTY_SHAPE)}>
                  <option value="">an area that is kept…</option>
                  {areas.map((a) => (
                    <option key={a.id} value={a.id}>
                      {a.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </div>
          {told && (
            <p role="alert" className="told mt-2">
              {told}
            </p>
          )}
          <div className="mt-2 h-[max(360px,calc(100vh-290px))]">
            <AreaMap
              label={`Map of ${list.name}`}
              shape={shape}
              onShape={(next) => {
                setAt(null)
                setShape(next)
              }}
              tool={tool}
              onDrawn={() => setTool('look')}
              points={found?.points ?? []}
              chosen={chosen}
              onBox={onBox}
              onPoint={(point) => (point.premises.length > 0 ? setAt(point) : setTold('Too many to name here. Zoom in.'))}
            />
          </div>
          {!empty && (
            <div className="mt-3 flex flex-wrap items-end gap-2">
              <label className="field">
                <span>Name, to use it in other lists too</span>
                <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
              </label>
              <button type="button" className="button button-main" onClick={keep}>
                Keep those in it, as a line
              </button>
              <button type="button" className="button" onClick={() => setShape(EMPTY_SHAPE)}>
                Take it off
              </button>
            </div>
          )}
          <details className="mt-3">
            <summary className="cursor-pointer text-[13.5px] font-semibold text-verdigris">
              Type corners, a centre and a length, or streets
            </summary>
            <div className="mt-2 max-w-[420px]">
              <AreaParts shape={shape} onShape={setShape} lines={lines} />
            </div>
          </details>
        </>
      }
      right={
        <>
          <p className="quiet flex items-start justify-between gap-3">
            <span>
              {at
                ? `${count(records.total)} at this point`
                : empty
                  ? `All ${count(records.total)} on the list`
                  : `${count(records.total)} in what is drawn`}
            </span>
            {at && (
              <button type="button" className="font-semibold text-verdigris" onClick={() => setAt(null)}>
                Show all
              </button>
            )}
          </p>
          <RecordTable
            subject={subject}
            records={records}
            table={table}
            onTable={setTable}
            empty="Nothing is there."
            onOpen={setBeside}
            open={beside?.id ?? null}
          />
          {beside && <RecordBeside subject={subject} record={beside} onClose={() => setBeside(null)} />}
        </>
      }
    />
  )
}
