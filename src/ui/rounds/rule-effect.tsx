'use client'

import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'
import type { ScreeningFigures } from '@/core/screening/account'
import { RULES, type Rule } from '@/core/screening/rules'
import type { RoundAccount } from '@/core/views/round-views'
import { count } from '@/ui/book/figures'
import { useAnswer } from '@/ui/book/use-answer'

/** How long after the last change of a setting its effect is asked for, in milliseconds. */
const PAUSE = 200

/** What a rule that is being changed would let through or hold back, before the change is made. */
export function RuleEffect({ round, rules, now, rule }: { round: number; rules: Rule[]; now: ScreeningFigures | null; rule: Rule }) {
  const same = JSON.stringify(rules.find((own) => own.id === rule.id)) === JSON.stringify(rule)
  const whole = RULES[rule.kind].schema.isValidSync(rule, { strict: true })
  const next = rules.map((own) => (own.id === rule.id ? rule : own))
  const answer = useAnswer<RoundAccount>(
    `/api/rounds/${round}`,
    same || !whole ? null : { view: { tab: 'clear' }, offset: 0, rules: next },
    PAUSE,
  )
  return (
    <p role="status" className="quiet min-h-[2.6em]" data-testid="rule-effect">
      {same ? 'What a change would do is shown here.' : answer && now ? effectText(now, answer.figures) : whole ? 'Counting …' : ''}
    </p>
  )
}

/** The difference between two accounts in words: “57 more by phone; 43 more people are clear”. */
export function effectText(now: ScreeningFigures, then: ScreeningFigures): string {
  const said = (difference: number) => `${count(Math.abs(difference))} ${difference > 0 ? 'more' : 'fewer'}`
  const by = CHANNELS.map((channel) => [channel, then.clear[channel] - now.clear[channel]] as const).filter(
    ([, difference]) => difference !== 0,
  )
  if (by.length === 0) return 'Nobody more and nobody fewer is clear on any channel.'
  const anyone = then.anyone - now.anyone
  const people =
    anyone === 0 ? 'as many people are clear as now' : `${said(anyone)} ${Math.abs(anyone) === 1 ? 'person is' : 'people are'} clear`
  return `${by.map(([channel, difference]) => `${said(difference)} by ${CHANNEL_NAME[channel]}`).join(', ')}; ${people}.`
}
