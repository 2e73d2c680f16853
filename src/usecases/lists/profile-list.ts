import type { AnswerTo } from '@/engine/protocol'
import { SUBJECT_NAMES } from '@/core/records/subject'
import { subjectOf } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { preparedLines } from './list-account'
import { listFor } from './open-list'
import { expanded } from './named-lists'
import { latestEdition } from '@/db/lists/list-rows'

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
