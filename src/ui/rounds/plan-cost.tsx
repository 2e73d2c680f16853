import { newRule } from '@/core/screening/new-rule'
import { costBy, oneChannelIn } from '@/core/screening/one-channel'
import type { Rule } from '@/core/screening/rules'
import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'
import { moneyText } from '@/core/text/written'
import type { RoundAccount } from '@/core/views/round-views'
import { count } from '@/ui/book/figures'

/** Splits the people of a round by channel with one press; where they are split, what their contacts cost. */
export function PlanCost({
  rules,
  figures,
  onSplit,
}: {
  rules: readonly Rule[]
  figures: RoundAccount['figures'] | null
  /** Adds the rule to this round; absent where this person may not, or it is out. */
  onSplit?: (rules: Rule[]) => void
}) {
  const rule = oneChannelIn(rules)
  if (!figures) return null
  if (!rule)
    return onSplit && !rules.some(({ kind }) => kind === 'one-channel') && figures.ways.some(({ channels }) => channels.length > 1) ? (
      <p className="mt-3">
        <button type="button" className="button" onClick={() => onSplit([...rules, newRule('one-channel', rules)])}>
          Split by channel
        </button>{' '}
        <span className="quiet">One contact each: whoever has a phone onto the call file, the others onto labels.</span>
      </p>
    ) : null
  const parts = CHANNELS.flatMap((channel) => {
    const [cost, n] = [costBy(rule, channel), figures.clear[channel]]
    return cost === null || n === 0 ? [] : [{ channel, n, total: (cost * n) / 100 }]
  })
  if (parts.length === 0) return null
  const sum = parts.reduce((all, { total }) => all + total, 0)
  return (
    <p className="mt-2" data-testid="plan-cost">
      <b>{moneyText(sum)}</b>{' '}
      <span className="quiet">
        {rule.budget === undefined ? '' : `of ${moneyText(rule.budget)} `}for{' '}
        {parts.map(({ channel, n, total }) => `${count(n)} by ${CHANNEL_NAME[channel]} (${moneyText(total)})`).join(', ')}
      </span>
    </p>
  )
}
