'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import {
  LETTER_PARTS,
  LETTER_STANDS,
  letterCostPerAnswer,
  type LetterPart,
  type LetterStand,
  POSTED_STANDS,
  postedLetters,
  releasedLetters,
} from '@/core/rounds/letter-results'
import { LETTER_PART_TEXT, STAND_TEXT } from '@/core/text/letter-results-csv'
import { dateText, moneyText, shareText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import type { LetterResultsPage, LetterResultsView, LetterRow } from '@/core/views/premises-round-views'
import { useGrowing } from '@/ui/book/asking'
import { useNews } from '@/ui/book/book'
import { count, day, Figure } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { Arch } from './arch'
import { LettersTable } from './letters-table'
import { BesideBefore, ResultsActions } from './results-shared'
import { roundStones } from './round-stones'

const OF = [...LETTER_STANDS, 'released', 'posted'] as const
const TONE: Record<LetterStand, 'in' | 'out' | 'plain'> = {
  stopped: 'out',
  'not posted': 'out',
  answered: 'in',
  'asked us to stop': 'out',
  'nothing heard': 'plain',
  'came back': 'out',
}
const titleOf = (of: LetterResultsView['of']): string =>
  of === 'released' ? 'Letters released' : of === 'posted' ? 'Letters posted' : STAND_TEXT[of]

/** A part in words: a day of posting is written as one. */
const partText = (by: LetterPart, key: string): string => (by === 'posted' && /^\d/.test(key) ? dateText(key) : key)

/** What came of a round of letters: the account that closes on the left, the letters behind each figure on the right. */
export function LetterResultsScreen({ page, close }: { page: LetterResultsPage; close: (id: number) => Promise<ActionResult<unknown>> }) {
  const router = useRouter()
  const [view, setView] = useViewInAddress<LetterResultsView>({ of: 'answered' }, ({ of, by, key }) => {
    const whole = OF.find((own) => own === of)
    if (!whole) return null
    const parted = LETTER_PARTS.find((own) => own === by)
    return parted && key ? { of: whole, by: parted, key } : { of: whole }
  })
  const [told, setTold] = useState<string | null>(null)
  const {
    pages,
    more,
    again,
    told: missing,
  } = useGrowing<{ total: number; letters: LetterRow[] }>(
    (offset) => [`/api/rounds/${page.id}/letters`, { view, offset }],
    (own) => own.letters.length,
  )
  useNews((news) => {
    if (news.is !== 'data' && !(news.is === 'round' && news.round === page.id)) return
    void again()
    router.refresh()
  })
  const { counts, cost } = page.results
  const [released, posted] = [releasedLetters(counts), postedLetters(counts)]
  const perAnswer = letterCostPerAnswer(page.results)
  const letters = pages.flatMap((own) => own.letters)
  const total = pages[0]?.total
  const figure = (of: LetterResultsView['of'], value: number, tone: 'plain' | 'in' | 'out') => (
    <Figure value={value} tone={tone} label={titleOf(of)} chosen={view.of === of && !view.by} onChoose={() => setView({ of })} />
  )
  return (
    <Spread
      width="640px"
      label={{ left: 'The account of results', right: 'The letters' }}
      left={
        <>
          <h1>
            Results · Round {page.number} of {page.list}
          </h1>
          <p className="quiet">
            Released {day(page.releasedAt)} by {page.by}
            {page.closedAt ? `, closed ${day(page.closedAt)}` : ' · answers still come in'}
          </p>
          <div className="my-3 flex items-end gap-6 print:hidden">
            <Arch
              stones={roundStones(
                page.state,
                { requalify: `/lists/${page.listId}`, screen: `/rounds/${page.id}`, results: `/rounds/${page.id}/results` },
                null,
                counts['not posted'] > 0,
              )}
            />
            <ResultsActions page={page} close={close} onTold={setTold} />
          </div>
          {(told ?? missing) && (
            <p role="alert" className="told mb-2">
              {told ?? missing}
            </p>
          )}
          <table className="account" aria-label="Account of results">
            <thead>
              <tr>
                <th scope="col">Each letter once</th>
                <th scope="col" className="figure">
                  Share
                </th>
                <th scope="col" className="figure balance">
                  Letters
                </th>
              </tr>
            </thead>
            <tbody>
              <tr data-testid="letters-released">
                <td>
                  <b>Released</b>
                </td>
                <td />
                <td className="figure balance">{figure('released', released, 'plain')}</td>
              </tr>
              {(['stopped', 'not posted'] as const).map((of) => (
                <tr key={of} data-testid={`letters-${of}`}>
                  <td>{STAND_TEXT[of]}</td>
                  <td className="figure">{share(counts[of], released)}</td>
                  <td className="figure balance">{figure(of, counts[of], TONE[of])}</td>
                </tr>
              ))}
              <tr className="total" data-testid="letters-posted">
                <td>
                  Posted
                  {cost !== null && <span className="quiet font-normal"> · {moneyText(cost / 100)}</span>}
                </td>
                <td className="figure">{share(posted, released)}</td>
                <td className="figure balance">{figure('posted', posted, 'plain')}</td>
              </tr>
              {POSTED_STANDS.map((of) => (
                <tr key={of} data-testid={`letters-${of}`}>
                  <td>{STAND_TEXT[of]}</td>
                  <td className="figure">{share(counts[of], posted)}</td>
                  <td className="figure balance">{figure(of, counts[of], TONE[of])}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet mt-1.5">
            {perAnswer !== null && `An answer cost ${moneyText(perAnswer / 100)}. `}
            {page.closing &&
              (page.closing.counts.answered === counts.answered
                ? 'Nobody has answered since it was closed.'
                : `When it was closed, ${count(page.closing.counts.answered)} had answered.`)}
          </p>
          <Parts page={page} view={view} onView={setView} />
          <Before page={page} />
        </>
      }
      right={
        <>
          <h2>
            {titleOf(view.of)} <span className="font-sans text-[13px] font-normal text-soft">{count(total)}</span>
          </h2>
          {view.by && (
            <p className="quiet mt-1 flex justify-between gap-3">
              <span>
                Only {LETTER_PART_TEXT[view.by].toLowerCase()}: {partText(view.by, view.key ?? '')}
              </span>
              <button type="button" className="font-semibold text-verdigris" onClick={() => setView({ of: view.of })}>
                Show all
              </button>
            </p>
          )}
          {total === 0 && <p className="mt-4 text-soft">None.</p>}
          {letters.length > 0 && <LettersTable letters={letters} released />}
          {more && (
            <button type="button" className="button mt-3" onClick={more}>
              Show more · {count(letters.length)} of {count(total)}
            </button>
          )}
        </>
      }
    />
  )
}

/** The letters counted by whom they name, by country, by how many premises they are about, or by the day of posting. */
function Parts({ page, view, onView }: { page: LetterResultsPage; view: LetterResultsView; onView: (view: LetterResultsView) => void }) {
  const [by, setBy] = useState<LetterPart>(view.by ?? 'to')
  const rows = page.results.parts[by]
  const withCost = rows.some(({ cost }) => cost !== null)
  const columns = ['released', 'stopped', 'not posted', 'posted', ...POSTED_STANDS] as const
  return (
    <>
      <label className="mt-5 flex items-center gap-2 print:hidden">
        Count by{' '}
        <select value={by} onChange={(event) => setBy(event.target.value as LetterPart)}>
          {LETTER_PARTS.map((own) => (
            <option key={own} value={own}>
              {LETTER_PART_TEXT[own].toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      <table className="account mt-2" aria-label="Results by part">
        <thead>
          <tr>
            <th scope="col">{LETTER_PART_TEXT[by]}</th>
            {columns.map((of) => (
              <th key={of} scope="col" className="figure max-w-[62px] align-bottom whitespace-normal!">
                {of === 'released' ? 'Released' : of === 'posted' ? 'Posted' : of === 'stopped' ? 'Stopped' : STAND_TEXT[of]}
              </th>
            ))}
            {withCost && (
              <th scope="col" className="figure">
                Cost
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key}>
              <td className="first-letter:uppercase">{partText(by, row.key)}</td>
              {columns.map((of) => (
                <td key={of} className="figure">
                  <Figure
                    value={of === 'released' ? releasedLetters(row.counts) : of === 'posted' ? postedLetters(row.counts) : row.counts[of]}
                    tone={of === 'released' || of === 'posted' ? 'plain' : TONE[of]}
                    label={`${titleOf(of)}, ${partText(by, row.key)}`}
                    chosen={view.of === of && view.by === by && view.key === row.key}
                    onChoose={() => onView({ of, by, key: row.key })}
                  />
                </td>
              ))}
              {withCost && <td className="figure">{row.cost === null ? '' : moneyText(row.cost / 100)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

/** The rounds of the list before this one, to hold it against. */
function Before({ page }: { page: LetterResultsPage }) {
  const { id, number, releasedAt } = page
  return (
    <BesideBefore
      done="Posted"
      rows={[{ id, number, releasedAt, ...page.results }, ...page.before].map((row) => ({
        id: row.id,
        called: String(row.number),
        releasedAt: row.releasedAt,
        released: releasedLetters(row.counts),
        done: postedLetters(row.counts),
        answered: row.counts.answered,
        perAnswer: letterCostPerAnswer(row),
      }))}
    />
  )
}

const share = (n: number, of: number): string => (n === 0 || of === 0 ? '' : shareText(n / of))
