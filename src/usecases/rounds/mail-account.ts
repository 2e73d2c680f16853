import { type MailAccount, MESSAGE_STATES, type MessageBecame } from '@/core/views/letter-views'
import { db } from '@/db/connection'
import { type LeftOutWhy, mailRunOf, type MessageState, messageCounts, notArrived } from '@/db/rounds/mail-rows'
import { nameOf } from '@/db/team/colleagues'
import type { Actor } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** So many of those it did not reach are shown. */
const MOST_SHOWN = 200

/** A message that is being handed over still waits, as far as anybody knows. */
const becameOf = (state: MessageState): MessageBecame => (state === 'handed over' ? 'waiting' : state)

/** How far the emails of a round are; nothing where none began to leave. */
export async function mailAccount(actor: Actor, id: number): Promise<MailAccount | Record<string, never>> {
  const { round } = await roundFor(actor, id)
  const run = await mailRunOf(db(), id)
  if (!run) return {}
  const counts = Object.fromEntries(MESSAGE_STATES.map((state) => [state, 0])) as MailAccount['counts']
  for (const { state, count } of await messageCounts(db(), run.id)) counts[becameOf(state)] += count
  return {
    state: run.state,
    note: run.state === 'running' || run.state === 'done' ? null : run.note,
    by: (await nameOf(db(), run.begun_by))?.name ?? 'Somebody who left',
    begunAt: run.begun_at.toISOString(),
    endedAt: run.ended_at?.toISOString() ?? null,
    perMinute: run.per_minute,
    total: Object.values(counts).reduce((sum, count) => sum + count, 0),
    counts,
    missed: (await notArrived(db(), run.id, MOST_SHOWN)).map(({ person, name, state, code, why }) => ({
      person,
      name,
      became: becameOf(state),
      why: why ? LEFT_OUT[why] : `${(code && MEANS[code]) ?? 'the mail service did not take it'}${code ? ` (${code})` : ''}`,
    })),
    ...(round.closed_at && run.state !== 'done' ? { note: 'The round is closed: nobody is contacted in it any more.' } : {}),
  }
}

const LEFT_OUT: Record<LeftOutWhy, string> = {
  suppressed: 'must not be contacted by email any more',
  ended: 'this contact was made or ended otherwise',
  'no longer there': 'the record was withdrawn or erased',
  merged: 'they got it as another record, merged with this one',
}

/** Status codes by what they mean (RFC 3463, section 3). */
const MEANS: Record<string, string> = {
  '5.1.1': 'no such mailbox',
  '5.1.2': 'no such domain',
  '5.1.3': 'no email can be sent to this address',
  '5.1.10': 'the domain takes no email',
  '5.2.1': 'the mailbox is closed',
  '5.7.1': 'the mail service refuses it',
  '4.2.2': 'the mailbox is full',
  '4.7.1': 'busy each time it was tried',
}
