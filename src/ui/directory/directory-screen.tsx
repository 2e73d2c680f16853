'use client'

import { OtherHits } from './other-hits'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { MakeList } from '@/ui/book/make-list'
import Link from 'next/link'
import { useDeferredValue, useEffect, useRef, useTransition } from 'react'
import type { RecordsPage, RecordView } from '@/core/views/list-views'
import type { OrganisationView, PeoplePage, PremisesView } from '@/core/views/record-views'
import { ask } from '@/ui/book/ask'
import { useBook } from '@/ui/book/book'
import { count, day } from '@/ui/book/figures'
import type { Column } from '@/ui/tables/column'
import { RecordTable } from '@/ui/tables/record-table'
import { useChosen } from '@/ui/tables/use-chosen'
import { TabRow } from '@/ui/book/tab-row'
import { recordsOf, useRecords } from '@/ui/tables/use-records'

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
    chooseNone()
  }
  const find = useDeferredValue(typed)
  const field = useRef<HTMLInputElement>(null)
  // What was typed before the page had come alive counts too.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page has come alive
  useEffect(() => {
    const already = field.current?.value ?? ''
    if (already !== typed) setTyped(already)
  }, [])
  const records = useRecords(['directory', show, find, sort], (offset, signal) => FOUND[show]({ find, sort, offset }, signal))
  const { hand, put } = useBook()
  const [chosen, choose, chooseNone] = useChosen()
  const [busy, begin] = useTransition()
  const of = SUBJECT_SHOWN[show]
  const send = (side: 'in' | 'out') =>
    begin(async () => {
      await put(side, chosen.size > 0 ? { of, ids: [...chosen] } : { of, find })
      chooseNone()
    })
  const found = records.total ?? 0
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
            { key: 'people', title: 'People', total: show === 'people' ? records.total : undefined },
            { key: 'organisations', title: 'Organisations', total: show === 'organisations' ? records.total : undefined },
            { key: 'premises', title: 'Premises', total: show === 'premises' ? records.total : undefined },
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
              <button type="button" className="font-semibold text-verdigris" onClick={chooseNone}>
                Choose none
              </button>
            )}
          </div>
        )}
        {show === 'people' && <OtherHits find={find} onShow={setShow} />}
        <RecordTable
          key={show}
          subject={of}
          records={records}
          columns={COLUMNS[show]}
          chosen={chosen}
          onChoose={choose}
          empty={(find === '' ? EMPTY : NO_HIT)[show]}
        />
      </div>
    </main>
  )
}

type Find = { find: string; sort: string; offset: number }

/** A page of what was found of one kind, as rows of the table. */
const FOUND: Record<Shown, (asked: Find, signal: AbortSignal) => Promise<RecordsPage>> = {
  people: async (asked, signal) => recordsOf(await ask<PeoplePage>('/api/people', asked, signal)),
  organisations: async (asked, signal) => {
    const { total, organisations } = await ask<{ total: number; organisations: OrganisationView[] }>('/api/organisations', asked, signal)
    return { total, behind: null, records: organisations.map(organisationRecord) }
  },
  premises: async (asked, signal) => {
    const { total, premises } = await ask<{ total: number; premises: PremisesView[] }>('/api/premises', asked, signal)
    return { total, behind: null, records: premises.map(premisesRecord) }
  },
}

const COLUMNS: Record<Shown, readonly Column[] | undefined> = {
  people: undefined,
  organisations: [
    { key: 'town', title: 'Town' },
    { key: 'people', title: 'People', figures: true },
    { key: 'last contact', title: 'Last contact' },
  ],
  premises: [
    { key: 'kind', title: 'Kind' },
    { key: 'roof', title: 'Roof, m²', figures: true },
    { key: 'owner', title: 'Owner' },
  ],
}

const organisationRecord = ({ id, name, industry, town, people, lastAt }: OrganisationView): RecordView => ({
  id,
  title: name,
  under: industry ?? 'industry not recorded',
  href: `/directory/organisations/${id}`,
  person: null,
  cells: [town, count(people), lastAt ? day(lastAt) : 'never'],
})

const premisesRecord = ({ id, name, postal, kind, roofArea, owner }: PremisesView): RecordView => ({
  id,
  title: name,
  under: postal || 'no address',
  href: `/directory/premises/${id}`,
  person: null,
  cells: [kind, roofArea === null ? null : count(roofArea), owner],
})

const EMPTY: Record<Shown, string> = {
  people: 'The directory is empty. Import a file under Intake.',
  organisations: 'There are no organisations yet. They come in with files of people.',
  premises: 'There are no premises yet. They come in as files, GeoJSON among them, or from the premises register under Intake.',
}

const NO_HIT: Record<Shown, string> = {
  people: 'Nobody in the directory matches what you typed.',
  organisations: 'No organisation matches what you typed.',
  premises: 'No premises match what you typed.',
}
