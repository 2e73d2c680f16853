'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { Subject } from '@/core/records/subject'
import type { ActionResult } from '@/core/views/action-result'
import type { EditionsPage, EditionView, RecordView } from '@/core/views/list-views'
import { ask } from '@/ui/book/ask'
import { count, day, Figure } from '@/ui/book/figures'
import { Mark } from './line-marks'
import { RecordBeside } from '@/ui/directory/record-beside'
import { RecordTable } from '@/ui/tables/record-table'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { useRecords } from '@/ui/tables/use-records'

type Side = 'left' | 'joined' | 'stayed'

/** Two editions of a list held against each other: line by line on the left, who joined and left on the right. */
export function EditionsScreen({
  id,
  name,
  subject,
  editions,
  goBack,
}: {
  id: number
  name: string
  subject: Subject
  editions: EditionView[]
  goBack: (id: number, edition: number) => Promise<ActionResult<number>>
}) {
  const router = useRouter()
  const [told, setTold] = useState('')
  const [beside, setBeside] = useState<RecordView | null>(null)
  const newest = editions[0].number
  const [earlier, setEarlier] = useState(editions[1]?.number ?? newest)
  const [later, setLater] = useState(newest)
  const [tab, setTab] = useState<Side>('joined')
  const records = useRecords(['editions', id, earlier, later, tab], async (offset, signal) => {
    const got = await ask<EditionsPage>(`/api/editions/${id}`, { earlier, later, tab, offset }, signal)
    return { ...got.page, about: got }
  })
  const answer = records.about
  // Where nobody joined, whoever left is what there is to see.
  const [looked, setLooked] = useState(false)
  if (answer && !looked) {
    setLooked(true)
    if (tab === 'joined' && answer.figures.joined === 0 && answer.figures.left > 0) setTab('left')
  }
  const figures = answer?.figures
  const differ = answer?.lines.filter((l) => l.is !== 'same').length ?? 0
  return (
    <Spread
      label={{ left: 'The editions', right: 'The people' }}
      left={
        <>
          <h1>Editions · {name}</h1>
          <p className="quiet">
            Both use today’s data, so only the lines differ. <Link href={`/lists/${id}`}>Back to the list</Link>
          </p>
          <div className="mt-3 grid grid-cols-2 gap-3">
            <Choose label="From" value={earlier} editions={editions} onChoose={setEarlier} />
            <Choose label="To" value={later} editions={editions} onChoose={setLater} />
          </div>
          {editions.find((e) => e.number === earlier)?.why && (
            <p className="quiet mt-1">
              Edition {earlier}: {editions.find((e) => e.number === earlier)?.why}
            </p>
          )}
          {editions.find((e) => e.number === later)?.why && (
            <p className="quiet mt-1">
              Edition {later}: {editions.find((e) => e.number === later)?.why}
            </p>
          )}
          {earlier !== newest && (
            <button
              type="button"
              className="button mt-2"
              onClick={async () => {
                const made = await goBack(id, earlier)
                if (made.ok) router.push(`/lists/${id}`)
                else setTold(made.error)
              }}
            >
              Go back to edition {earlier}
            </button>
          )}
          {told && (
            <p role="alert" className="told mt-2">
              {told}
            </p>
          )}
          <table className="account mt-4" aria-label="The two editions">
            <tbody>
              <tr>
                <td>
                  <b>Open</b> with edition {earlier}
                </td>
                <td className="figure balance">{count(figures?.opening)}</td>
              </tr>
              <tr>
                <td>Left</td>
                <td className="figure balance font-normal!">
                  <Figure value={figures?.left} tone="out" label="Left" onChoose={() => setTab('left')} />
                </td>
              </tr>
              <tr>
                <td>Joined</td>
                <td className="figure balance font-normal!">
                  <Figure value={figures?.joined} tone="in" label="Joined" onChoose={() => setTab('joined')} />
                </td>
              </tr>
              <tr className="total">
                <td>
                  Edition {later} <span className="quiet font-normal">{figures && `${count(figures.stayed)} stayed`}</span>
                </td>
                <td className="figure balance">{count(figures?.closing)}</td>
              </tr>
            </tbody>
          </table>
          <h2 className="mt-5">Line by line</h2>
          <p className="quiet">
            {answer
              ? differ === 0
                ? 'The two editions are the same.'
                : `${count(differ)} of ${count(answer.lines.length)} lines differ.`
              : ''}
          </p>
          <ol className="mt-1">
            {answer?.lines.map((line) => (
              <li key={`${line.is}-${line.id}`} className="grid grid-cols-[28px_72px_1fr] gap-2 border-b border-rule py-1.5">
                <span className="text-soft tabular-nums">{line.number}</span>
                <Mark is={line.is} />
                <span className={`min-w-0 break-words ${line.is === 'removed' ? 'line-through' : ''}`}>
                  {line.text}
                  {line.was && <span className="quiet block">{line.is === 'changed' ? `was: ${line.was}` : line.was}</span>}
                </span>
              </li>
            ))}
          </ol>
        </>
      }
      right={
        <>
          <TabRow
            label="Tabs of people"
            open={tab}
            onOpen={(key) => setTab(key as Side)}
            tabs={[
              { key: 'joined', title: 'Joined', total: figures?.joined ?? null },
              { key: 'left', title: 'Left', total: figures?.left ?? null },
              { key: 'stayed', title: 'Stayed', total: figures?.stayed ?? null },
            ]}
          />
          <RecordTable
            subject={subject}
            records={records}
            because={tab === 'stayed' ? undefined : 'Deciding line'}
            empty={tab === 'stayed' ? 'Nobody is on both.' : `Nobody ${tab} between the two.`}
            onOpen={setBeside}
            open={beside?.id ?? null}
          />
          {beside && <RecordBeside subject={subject} record={beside} onClose={() => setBeside(null)} />}
        </>
      }
    />
  )
}

function Choose({
  label,
  value,
  editions,
  onChoose,
}: {
  label: string
  value: number
  editions: EditionView[]
  onChoose: (number: number) => void
}) {
  return (
    <label className="field">
      <span>{label}</span>
      <select value={value} onChange={(event) => onChoose(Number(event.target.value))}>
        {editions.map((e) => (
          <option key={e.number} value={e.number}>
            edition {e.number}, {day(e.savedAt)}, {e.by}
          </option>
        ))}
      </select>
    </label>
  )
}
