import type { AnswerTo } from '@/engine/protocol'
import { SUBJECT_NAMES } from '@/core/records/subject'
import type { Weight } from '@/core/facets/alike'
import { type CriterionName, probesFor } from '@/core/criteria/registry'
import { facetOf, FACETS } from '@/core/facets/registry'
import { subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { askEngine } from '@/engine/client'
import type { AlikePage } from '@/core/views/list-views'
import { type Actor, Refused } from '@/usecases/team/actor'
import { PAGE, preparedLines } from './list-account'
import { listFor } from './open-list'
import { expanded } from './named-lists'
import { recordsPage } from '@/usecases/directory/records-page'
import { latestEdition } from '@/db/lists/list-rows'

/** Those behind a tab or figure of some lines, counted by a facet. */
export async function groupList(
  actor: Actor,
  ask: { lines: unknown; view: ListView; key: string; screen?: string },
  signal?: AbortSignal,
): Promise<AnswerTo<'group'>> {
  const prepared = await preparedLines(actor, ask.lines)
  try {
    facetOf(subjectOf(prepared.lines), ask.key)
  } catch {
    throw new Refused(`There is no column ${ask.key}.`)
  }
  return askEngine('group', { ...prepared, view: ask.view, key: ask.key }, signal)
}

/** Of how many of those on some lines it is unknown what each kind of criterion asks. */
export async function presenceOf(
  actor: Actor,
  ask: { lines: unknown },
  signal?: AbortSignal,
): Promise<{ on: number; unknown: Partial<Record<CriterionName, number>> }> {
  const prepared = await preparedLines(actor, ask.lines)
  const kinds = probesFor(subjectOf(prepared.lines))
  const { on, unknown } = await askEngine('presence', { ...prepared, kinds }, signal)
  return { on, unknown: Object.fromEntries(kinds.map(({ kind }, i) => [kind, unknown[i]])) }
}

/** Some lines beside the directory, or beside another list this person sees, facet by facet. */
export async function profileList(
  actor: Actor,
  ask: { lines: unknown; base?: number | null },
  signal?: AbortSignal,
): Promise<AnswerTo<'profile'>> {
  const prepared = await preparedLines(actor, ask.lines)
  const other = ask.base ? await listFor(actor, ask.base) : null
  if (other && other.subject !== subjectOf(prepared.lines))
    throw new Refused(`“${other.name}” is a list of ${SUBJECT_NAMES[other.subject]} and cannot be held beside this one.`)
  const base = other ? await expanded((await latestEdition(other.id)).lines) : null
  return askEngine(
    'profile',
    { ...prepared, base: base && { lines: base.lines, named: base.named }, screen: `${actor.id}:profile` },
    signal,
  )
}

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
