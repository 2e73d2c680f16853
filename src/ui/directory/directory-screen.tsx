'use client'

import { OtherHits } from './other-hits'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { MakeList } from '@/ui/book/make-list'
import Link from 'next/link'
import { useDeferredValue, useEffect, useRef, useState, useTransition } from 'react'
import type { OrganisationView, PeoplePage, PremisesView } from '@/core/views/record-views'
import { ask, Told } from '@/ui/book/ask'
import { useBook } from '@/ui/book/book'
import { count, day } from '@/ui/book/figures'
import { ChooseCell, ChooseTitle, type Choosing, PeopleTable } from '@/ui/tables/people-table'
import { TabRow } from '@/ui/book/tab-row'
import { usePeople } from '@/ui/tables/use-people'

const SORTS = {
  people: ['name', 'organisation', 'town', 'last contact', 'newest'],
  organisations: ['name', 'town', 'people'],
  premises: ['name', 'town', 'roof area'],
} as const

export type Shown = keyof typeof SORTS

const SUBJECT_SHOWN = { people: 'person', organisations: 'organisation', premises: 'premises' } as const

/** Everybody, every organisation and all premises: find as you type, sorted as asked. */
export function DirectoryScreen({ find: first, show: open }: { find: string; show: Shown }) {
  const [view, setView] = useViewInAddress<{ find: string; show: Shown; sort: string }>(
    { find: '', show: 'people', sort: 'name' },
    ({ find: words = first, show: shown = open, sort: by = 'name' }) =>
      Object.hasOwn(SORTS, shown) && (SORTS[shown as Shown] as readonly string[]).includes(by)
        ? { find: words, show: shown as Shown, sort: by }
        : null,
    'find',
  )
  const { show, sort, find: typed } = view
  const setTyped = (words: string) => setView({ ...view, find: words })
  const setSort = (by: string) => setView({ ...view, sort: by })
  const setShow = (shown: Shown) => {
    setView({ ...view, show: shown, sort: 'name' })
    setChosen(new Set())
  }
  const find = useDeferredValue(typed)
  const field = useRef<HTMLInputElement>(null)
  // What was typed before the page had come alive counts too.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page has come alive
  useEffect(() => {
    const already = field.current?.value ?? ''
    if (already !== typed) setTyped(already)
  }, [])
  const people = usePeople(
    `${show}|${find}|${sort}`,
    show === 'people' ? (offset, signal) => ask<PeoplePage>('/api/people', { find, sort, offset }, signal) : null,
  )
  const { hand, put } = useBook()
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set())
  const [busy, begin] = useTransition()
  const of = SUBJECT_SHOWN[show]
  const choose = (id: number, on: boolean) =>
    setChosen((before) => {
      const next = new Set(before)
      if (on) next.add(id)
      else next.delete(id)
      return next
    })
  const send = (side: 'in' | 'out') =>
    begin(async () => {
      await put(side, chosen.size > 0 ? { of, ids: [...chosen] } : { of, find })
      setChosen(new Set())
    })
  const organisations = usePages<OrganisationView>('organisations', show === 'organisations' ? find : null, sort)
  const premises = usePages<PremisesView>('premises', show === 'premises' ? find : null, sort)
  const found = { people, organisations, premises }[show].total ?? 0
  const choosing = { chosen, onChoose: choose }
  const onHand = hand?.subject === of ? hand : null
  return (
    <main className="leaf leaf-whole bg-leaf" style={{ height: 'calc(100dvh - 53px)' }} tabIndex={0}>
      <div className="mx-auto max-w-[1080px]">
        <div className="mb-3 flex flex-wrap items-end justify-between gap-4">
          <div>
            <h1>Directory</h1>
            <p className="quiet">Search by name, organisation, role, town, email or phone, in any order.</p>
          </div>
          <div className="flex items-end gap-3">
            <label className="field">
              <span>Find</span>
              <input
                ref={field}
                type="search"
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
                className="w-[280px]"
                autoFocus
              />
            </label>
            <label className="field">
              <span>Sort by</span>
              <select value={sort} onChange={(event) => setSort(event.target.value)}>
                {SORTS[show].map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </label>
          </div>
        </div>
        <TabRow
          label="Tabs of the directory"
          open={show}
          onOpen={(key) => setShow(key as Shown)}
          tabs={[
            { key: 'people', title: 'People', total: show === 'people' ? people.total : undefined },
            { key: 'organisations', title: 'Organisations', total: show === 'organisations' ? organisations.total : undefined },
            { key: 'premises', title: 'Premises', total: show === 'premises' ? premises.total : undefined },
          ]}
        >
          <Link href="/directory/doubles" className="font-semibold text-verdigris no-underline hover:underline">
            Find duplicates
          </Link>
        </TabRow>
        {found > 0 && (onHand || find.trim() !== '' || chosen.size > 0) && (
          <div
            className="flex flex-wrap items-center gap-3 border-b border-rule bg-ochre-wash/40 px-2 py-1.5"
            role="group"
            aria-label="What was found"
          >
            <span>{chosen.size > 0 ? `${count(chosen.size)} chosen` : `All ${count(found)} found`}</span>
            <MakeList these={chosen.size > 0 ? { of, ids: [...chosen] } : { of, find }}>Make a list of these</MakeList>
            {onHand && (
              <span className="flex items-center gap-2" role="group" aria-label="The list in hand">
                List in hand: <b>{onHand.name}</b>
                <button type="button" className="button px-2! py-0.5!" disabled={busy} onClick={() => send('in')}>
                  Put on it
                </button>
                <button type="button" className="button px-2! py-0.5!" disabled={busy} onClick={() => send('out')}>
                  Take off it
                </button>
              </span>
            )}
            {chosen.size > 0 && (
              <button type="button" className="font-semibold text-verdigris" onClick={() => setChosen(new Set())}>
                Choose none
              </button>
            )}
          </div>
        )}
        {show === 'people' && <OtherHits find={find} onShow={setShow} />}
        {show === 'people' ? (
          <PeopleTable
            people={people}
            label="People"
            choosing={choosing}
            empty={find ? 'Nobody in the directory matches what you typed.' : 'The directory is empty. Import a file under Intake.'}
          />
        ) : show === 'organisations' ? (
          <OrganisationTable {...organisations} choosing={choosing} />
        ) : (
          <PremisesTable {...premises} choosing={choosing} />
        )}
      </div>
    </main>
  )
}

