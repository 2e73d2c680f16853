import { lineText } from '@/core/lists/line'
import type { FitPatternView } from '@/core/views/fit-views'
import { db } from '@/db/connection'
import { newestFitCheck } from '@/db/rounds/fit-rows'
import { askEngine } from '@/engine/client'
import { withLastRounds } from '@/usecases/lists/named-lists'
import { momentNow } from '@/usecases/screening/screening-now'
import type { Actor } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { basisOf } from './round-basis'
import { roundFor } from './rounds'

/** What those who do not belong share, as lines of the list as it is now. */
export async function fitPatterns(actor: Actor, id: number): Promise<FitPatternView[]> {
  const { round, list } = await roundFor(actor, id)
  const check = await newestFitCheck(db(), id)
  if (!check || round.released_at) return []
  const tally = await tallyOf(db(), check)
  const by = (verdict: string) => tally.seen.filter(({ counts }) => counts?.verdict === verdict)
  const [fit, unfit] = [by('fits'), by('does not')]
  if (unfit.length < 2) return []
  const ids = (of: typeof fit) => of.map((own) => own.of.person)
  const unknown = new Map<string, number[]>()
  for (const { of } of [...fit, ...unfit]) {
    const line = check.strata[of.stratum].unknownOf
    if (line) unknown.set(line, [...(unknown.get(line) ?? []), of.person])
  }
  const { page } = await basisOf(db(), id, list.id)
  const moment = await withLastRounds(momentNow(list.zone), [page])
  const { patterns } = await askEngine('fitPatterns', {
    lines: page.lines,
    named: page.named,
    moment,
    fit: ids(fit),
    unfit: ids(unfit),
    unknown: [...unknown].map(([line, of]) => ({ line, ids: of })),
  })
  return patterns.map((own) => {
    const changes = own.key === 'unknown'
    return {
      id: [own, ...(own.and ? [own.and] : [])].map(({ key, label }) => `${key} ${label}`).join(' & '),
      title: own.title,
      label: own.and ? `${own.label} and ${own.and.label}` : own.label,
      sentence: lineText(own.line),
      changes,
      line: own.line,
      fit: own.fit,
      unfit: own.unfit,
      allFit: fit.length,
      allUnfit: unfit.length,
      chance: own.adjusted,
      on: own.on,
      after: own.after,
    }
  })
}
