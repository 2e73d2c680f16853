import type { Weight } from '@/core/facets/alike'
import { FACETS } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import type { AlikePage } from '@/core/views/list-views'
import type { Actor } from '@/usecases/team/actor'
import { PAGE, preparedLines } from './list-account'
import { recordsPage } from '@/usecases/directory/records-page'

/** Records most like those on some lines, with the reasons of each; the originals are left out. */
export async function moreLike(actor: Actor, ask: { lines: unknown; offset?: number }, signal?: AbortSignal): Promise<AlikePage> {
  const prepared = await preparedLines(actor, ask.lines)
  const subject = subjectOf(prepared.lines)
  const answer = await askEngine(
    'alike',
    { ...prepared, page: { offset: ask.offset ?? 0, limit: PAGE }, screen: `${actor.id}:alike` },
    signal,
  )
  const reasons = new Map(answer.ids.map((id, i) => [id, { score: answer.scores[i], why: answer.reasons[i] }]))
  const said = ({ key, label, weight }: Weight) =>
    `${FACETS[subject][key].title.toLowerCase()} ${label} ${weight > 0 ? '+' : '−'}${Math.abs(weight).toFixed(2)}`
  return {
    examples: answer.examples,
    telling: answer.telling,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      records: (await recordsPage(subject, answer.ids)).map((record) => {
        const own = reasons.get(record.id)
        return own ? { ...record, because: { title: `Score ${own.score.toFixed(2)}`, detail: own.why.map(said).join(' · ') } } : record
      }),
    },
  }
}