/** Pages of organisations or premises, as many as were asked for. */
function usePages<T>(what: 'organisations' | 'premises', find: string | null, sort: string) {
  const [state, setState] = useState<{ total: number | null; rows: T[]; told: string | null }>({ total: null, rows: [], told: null })
  const [wanted, setWanted] = useState(60)
  useEffect(() => {
    if (find === null) return
    const abort = new AbortController()
    const fetchAll = async () => {
      const rows: T[] = []
      let total = 0
      for (let offset = 0; offset < wanted; offset += 60) {
        const page = await ask<{ total: number } & Record<typeof what, T[]>>(`/api/${what}`, { find, sort, offset }, abort.signal)
        rows.push(...page[what])
        total = page.total
        if (rows.length >= total) break
      }
      setState({ total, rows, told: null })
    }
    fetchAll().catch((error) => {
      if (!abort.signal.aborted)
        setState((before) => ({ ...before, told: error instanceof Told ? error.message : `The ${what} could not be shown.` }))
    })
    return () => abort.abort()
  }, [what, find, sort, wanted])
  return { ...state, more: () => setWanted((n) => n + 60) }
}

type Pages<T> = ReturnType<typeof usePages<T>>

function OrganisationTable({ total, rows, told, more, choosing }: Pages<OrganisationView> & { choosing?: Choosing }) {
  return (
    <>
      {told && <p className="told mt-3">{told}</p>}
      {total === 0 && <p className="mt-6 text-soft">No organisation matches what you typed.</p>}
      {rows.length > 0 && (
        <table className="people">
          <thead>
            <tr>
              {choosing && <ChooseTitle />}
              <th scope="col">Organisation</th>
              <th scope="col">What it is</th>
              <th scope="col">Town</th>
              <th scope="col" className="text-right!">
                People
              </th>
              <th scope="col" className="pl-8!">
                Last contact
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((o) => (
              <tr key={o.id}>
                {choosing && <ChooseCell id={o.id} name={o.name} choosing={choosing} />}
                <td>
                  <Link
                    prefetch={false}
                    href={`/directory/organisations/${o.id}`}
                    className="text-[14px] font-semibold no-underline hover:underline"
                  >
                    {o.name}
                  </Link>
                </td>
                <td>{o.industry ?? '–'}</td>
                <td>{o.town ?? '–'}</td>
                <td className="figure">{count(o.people)}</td>
                <td className="pl-8!">{o.lastAt ? day(o.lastAt) : 'never'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {total !== null && rows.length < total && (
        <button type="button" className="button mt-3" onClick={more}>
          Show more of {count(total)}
        </button>
      )}
    </>
  )
}

function PremisesTable({ total, rows, told, more, choosing }: Pages<PremisesView> & { choosing?: Choosing }) {
  return (
    <>
      {told && <p className="told mt-3">{told}</p>}
      {total === 0 && (
        <p className="mt-6 text-soft">
          No premises match what you typed. They come in as files, GeoJSON among them, or from the premises register under Intake.
        </p>
      )}
      {rows.length > 0 && (
        <table className="people" aria-label="Premises">
          <thead>
            <tr>
              {choosing && <ChooseTitle />}
              <th scope="col">Premises</th>
              <th scope="col" className="w-[14%]">
                Kind
              </th>
              <th scope="col" className="w-[34%]">
                Address
              </th>
              <th scope="col" className="w-[9%] text-right!">
                Roof, m²
              </th>
              <th scope="col" className="pl-8!">
                Owner
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((p) => (
              <tr key={p.id}>
                {choosing && <ChooseCell id={p.id} name={p.name} choosing={choosing} />}
                <td>
                  <Link
                    prefetch={false}
                    href={`/directory/premises/${p.id}`}
                    className="text-[14px] font-semibold no-underline hover:underline"
                  >
                    {p.name}
                  </Link>
                </td>
                <td>{p.kind ?? '–'}</td>
                <td>{p.postal || '–'}</td>
                <td className="figure">{p.roofArea === null ? '–' : count(p.roofArea)}</td>
                <td className="pl-8!">{p.owner ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {total !== null && rows.length < total && (
        <button type="button" className="button mt-3" onClick={more}>
          Show more of {count(total)}
        </button>
      )}
    </>
  )
}
