'use client'

import Link from 'next/link'
import { useState } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { FitPage } from '@/core/views/fit-views'
import { useAsked } from '@/ui/book/asking'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { Arch } from './arch'
import { FitAccount } from './fit-account'
import { FitChart } from './fit-chart'
import { FitJudging, type JudgeActions } from './fit-judging'
import { FitPatterns } from './fit-patterns'
import { FitPlan } from './fit-plan'
import { outcomeText, planText } from './fit-words'
import { roundStones } from './round-stones'

export interface FitActions extends JudgeActions {
  drawSample: (round: number, plan: unknown) => Promise<ActionResult<number>>
  endCheck: (check: number) => Promise<ActionResult<unknown>>
  tighten: (round: number, pattern: string) => Promise<ActionResult<number | null>>
}

/** A round's fit check: how many of a sample belong on the left, one person at a time on the right. */
export function FitScreen({ first, actions }: { first: FitPage; actions: FitActions }) {
  const [second, setSecond] = useState(false)
  const [drawing, setDrawing] = useState(false)
  const [told, setTold] = useState<string | null>(null)
  const { answer: page = first, again } = useAsked<FitPage>([`/api/rounds/${first.round}/fit${second ? '?second=yes' : ''}`], {
    ...(second ? {} : { first }),
    hold: true,
  })
  const { check } = page
  const building = page.state === 'being built'
  const open = check !== null && check.ended === null && building
  const planning = page.mayDraw && (check === null || drawing)
  const draw = async (plan: unknown) => {
    const done = await actions.drawSample(page.round, plan)
    if (!done.ok) return setTold(done.error)
    setTold(null)
    setDrawing(false)
    setSecond(false)
    await again()
  }
  const end = async () => {
    if (!check) return
    const done = await actions.endCheck(check.id)
    setTold(done.ok ? null : done.error)
    await again()
  }
  const tighten = async (pattern: string, sentence: string) => {
    const done = await actions.tighten(page.round, pattern)
    if (!done.ok) return setTold(done.error)
    setTold(null)
    toast(
      done.value === null
        ? 'Proposed to whoever may edit the list.'
        : `Edition ${done.value} has the line “${sentence}”. Draw a new sample to see how the list fits now.`,
    )
    // Not the whole page: what comes with it could take the place of a sample that is drawn meanwhile.
    await again()
  }
  return (
    <Spread
      width="640px"
      label={{ left: 'How many fit', right: 'One person at a time' }}
      left={
        <>
          <h1>
            Check · Round {page.called} of {page.list}
          </h1>
          <p className="quiet">
            {check
              ? `${planText(check)} · drawn ${day(check.drawnAt)} by ${check.drawnBy} from edition ${check.edition}`
              : 'Look at some people of the list, drawn at random, and see how many of them belong on it.'}
          </p>
          <div className="my-3 flex items-center gap-6">
            <Arch
              stones={roundStones(
                page.state,
                { screen: `/rounds/${page.round}`, check: `/rounds/${page.round}/check` },
                check ? { passed: check.outcome === 'passes', ended: check.ended !== null } : null,
              )}
            />
            <p className={check?.outcome === 'passes' ? 'text-verdigris' : check?.outcome === 'fails' ? 'text-madder' : ''}>
              {check ? outcomeText(check) : building ? 'Nobody was looked at yet.' : 'No sample was looked at in this round.'}
            </p>
          </div>
          {told && (
            <p role="alert" className="told mb-2">
              {told}
            </p>
          )}
          {check?.changed && building && (
            <p role="status" className="said mb-2">
              The list, the rules or who was let through changed since this sample was drawn. Draw a new sample. Your verdicts are kept for
              everybody whose record did not change.
            </p>
          )}
          {planning ? (
            <FitPlan
              clear={page.clear}
              before={check?.plan ?? null}
              onDraw={draw}
              {...(check ? { onCancel: () => setDrawing(false) } : {})}
            />
          ) : (
            check && (
              <>
                <FitAccount check={check} />
                <FitChart check={check} />
                <FitPatterns round={page.round} check={check} mayEdit={page.mayEdit} mayMake={page.mayJudge && building} onMake={tighten} />
                <div className="mt-4 flex flex-wrap gap-2">
                  {open && check.secondToSee > 0 && (
                    <button type="button" className="button" aria-pressed={second} onClick={() => setSecond(!second)}>
                      {second ? 'Back to those nobody saw' : `Give a second opinion on ${count(check.secondToSee)}`}
                    </button>
                  )}
                  {page.mayDraw && (
                    <button type="button" className="button" onClick={() => setDrawing(true)}>
                      Draw a new sample
                    </button>
                  )}
                  {open && page.mayDraw && check.seen.length > 0 && (
                    <button
                      type="button"
                      className={check.toSee === 0 || check.outcome !== 'open' ? 'button button-main' : 'button'}
                      onClick={end}
                    >
                      End check
                    </button>
                  )}
                  <Link href={`/rounds/${page.round}`} className="button">
                    Back to the round
                  </Link>
                </div>
              </>
            )
          )}
          {!check && !page.mayDraw && building && <p className="quiet">Coordinators and managers draw samples.</p>}
        </>
      }
      right={
        check ? (
          <FitJudging
            key={`${check.id} ${second}`}
            check={check}
            second={second}
            may={page.mayJudge && open}
            actions={actions}
            again={again}
          />
        ) : (
          <p className="quiet mt-2">The people of the sample are shown here, one at a time.</p>
        )
      }
    />
  )
}
