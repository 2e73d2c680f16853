'use client'

import { CHANNEL_NAME } from '@/core/records/channels'
import type { Line } from '@/core/lists/line'
import { moneyText } from '@/core/text/written'
import type { ListCost as Cost } from '@/core/views/list-views'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

/** What contacting the people of a list costs, beside its balance while it is built; nothing where its policy sets no costs. */
export function ListCost({ list, lines, balance }: { list: number; lines: Line[]; balance: number | undefined }) {
  // Asked once the balance is there, so that the figures on the page come first.
  const { answer } = useAsked<{ cost: Cost | null }>(balance === undefined ? null : [`/api/lists/${list}/cost`, { lines }], {
    hold: true,
    also: balance,
  })
  if (!answer?.cost) return null
  const { planned, people, budget, all } = answer.cost
  const over = budget !== null && planned > budget * 100
  return (
    <p className="mt-2 text-[13.5px]" data-testid="list-cost">
      <b className={over ? 'text-madder' : ''}>{moneyText(planned / 100)}</b> to contact the {count(people)} who are clear, as the policy
      plans it{budget === null ? '' : `, of ${moneyText(budget)}`}.{' '}
      <span className="quiet">
        {all
          .map(({ channel, people: reached, cost }) => `All ${count(reached)} by ${CHANNEL_NAME[channel]} ${moneyText(cost / 100)}`)
          .join(' · ')}
      </span>
    </p>
  )
}
