import type { CheckPlan } from '@/core/checks/plan'
import type { UnfitReason, Verdict } from '@/core/checks/patterns'
import type { FitCheckView } from '@/core/views/fit-views'
import { shareText } from '@/core/text/written'
import { count } from '@/ui/book/figures'

/** How many samples in how many hold the true share. */
const SURE: Record<CheckPlan['sure'], string> = { 90: '9 times in 10', 95: '19 times in 20', 99: '99 times in 100' }

/** A plan in words, with what it was drawn from. */
export function planText({ plan, sample, strata }: FitCheckView): string {
  const clear = count(strata.reduce((sum, { size }) => sum + size, 0))
  const wanted = `wanted: at least ${shareText(plan.wanted)} fit, ${SURE[plan.sure]}`
  return plan.kind === 'fixed'
    ? `A fixed sample of ${count(sample)} of ${clear} clear, drawn by where they come from · ${wanted}`
    : `One after the other until the result is certain, ${count(sample)} of ${clear} clear at most · ${wanted}; fails if only ${shareText(plan.poor)} fit`
}

/** What a check has come to. */
export function outcomeText(check: FitCheckView): string {
  const { outcome, toSee, ended } = check
  const by = ended ? ` Ended by ${ended.by}.` : ''
  if (outcome === 'passes') return `It passes: ${shareText(check.plan.wanted)} or more fit.${by}`
  if (outcome === 'fails')
    return `It does not pass: fewer than ${shareText(check.plan.wanted)} fit. Tighten the list, then draw a new sample.${by}`
  if (ended) return `It ended without being sure.${by}`
  if (toSee > 0) return `Not sure yet: ${count(toSee)} still to see.`
  return 'All were seen, and it is still not sure. Draw a larger sample, or end the check.'
}

export const VERDICT_TEXT: Record<Verdict, string> = { fits: 'fits', 'does not': 'does not belong', 'cannot tell': 'can’t tell' }
export const REASON_TEXT: Record<UnfitReason, string> = {
  role: 'role',
  organisation: 'organisation',
  level: 'level',
  place: 'place',
  'known to us': 'known to us already',
  other: 'other',
}
