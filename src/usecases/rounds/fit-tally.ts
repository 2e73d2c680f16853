import { agreement } from '@/core/checks/agreement'
import type { Verdict } from '@/core/checks/patterns'
import { type FitCheckRow, type SampledRow, sampledRows, type VerdictRow, verdictRows } from '@/db/rounds/fit-rows'
import { keyed } from '@/db/key'
import type { Knex } from '@/db/connection'
import type { Outcome } from '@/core/checks/plan'
import { judged, quantile, sequentially } from '@/core/checks/plan'
import { type Estimate, estimate, wilson } from '@/core/checks/share'

/** What a verdict on somebody rests on: where any of it changes, the verdict lapses. An HMAC, which tells nothing once they are erased. */
export const factsOf = (of: SampledRow): Buffer =>
  keyed(`fit ${of.person}:${JSON.stringify([of.role, of.organisation, of.industry, of.heads, of.town, of.relation, [...of.tags].sort()])}`)

/** Somebody of the sample with what was said of them: the verdict that counts, and all that stand. */
export interface Seen {
  of: SampledRow
  counts: VerdictRow | null
  all: VerdictRow[]
}

export interface Tally {
  seen: Seen[]
  strata: { size: number; seen: number; fit: number; low: number; high: number }[]
  whole: Estimate
  verdicts: Record<Verdict, number>
  outcome: Outcome
}

/**
 * A sample with its verdicts: of several on one person the latest in this check counts, else the latest of an earlier one. Whoever nobody
 * can tell of counts as seen, and not in the share.
 */
export async function tallyOf(trx: Knex, check: FitCheckRow): Promise<Tally> {
  const sample = await sampledRows(trx, check.id)
  const said = new Map<number, VerdictRow[]>()
  for (const verdict of await verdictRows(
    trx,
    check.list_id,
    sample.map(({ person }) => person),
  ))
    said.set(verdict.person_id, [...(said.get(verdict.person_id) ?? []), verdict])
  const seen = sample.map((of): Seen => {
    const facts = factsOf(of)
    const all = of.live ? (said.get(of.person) ?? []).filter((verdict) => verdict.facts.equals(facts)) : []
    return { of, all, counts: all.findLast(({ check_id }) => check_id === check.id) ?? all.at(-1) ?? null }
  })
  const verdicts: Record<Verdict, number> = { fits: 0, 'does not': 0, 'cannot tell': 0 }
  const counted = check.strata.map(({ size }) => ({ size, seen: 0, fit: 0 }))
  for (const { of, counts } of seen) {
    if (!counts) continue
    verdicts[counts.verdict]++
    if (counts.verdict === 'cannot tell') continue
    counted[of.stratum].seen++
    if (counts.verdict === 'fits') counted[of.stratum].fit++
  }
  const z = quantile(check.plan)
  const whole = estimate(counted, z)
  const strata = counted.map((own) => ({ ...own, ...wilson(own.fit, own.seen, z) }))
  return { seen, strata, whole, verdicts, outcome: outcomeOf(check, whole, verdicts, seen) }
}

/** A fixed sample says nothing before all of it was seen; a sequential one may be clear earlier. */
function outcomeOf({ plan }: FitCheckRow, whole: Estimate, verdicts: Record<Verdict, number>, seen: readonly Seen[]): Outcome {
  if (plan.kind === 'sequential') {
    // In the order of the sample, as far as everybody was seen: what was said before the check would flatter it out of turn.
    let [fit, unfit] = [0, 0]
    for (const { of, counts } of seen) {
      if (of.live && counts === null) break
      if (counts?.verdict === 'fits') fit++
      else if (counts?.verdict === 'does not') unfit++
      const so = sequentially(plan, fit, unfit)
      if (so !== 'open') return so
    }
    return 'open'
  }
  const left = seen.filter(({ of, counts }) => of.live && counts === null).length
  return left > 0 || verdicts.fits + verdicts['does not'] === 0 ? 'open' : judged(plan, whole)
}

/** How far each two people who judged the same people of a check agree. */
export function agreements(check: FitCheckRow, seen: readonly Seen[]) {
  const by = new Map<string, { name: string; said: Map<number, string> }>()
  for (const { of, all } of seen)
    for (const verdict of all)
      if (verdict.check_id === check.id) {
        const own = by.get(verdict.by_id) ?? { name: verdict.by ?? 'A former colleague', said: new Map() }
        own.said.set(of.person, verdict.verdict)
        by.set(verdict.by_id, own)
      }
  const people = [...by.values()]
  return people.flatMap((one, i) =>
    people.slice(i + 1).flatMap((other) => {
      const told = agreement(one.said, other.said)
      return told.both === 0 ? [] : [{ ...told, who: [one.name, other.name] as [string, string] }]
    }),
  )
}
