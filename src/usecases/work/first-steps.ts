import type { FirstStep } from '@/core/views/first-step'
import { db } from '@/db/connection'
import { firstStepsRow } from '@/db/work/first-steps'
import type { Actor } from '@/usecases/team/actor'
import { batchFor } from '@/usecases/intake/batch-for'

/** The five steps of a book that was just opened; null once there is a list, when nobody needs them. */
export async function firstSteps(actor: Actor): Promise<FirstStep[] | null> {
  const { batch, mapped, stored, suppressions, list } = await firstStepsRow(db())
  if (list) return null
  const seen = batch !== null && (await batchFor(actor, batch).catch(() => null)) !== null
  const file = seen ? `/intake/${batch}` : '/intake'
  return [
    {
      title: 'Import a file',
      what: 'CSV, Excel, JSON Lines, GeoJSON or vCard: people, organisations or premises.',
      href: '/intake',
      act: 'Go to Intake',
      done: batch !== null,
    },
    {
      title: 'Check its columns',
      what: 'Each column says what it holds, as it was guessed. Change what is wrong and press Import file.',
      href: file,
      act: 'Check the columns',
      done: mapped,
    },
    {
      title: 'See what became of every row',
      what: 'New, known, changed, in doubt or refused, each row with its reason.',
      href: file,
      act: 'See the rows',
      done: stored,
    },
    {
      title: 'Say who must not be contacted',
      what: 'A do-not-call register, opt-outs, or single addresses. Nobody on it is ever released.',
      href: '/screening',
      act: 'Go to Screening',
      done: suppressions,
    },
    {
      title: 'Make your first list',
      what: 'It starts with everyone, and each line you add narrows it. Name it here and press New list.',
      href: '/lists',
      act: 'Name it above',
      done: list,
    },
  ]
}
