import { afterAll, beforeAll, beforeEach } from 'vitest'
import type { Line } from '@/core/lists/line'
import type { Letter } from '@/core/views/letter-views'
import { pinClock } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { setWaits } from '@/sources/http-source'
import { CALM, serve } from '@/standins/harness'
import { CALM_MAIL, type MailManners, startMail } from '@/standins/mail'
import { createList } from '@/usecases/lists/create-list'
import { beginMail } from '@/usecases/rounds/begin-mail'
import { letterPage } from '@/usecases/rounds/letter-page'
import { releaseRound } from '@/usecases/rounds/release-round'
import { runMail, setSettleAfter } from '@/usecases/rounds/run-mail'
import { startRound } from '@/usecases/rounds/start-round'
import { writeLetter } from '@/usecases/rounds/write-letter'
import { broughtIn, freePort, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

/** Rounds whose emails leave through the stand-in for a mail service, whose own log is the judge. */

export let t: TestDatabase
/** The mail service as the tests have it. */
export let mail: Awaited<ReturnType<typeof startMail>>
let lookup: Awaited<ReturnType<typeof serve>>
let k = 0
let hour = 0

export const LETTER: Letter = {
  subject: 'Your roof, {given name}',
  body: 'Dear {given name|neighbour},\n\nas **{role|a neighbour}** of {organisation}.',
  senderName: 'Fen Roofs',
  senderEmail: 'hello@fenroofs.example',
  address: '1 Mill Lane, Thornmouth',
}

/** An hour later than whatever was before. */
export const later = () => pinClock(new Date(Date.UTC(2026, 5, 16, ++hour)))

export function givenMail(): void {
  beforeAll(async () => {
    process.env.SOURCES_PORT = String(await freePort())
    process.env.MAIL_PORT = String(await freePort())
    t = await freshDatabase()
    setWaits([1, 2, 4])
    setSettleAfter(20)
    await startEngine(t)
    await mailBehaves(CALM_MAIL)
  })
  beforeEach(later)
  afterAll(async () => {
    await mail?.close()
    lookup?.server.close()
  })
}

/** A mail service of other manners takes the place of the one before, and has forgotten nothing. */
export async function mailBehaves(manners: MailManners): Promise<void> {
  const before = mail?.taken ?? []
  await mail?.close()
  lookup?.server.closeAllConnections()
  await new Promise((resolve) => (lookup ? lookup.server.close(resolve) : resolve(null)))
  mail = await startMail(settings().MAIL_PORT, manners)
  mail.taken.push(...before)
  lookup = await serve(mail.routes, settings().SOURCES_PORT, CALM)
}

/** A round of people of their own, each with an email, and its letter written. */
export async function roundOf(
  many: number,
  letter: Letter = LETTER,
): Promise<{ round: number; list: number; ids: number[]; to: string[] }> {
  const own = ++k
  const to = Array.from({ length: many }, (_, i) => `p${i}@round${own}.example`)
  const batch = await broughtIn(
    t.ines,
    `people-${own}.csv`,
    `Id,Name,Role,Organisation,Email,Status\n${to.map((email, i) => `M${own}-${i},Person${letters(i)} Round${letters(own)},${i % 2 ? 'Head' : ''},House ${own}-${i},${email},prospect`).join('\n')}\n`,
  )
  const ids = (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map((p) => p.id)
  const start: Line = { id: 's', verb: 'start', off: false, batch: { id: batch, name: 'people' } }
  const list = await createList(t.ines, `Letters ${own}`, true, [start])
  const round = await startRound(t.ines, list)
  await writeLetter(t.ines, round, letter, '')
  return { round, list, ids, to }
}

const letters = (n: number): string => String.fromCharCode(97 + Math.floor(n / 26), 97 + (n % 26))

/** The same, released, and its emails begun but not yet sent. Gives the number of the run, too. */
export async function begunRound(many: number, perMinute = 100_000, letter: Letter = LETTER) {
  const made = await roundOf(many, letter)
  await releaseRound(t.ines, made.round)
  later()
  await beginMail(t.ines, made.round, { seen: (await letterPage(t.ines, made.round)).saved?.at, perMinute })
  const run = (await t.app('mail_run').where({ round_id: made.round }).first('id')).id as number
  return { ...made, run, send: () => runMail(run) }
}

/** How often the service has an email for each of some addresses, by its own log. */
export const got = (to: readonly string[]): number[] => to.map((own) => mail.taken.filter((taken) => taken.to === own).length)
/** The link to stop in the last email to somebody. */
export const linkTo = (to: string): string =>
  /\/stop\/([\w.-]+)/.exec(mail.taken.findLast((taken) => taken.to === to)?.raw.replace(/=\r\n/g, '') ?? '')?.[1] ?? ''
