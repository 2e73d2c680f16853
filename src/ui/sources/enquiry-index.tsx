'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { EnquiryIndexRow, EnquiryState } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import { type Search, SEARCHED_SOURCES, type SearchedName, SOURCES } from '@/core/sources/source'
import type { ActionResult } from '@/core/views/action-result'
import { count, day } from '@/ui/book/figures'
import { NumberSetting } from '@/ui/forms/number-setting'

export const ENQUIRY_STATE: Record<EnquiryState, string> = {
  asking: 'is being asked',
  ready: 'waits for you',
  running: 'is under way',
  stopped: 'stopped',
  failed: 'broke off',
  done: 'done',
}

export interface IndexActions {
  find: (source: SearchedName, search: Search) => Promise<ActionResult<number>>
  goodFor: (days: number) => Promise<ActionResult<unknown>>
}

/** What can be found outside, and every enquiry that was made. */
export function EnquiryIndex({ enquiries, days, actions }: { enquiries: EnquiryIndexRow[]; days: number; actions: IndexActions | null }) {
  return (
    <main className="leaf bg-leaf" style={{ minHeight: 'calc(100dvh - 53px)' }}>
      <div className="mx-auto max-w-[1080px]">
        <p className="quiet">
          <Link href="/intake">Intake</Link>
        </p>
        <h1>Outside sources</h1>
        <p className="quiet">
          Find organisations and premises that are not in the directory yet. Searching is free. You pay for each record you import, never
          for records you already have. To check email addresses or fill gaps, use the menu of a list or a batch.
        </p>
        {actions ? <FindForm find={actions.find} /> : <p className="mt-4 text-soft">Coordinators and managers use sources.</p>}
        {enquiries.length === 0 ? (
          <p className="mt-8 text-soft">No searches yet.</p>
        ) : (
          <table className="account mt-6" aria-label="Enquiries">
            <thead>
              <tr>
                <th scope="col">Enquiry</th>
                <th scope="col" className="figure">
                  Asked about
                </th>
                <th scope="col" className="figure">
                  Had already
                </th>
                <th scope="col" className="figure">
                  Came
                </th>
                <th scope="col" className="figure balance">
                  Cost
                </th>
              </tr>
            </thead>
            <tbody>
              {enquiries.map((e) => (
                <tr key={e.id}>
                  <td>
                    <Link
                      prefetch={false}
                      href={`/intake/enquiries/${e.id}`}
                      className="font-semibold break-words no-underline hover:underline"
                    >
                      {e.name}
                    </Link>
                    <span className="quiet block">
                      {day(e.at)} by {e.by} · {ENQUIRY_STATE[e.state]}
                    </span>
                  </td>
                  <td className="figure">{count(Object.values(e.counts).reduce((sum, n) => sum + n, 0))}</td>
                  <td className="figure">{e.counts.known ? count(e.counts.known) : ''}</td>
                  <td className="figure text-verdigris">{came(e) > 0 ? count(came(e)) : ''}</td>
                  <td className="figure balance">{priceText(e.cost, e.currency)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {actions && (
          <NumberSetting
            before="A check of an email address counts for"
            after="days"
            value={days}
            min={1}
            max={3650}
            keep={actions.goodFor}
          />
        )}
      </div>
    </main>
  )
}

const came = ({ counts }: EnquiryIndexRow): number =>
  (counts.fetched ?? 0) + (counts.verified ?? 0) + (counts.uncertain ?? 0) + (counts.bad ?? 0)

function FindForm({ find }: { find: IndexActions['find'] }) {
  const router = useRouter()
  const [source, setSource] = useState<SearchedName>('directory')
  const [words, setWords] = useState('')
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <form
      className="mt-4 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        begin(async () => {
          const result = await find(source, { words, subKinds: [], districts: [] })
          if (result.ok) router.push(`/intake/enquiries/${result.value}`)
          else setTold(result.error)
        })
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <label className="field">
          <span>Source</span>
          <select value={source} onChange={(event) => setSource(event.target.value as SearchedName)}>
            {SEARCHED_SOURCES.map((name) => (
              <option key={name} value={name}>
                {SOURCES[name].name}
              </option>
            ))}
          </select>
        </label>
        <label className="field min-w-[16rem] grow">
          <span>Words in any order, singular or plural</span>
          <input
            value={words}
            maxLength={200}
            placeholder={source === 'directory' ? 'nurseries Thornmouth' : 'barns flat roof'}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
        <button type="submit" className="button button-main" disabled={busy}>
          Find
        </button>
      </div>
      <p className="quiet">{SOURCES[source].what}</p>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
    </form>
  )
}
