'use client'

import { MakeList } from '@/ui/book/make-list'
import dynamic from 'next/dynamic'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import { type AreaShape, EMPTY_SHAPE, streetText } from '@/core/areas/shape'
import type { ActionResult } from '@/core/views/action-result'
import type { AreaView } from '@/core/views/list-views'
import type { Tool } from './area-map'
import { AreaParts } from './area-parts'
import { AreaTools } from './area-tools'
import { ask, Told } from '@/ui/book/ask'
import { day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { countText } from '@/core/text/written'

const AreaMap = dynamic(() => import('./area-map').then((m) => m.AreaMap), { ssr: false })

/** The areas that are kept: drawn, drawn anew, archived, and taken from and to files. */
export function AreasScreen({
  areas,
  putAway,
}: {
  areas: AreaView[]
  putAway: (id: number, away: boolean) => Promise<ActionResult<unknown>>
}) {
  const router = useRouter()
  const [open, setOpen] = useState<AreaView | null>(null)
  const [shape, setShape] = useState<AreaShape>(EMPTY_SHAPE)
  const [tool, setTool] = useState<Tool>('look')
  const [name, setName] = useState('')
  const [told, setTold] = useState('')
  const file = useRef<HTMLInputElement>(null)
  const take = (area: AreaView | null) => {
    setOpen(area)
    setShape(area?.shape ?? EMPTY_SHAPE)
    setName(area?.name ?? '')
    setTold('')
  }
  const keep = async (replaces: number | null) => {
    try {
      const kept = await ask<{ id: number; name: string }>('/api/areas', {
        name,
        shape,
        shared: open?.shared ?? true,
        named: true,
        replaces,
      })
      toast.success(
        replaces
          ? `“${kept.name}” has a new shape. Lists that use it keep the old shape until you change their line.`
          : `“${kept.name}” is kept.`,
      )
      take(null)
      router.refresh()
    } catch (error) {
      setTold(error instanceof Told ? error.message : 'The area could not be saved.')
    }
  }
  const bringIn = async (given: File) => {
    try {
      const { readAreas } = await import('./area-files')
      const found = readAreas(await given.text(), given.name)
      for (const area of found) await ask('/api/areas', { name: area.name, shape: area.shape, shared: true, named: true })
      toast.success(`${found.length === 1 ? 'One area was' : `${found.length} areas were`} taken from ${given.name}.`)
      router.refresh()
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const save = async (format: 'geojson' | 'kml') => {
    const { writeAreas } = await import('./area-files')
    const link = document.createElement('a')
    link.href = URL.createObjectURL(
      new Blob([writeAreas(open ? [open] : areas, format)], {
        type: format === 'kml' ? 'application/vnd.google-earth.kml+xml' : 'application/geo+json',
      }),
    )
    link.download = `${open ? open.name.toLowerCase().replace(/[^a-z0-9]+/g, '-') : 'areas'}.${format}`
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
  }
  return (
    <Spread
      label={{ left: 'Areas', right: 'The map' }}
      left={
        <>
          <div className="flex flex-wrap items-start justify-between gap-3">
            <div>
              <h1>Areas</h1>
              <p className="quiet">Places drawn on the map, to be named in any list.</p>
            </div>
            <span className="flex gap-2">
              <button type="button" className="button" onClick={() => file.current?.click()}>
                Import areas
              </button>
              <input
                ref={file}
                type="file"
                aria-label="GeoJSON or KML"
                accept=".geojson,.json,.kml"
                className="sr-only"
                tabIndex={-1}
                onChange={(e) => {
                  const given = e.target.files?.[0]
                  if (given) void bringIn(given)
                  e.target.value = ''
                }}
              />
            </span>
          </div>
          {told && (
            <p role="alert" className="told mt-2">
              {told}
            </p>
          )}
          {areas.length === 0 ? (
            <p className="mt-6 text-soft">No areas yet. Draw one on the map and name it. Any list can then use it.</p>
          ) : (
            <table className="account mt-3">
              <thead>
                <tr>
                  <th scope="col">Area</th>
                  <th scope="col">What it covers</th>
                  <th scope="col">
                    <span className="sr-only">Archive</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {areas.map((area) => (
                  <tr key={area.id} className={open?.id === area.id ? 'in-hand' : ''}>
                    <td>
                      <button type="button" className="font-semibold hover:underline" onClick={() => take(area)}>
                        {area.name}
                      </button>
                      <span className="quiet block">
                        {area.shared ? 'Shared' : 'Private'} · {area.mine ? 'yours' : area.owner} · {day(area.at)}
                      </span>
                    </td>
                    <td className="text-[13.5px]">{covered(area.shape)}</td>
                    <td>
                      {area.mine && (
                        <button
                          type="button"
                          className="button mr-1.5 px-2! py-0.5!"
                          onClick={async () => {
                            const gone = await putAway(area.id, true)
                            if (!gone.ok) return setTold(gone.error)
                            toast(`“${area.name}” is archived.`, {
                              action: { label: 'Undo', onClick: () => void putAway(area.id, false).then(() => router.refresh()) },
                            })
                            router.refresh()
                          }}
                        >
                          Archive
                        </button>
                      )}
                      <MakeList these={{ area: area.id, of: 'person' }}>Make a list</MakeList>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {areas.length > 0 && (
            <p className="mt-3 flex gap-2">
              <button type="button" className="button" onClick={() => void save('geojson')}>
                Save {open ? 'it' : 'all'} as GeoJSON
              </button>
              <button type="button" className="button" onClick={() => void save('kml')}>
                As KML
              </button>
            </p>
          )}
        </>
      }
      right={
        <>
          <AreaTools tool={tool} onTool={setTool} />
          <div className="mt-2 h-[400px]">
            <AreaMap label="Map of the county" shape={shape} onShape={setShape} tool={tool} onDrawn={() => setTool('look')} points={[]} />
          </div>
          <div className="mt-3 flex flex-wrap items-end gap-2">
            <label className="field">
              <span>Name</span>
              <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
            </label>
            {open?.mine && (
              <button type="button" className="button button-main" disabled={name.trim() === ''} onClick={() => keep(open.id)}>
                Save new shape
              </button>
            )}
            <button
              type="button"
              className={`button ${open?.mine ? '' : 'button-main'}`}
              disabled={name.trim() === '' || shape === EMPTY_SHAPE}
              onClick={() => keep(null)}
            >
              Save as a new area
            </button>
            {(open || shape !== EMPTY_SHAPE) && (
              <button type="button" className="button" onClick={() => take(null)}>
                Leave it
              </button>
            )}
          </div>
          <div className="mt-3 max-w-[440px]">
            <AreaParts shape={shape} onShape={setShape} lines={[]} />
          </div>
        </>
      }
    />
  )
}

function covered({ polygons, circles, streets }: AreaShape): string {
  const many = (n: number, one: string) => (n === 0 ? null : n === 1 ? `a ${one}` : `${n} ${one}s`)
  return [
    many(polygons.length, 'polygon'),
    ...circles.map((c) => `${countText(c.metres / 1000)} km around ${c.lat.toFixed(3)}, ${c.lon.toFixed(3)}`),
    ...streets.map(streetText),
  ]
    .filter(Boolean)
    .join('; ')
}
