import { isDay, localDate } from '@/core/calendar/local-day'
import { type ChangeAct, lockChange, putOffRow, writeAct } from '@/db/changes/act-rows'
import { lockDecision } from '@/db/changes/decide-rows'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'

type Stored = NonNullable<Awaited<ReturnType<typeof lockChange>>>

const BECOMES = { take: 'taken', 'let go': 'open', handle: 'handled', 'set aside': 'set aside', reopen: 'open' } as const

/**
 * Takes a change, lets it go, handles it, sets it aside or opens it again, for the whole team. Of two who take one the second is told
 * whose it is. Throws Refused where somebody else has it or settled it.
 */
export async function actOnChange(actor: Actor, id: number, act: ChangeAct): Promise<void> {
  await db().transaction(async (trx) => {
    const change = await lockChange(trx, id)
    if (!change) throw new Refused('This change does not exist.', 'not found')
    const why = refusal(actor, change, act)
    if (why) throw new Refused(why)
    if (act === 'reopen' && (await lockDecision(trx, id)))
      throw new Refused('This change was confirmed, and the record says so. Take the confirmation back instead.')
    if (change.state === BECOMES[act] && change.state_by === actor.id) return
    await writeAct(trx, id, act, BECOMES[act], actor.id, now())
  })
}

function refusal(actor: Actor, change: Stored, act: ChangeAct): string | null {
  if (change.gone_at !== null && act !== 'reopen')
    return `This change no longer counts: ${GONE[change.gone_why as string] ?? change.gone_why}.`
  const others = change.state_by !== actor.id
  const who = change.by ?? 'A former colleague'
  if (act === 'reopen') return change.state === 'handled' || change.state === 'set aside' ? null : 'This change is open already.'
  if (change.state === 'handled') return others || act !== 'handle' ? `${who} has handled this already. Open it again first.` : null
  if (change.state === 'set aside') return others || act !== 'set aside' ? `${who} set this aside. Open it again first.` : null
  if (act === 'let go') {
    if (change.state !== 'taken') return 'Nobody has taken this.'
    return others && !mayCoordinate(actor) ? `${who} has taken this. They, or a coordinator, can let it go.` : null
  }
  return change.state === 'taken' && others ? `${who} has taken this. Ask them first, or have it let go.` : null
}

/** Why a change counts no more, in words. */
const GONE: Record<string, string> = {
  merged: 'its record was merged into another',
  erased: 'its record was erased',
  withdrawn: 'its record was withdrawn',
  undone: 'what reported it was undone',
  'told otherwise': 'later reports tell it otherwise',
}

/** Puts a change off until a day, or no longer, for whoever asks alone. Throws Refused where the day is none, or has come. */
export async function putOffChange(actor: Actor, id: number, until: string | null): Promise<void> {
  if (until !== null && !isDay(until)) throw new Refused('Say the day until which to put it off.')
  const today = localDate(now().getTime(), settings().ARCH_ZONE)
  if (until !== null && until <= today) throw new Refused('Choose a day that is still to come.')
  await db().transaction(async (trx) => {
    const change = await lockChange(trx, id)
    if (!change) throw new Refused('This change does not exist.', 'not found')
    await putOffRow(trx, id, actor.id, until, now())
  })
}
