'use client'

import { useState } from 'react'
import { CHANNEL_TITLE, CHANNELS, type Channel } from '@/core/records/channels'
import { plannedWeeks } from '@/core/rounds/weeks'
import { oneChannelIn } from '@/core/screening/one-channel'
import type { Rule } from '@/core/screening/rules'
import { dateText, moneyText } from '@/core/text/written'
import type { PlanVariant, RoundAccount, RoundPage } from '@/core/views/round-views'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

/** The plan of a round, week by week and channel by channel: what it will be, or once it is out how far it is. */
export function PlanWeeks({
  round,
  rules,
  figures,
}: {
  round: RoundPage
  rules: readonly Rule[]
  figures: RoundAccount['figures'] | null
}) {
  const rule = oneChannelIn(rules)
  if (!rule || !figures) return null
  const building = round.state === 'being built'
  const planned = plannedWeeks(rule, figures.clear)
  if (planned.length === 0) return building ? <Variants round={round.id} seen={JSON.stringify([rule, figures.clear])} /> : null
  const used = CHANNELS.filter((channel) => planned.some((week) => week.by[channel] > 0))
  const priced = planned.some(({ cost }) => cost !== null)
  return (
    <section className="mt-4" aria-label="Plan by weeks">
      <table className="account" aria-label="Plan by weeks">
        <thead>
          <tr>
            <th scope="col">Week</th>
            {used.map((channel) => (
              <th key={channel} scope="col" className="figure">
                {CHANNEL_TITLE[channel]}
              </th>
            ))}
            {priced && (
              <th scope="col" className="figure balance">
                Cost
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {planned.map((week, i) => {
            const out = round.weeks.find((own) => own.week === week.week)
            return (
              <tr key={week.week}>
                <td>
                  {week.week}
                  {out && <span className="quiet"> · from {dateText(out.from)}</span>}
                </td>
                {used.map((channel) => (
                  <td key={channel} className="figure">
                    {building ? blank(week.by[channel]) : <Made of={out?.by[channel]} />}
                  </td>
                ))}
                {priced && <td className="figure balance">{moneyText((planned[i].cost ?? 0) / 100)}</td>}
              </tr>
            )
          })}
          <tr className="total">
            <td>In all</td>
            {used.map((channel) => (
              <td key={channel} className="figure">
                {count(figures.clear[channel])}
              </td>
            ))}
            {priced && <td className="figure balance">{moneyText(planned.reduce((sum, { cost }) => sum + (cost ?? 0), 0) / 100)}</td>}
          </tr>
        </tbody>
      </table>
      {building ? (
        <Variants round={round.id} seen={JSON.stringify([rule, figures.clear])} />
      ) : (
        <p className="quiet mt-1.5">
          Planned, and how many of them are still to make. The files say in which week each contact is planned.
        </p>
      )}
    </section>
  )
}

const blank = (n: number) => (n === 0 ? <span className="sr-only">0</span> : count(n))

function Made({ of }: { of: { planned: number; open: number } | undefined }) {
  if (!of) return <span className="sr-only">0</span>
  return (
    <>
      {count(of.planned)}
      <span className="quiet block">{of.open === 0 ? 'all made' : `${count(of.open)} to make`}</span>
    </>
  )
}

/** What one thing more or less would change, counted when it is opened. */
function Variants({ round, seen }: { round: number; seen: string }) {
  const [open, setOpen] = useState(false)
  const { answer, told } = useAsked<PlanVariant[]>(open ? [`/api/rounds/${round}/plan`] : null, { hold: true, also: seen })
  const [now, ...others] = answer ?? []
  return (
    <details className="mt-2" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold text-verdigris">What would change the plan</summary>
      {told && (
        <p role="alert" className="told mt-1">
          {told}
        </p>
      )}
      {open && !answer && !told && <p className="quiet mt-1">Counting …</p>}
      {now && others.length === 0 && (
        <p className="quiet mt-1">
          Give the plan callers, contacts a week, a budget or a number of people, and this says what more or less of them changes.
        </p>
      )}
      {now && others.length > 0 && (
        <table className="account mt-1" aria-label="What would change the plan">
          <tbody>
            {others.map((own) => (
              <tr key={own.title}>
                <td>{own.title}</td>
                <td className="figure">{more(own.people - now.people, 'people')}</td>
                <td className="figure">
                  {CHANNELS.filter((channel: Channel) => own.clear[channel] !== now.clear[channel])
                    .map((channel) => `${signed(own.clear[channel] - now.clear[channel])} ${CHANNEL_TITLE[channel].toLowerCase()}`)
                    .join(', ')}
                </td>
                <td className="figure balance">
                  {own.cost === now.cost ? '' : `${own.cost > now.cost ? '+' : '−'}${moneyText(Math.abs(own.cost - now.cost) / 100)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </details>
  )
}

const signed = (n: number) => `${n > 0 ? '+' : '−'}${count(Math.abs(n))}`
const more = (n: number, what: string) => (n === 0 ? `as many ${what}` : `${signed(n)} ${n === 1 || n === -1 ? 'person' : what}`)
