import { countText } from '@/core/text/written'
import { db } from '@/db/connection'
import { passGate } from '@/db/locks'
import { frozenReaders, type LetterReader } from '@/db/rounds/letter-rows'
import {
  type Became,
  handedOver,
  handOver,
  type MailRun,
  type Message,
  mailRun,
  messageCounts,
  messagesDue,
  moveMailRun,
  nextDue,
  standingOf,
  updateMessages,
} from '@/db/rounds/mail-rows'
import { leftOutOf } from '@/db/rounds/stopped'
import { tellWork } from '@/db/team/news'
import { enqueue } from '@/db/work/enqueue'
import { now } from '@/runtime/clock'
import { log } from '@/runtime/log'
import { SourceTrouble } from '@/sources/http-source'
import { type MailService, mailService, SEND_TIMEOUT, type Sent } from '@/sources/mail-service'
import { type NewContact, recordContacts } from '@/usecases/contact/contact-people'
import { composed, oneClickLink, stopLink } from './compose-email'

/** So many messages are decided on at once, and so many of them are on their way at once. */
const BATCH = 20
const AT_ONCE = 5

/** Minutes before each further try of a message that was not taken for now (common practice, no source). */
const RETRY = [1, 10, 60]

/** So many refusals one after the other that say nothing of the address end a run: it is we who are refused. */
const REFUSED_IN_A_ROW = 5

/** How long emails leave before other jobs have their turn, in milliseconds. */
let turn = 60_000
/** For tests. */
export function setTurn(next: number): void {
  turn = next
}

/** After so many broken connections, one after the other, the service is taken to be away. */
const UNSURE_IN_A_ROW = 10

/**
 * Milliseconds before the service is asked for a message of which nothing is known: it may be taking it still. One that another process
 * handed over may be on its way until that one's connection times out.
 */
let settleAfter = { own: 1000, others: SEND_TIMEOUT + 5000 }
/** For tests. */
export function setSettleAfter(next: number): void {
  settleAfter = { own: next, others: next }
}

/**
 * Sends the emails of a run for as long as it is to. Before a message leaves it is written that it is handed over; what came of it is
 * written after it. Where that is missing, since a process or a connection broke, the service is asked whether it has the message, so that
 * nobody gets it twice and nobody goes without. Whoever must not be contacted by now is left out.
 */
export async function runMail(id: number): Promise<void> {
  const service = mailService()
  try {
    await settle(service, id, 'others')
    const trouble = { refused: 0, unsure: 0 }
    const until = Date.now() + turn
    while (await sendSome(service, id, trouble))
      // Many emails at a slow rate take hours: other work has its turn meanwhile.
      if (Date.now() >= until) return await enqueue(db(), 'send-mail', { run: id })
  } catch (error) {
    if (!(error instanceof SourceTrouble)) throw error
    log.warn({ run: id, message: error.message }, 'the mail service does not answer')
    await breakOff(id, 'The mail service is not responding. What left is recorded, and the others wait. Go on when it is back.')
  } finally {
    service.close()
  }
}

/** One batch. Gives false where there is nothing more to do for now. */
async function sendSome(service: MailService, id: number, trouble: { refused: number; unsure: number }): Promise<boolean> {
  const run = await mailRun(db(), id)
  if (run?.state !== 'running') return false
  const due = await messagesDue(db(), id, now(), Math.min(BATCH, Math.max(1, Math.floor(run.per_minute / 30))))
  if (due.length === 0) return endOrWait(run)
  const began = Date.now()
  const leaving = await withoutLeftOut(run, due)
  const readers = new Map((await frozenReaders(db(), run.round_id, [...leaving.keys()])).map((reader) => [reader.person, reader]))
  const sent = new Map<number, Sent>()
  const open = [...leaving.keys()]
  const sendNext = async (): Promise<void> => {
    for (let person = open.shift(); person !== undefined; person = open.shift()) {
      const message = leaving.get(person) as Message
      if (await handOver(db(), id, person, now()))
        sent.set(person, await service.send(emailOf(run, message, readers.get(person) as LetterReader)))
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, sendNext))
  await record(
    run,
    [...sent].map(([person, came]) => ({ message: leaving.get(person) as Message, came })),
  )
  if ([...sent.values()].some(({ is }) => is === 'unsure')) await settle(service, id, 'own')
  for (const came of sent.values()) {
    trouble.refused = came.is === 'refused' && !isOfAddress(came.code) ? trouble.refused + 1 : 0
    trouble.unsure = came.is === 'unsure' ? trouble.unsure + 1 : 0
  }
  if (trouble.unsure >= UNSURE_IN_A_ROW) throw new SourceTrouble('The mail service cuts every connection.')
  if (trouble.refused >= REFUSED_IN_A_ROW) {
    const last = [...sent.values()].at(-1)
    await breakOff(
      id,
      `The mail service refuses what we send (${last && 'code' in last ? last.code : ''}). Ask whoever runs it, then go on.`,
    )
    return false
  }
  const pause = (sent.size * 60_000) / run.per_minute - (Date.now() - began)
  if (pause > 0) await new Promise((resolve) => setTimeout(resolve, pause))
  return true
}

