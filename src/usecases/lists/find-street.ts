import type { AnswerTo } from '@/engine/protocol'
import { type Subject, SUBJECTS } from '@/core/records/subject'
import { subjectOf } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'

/** Streets whose name is likest to what was typed. */
export async function findStreet(
  _actor: Actor,
  ask: { subject?: Subject; lines?: unknown; typed: string },
  signal?: AbortSignal,
): Promise<AnswerTo<'streets'>> {
  const subject = SUBJECTS.find((s) => s === ask.subject) ?? (Array.isArray(ask.lines) ? subjectOf(ask.lines) : 'person')
  return askEngine('streets', { subject, typed: String(ask.typed).slice(0, 120) }, signal)
}