/** Those of some messages that may leave; of the others it is written why not. */
async function withoutLeftOut(run: MailRun, due: readonly Message[]): Promise<Map<number, Message>> {
  const people = due.map(({ person_id }) => person_id)
  const standing = await standingOf(db(), run, people)
  const suppressed = new Set(
    (await leftOutOf(db(), run.round_id, now(), people)).filter(({ channel }) => channel === 'email').map(({ person }) => person),
  )
  const why = (person: number): Became['why'] => {
    const own = standing.get(person)
    if (!own) return 'no longer there'
    if (own.spared) return 'ended'
    return suppressed.has(person) || own.stopped ? 'suppressed' : own.twice ? 'merged' : own.open ? null : 'ended'
  }
  const out = people.flatMap((person): Became[] => {
    const because = why(person)
    return because ? [{ person, state: 'left out', why: because }] : []
  })
  await updateMessages(db(), run.id, out, ['waiting'], now())
  const gone = new Set(out.map(({ person }) => person))
  // Of two records that are one person by now, the second waits until it is known what came of the first.
  const roots = new Set<number>()
  const leaving = new Map<number, Message>()
  for (const message of due) {
    const root = standing.get(message.person_id)?.root
    if (gone.has(message.person_id) || root === undefined || roots.has(root)) continue
    roots.add(root)
    leaving.set(message.person_id, message)
  }
  return leaving
}

const emailOf = (run: MailRun, { message_id }: Message, reader: LetterReader) => ({
  id: message_id,
  from: { name: run.sender_name, address: run.sender_email },
  to: { name: reader.values.name ?? '', address: reader.to as string },
  stop: oneClickLink(message_id),
  ...composed(run, reader, stopLink(message_id)),
})

/** Whether a refusal says something of the address: no such mailbox, or one that takes nothing (RFC 3463, 3.2 and 3.3; RFC 5321, 4.2.3). */
const isOfAddress = (code: string): boolean => /^5\.[12]\.|^55[013]$/.test(code)

/** Writes what came of some messages, and records the contacts that were made, all of it or nothing. */
async function record(run: MailRun, all: readonly { message: Message; came: Sent }[]): Promise<void> {
  const told = all.filter(({ came }) => came.is !== 'unsure')
  if (told.length === 0) return
  const at = now()
  const became = told.map(({ message, came }) => ({ message, ...becameOf(message, came, at) }))
  await db().transaction(async (trx) => {
    await passGate(trx)
    const written = await updateMessages(
      trx,
      run.id,
      became.map((own) => own.became),
      ['handed over'],
      at,
    )
    const standing = await standingOf(trx, run, [...written])
    await recordContacts(
      trx,
      became.flatMap(({ message, result }): NewContact[] => {
        const own = written.has(message.person_id) ? standing.get(message.person_id) : undefined
        return own && result ? [{ person: own.root, at: now(), channel: 'email', result, note: null, actor: run.begun_by }] : []
      }),
    )
  })
}

function becameOf({ person_id: person, tries }: Message, came: Sent, at: Date): { became: Became; result: string | null } {
  if (came.is === 'accepted') return { became: { person, state: 'accepted' }, result: 'sent' }
  if (came.is === 'unsure') throw new Error('what is unsure is settled first')
  if (came.is === 'refused')
    return { became: { person, state: 'refused', code: came.code }, result: isOfAddress(came.code) ? 'bounced' : null }
  const wait = RETRY[tries] as number | undefined
  if (wait === undefined) return { became: { person, state: 'given up', code: came.code }, result: 'soft bounced' }
  return { became: { person, state: 'waiting', code: came.code, notBefore: new Date(at.getTime() + wait * 60_000) }, result: null }
}

/** Asks the service for messages that were handed over and of which it is not known whether it has them; those it has not wait again. */
async function settle(service: MailService, id: number, whose: 'own' | 'others'): Promise<void> {
  const run = await mailRun(db(), id)
  const open = await handedOver(db(), id)
  if (!run || open.length === 0) return
  const last = Math.max(...open.map(({ at }) => at.getTime()))
  const wait = whose === 'own' ? settleAfter.own : Math.min(settleAfter.others, last + settleAfter.others - now().getTime())
  if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait))
  const had = await service.had(open.map(({ message_id }) => message_id))
  await record(
    run,
    open.filter(({ message_id }) => had.has(message_id)).map((message) => ({ message, came: { is: 'accepted' } })),
  )
  await updateMessages(
    db(),
    id,
    open.filter(({ message_id }) => !had.has(message_id)).map(({ person_id }) => ({ person: person_id, state: 'waiting' })),
    ['handed over'],
    now(),
  )
}

/** Nothing may leave now: ends the run, or comes back when the next message may. */
async function endOrWait(run: MailRun): Promise<false> {
  const next = await nextDue(db(), run.id)
  await db().transaction(async (trx) => {
    if (next) {
      await enqueue(trx, 'send-mail', { run: run.id }, Math.max(1000, next.getTime() - now().getTime()))
      return
    }
    if ((await moveMailRun(trx, run.id, ['running'], 'done', null, now())) === 0) return
    const counts = await messageCounts(trx, run.id)
    const of = (state: string) => counts.filter((own) => own.state === state).reduce((sum, own) => sum + own.count, 0)
    await tellWork(
      trx,
      run.begun_by,
      `The emails are sent: ${countText(of('accepted'))} accepted, ${countText(of('refused') + of('given up'))} not delivered, ${countText(of('left out'))} left out.`,
      `/rounds/${run.round_id}/letter`,
    )
  })
  return false
}

async function breakOff(id: number, why: string): Promise<void> {
  await db().transaction(async (trx) => {
    const run = await mailRun(trx, id, true)
    if (!run || (await moveMailRun(trx, id, ['running'], 'failed', why)) === 0) return
    await tellWork(trx, run.begun_by, `The emails broke off. ${why}`, `/rounds/${run.round_id}/letter`)
  })
}
