import { afterAll, beforeAll, expect, test } from 'vitest'
import PostalMime from 'postal-mime'
import { pinClock } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { CALM_MAIL, startMail } from '@/standins/mail'
import { removeColleague } from '@/usecases/team/remove-colleague'
import { sendDigests } from '@/usecases/team/send-digests'
import { makeTask } from '@/usecases/team/tasks'
import { todayPage } from '@/usecases/team/today'
import { wantDigest } from '@/usecases/team/want-digest'
import { freePort, freshDatabase, type TestDatabase } from '../../support/database'

let t: TestDatabase
let mail: Awaited<ReturnType<typeof startMail>>
beforeAll(async () => {
  process.env.MAIL_PORT = String(await freePort())
  t = await freshDatabase()
  mail = await startMail(settings().MAIL_PORT, CALM_MAIL)
})
afterAll(() => mail.close())

const at = (instant: string) => pinClock(new Date(instant))
const to = () => mail.taken.map((own) => own.to)

test('whoever wants it gets what is their move, once a day from seven in the morning on', async () => {
  at('2026-06-15T05:30:00Z')
  for (const who of [t.ines, t.tam, t.marek]) await makeTask(who, { what: `Call <${who.name}>`, forId: who.id, due: '2026-06-15' })
  await wantDigest(t.ines, true)
  await wantDigest(t.ines, true)
  await wantDigest(t.tam, true)
  expect((await todayPage(t.ines)).digest).toBe(true)
  expect((await todayPage(t.marek)).digest).toBe(false)
  // Half past six in London.
  expect(await sendDigests()).toBe(0)
  at('2026-06-15T06:00:00Z')
  // Two that look at once send one each.
  const both = await Promise.all([sendDigests(), sendDigests()])
  expect(both[0] + both[1]).toBe(2)
  expect(to().sort()).toEqual(['ines@brackenfold.example', 'tam@brackenfold.example'])
  expect(await sendDigests()).toBe(0)
  const email = await PostalMime.parse(mail.taken.find((own) => own.to.startsWith('ines'))?.raw ?? '')
  expect(email.subject).toMatch(/^Monday 15 June.*: 1 thing waits for you$/)
  expect(email.text).toContain('Task: Call <Ines Okafor>')
  expect(email.html).toContain('Task: Call &lt;Ines Okafor&gt;')
  at('2026-06-16T06:00:00Z')
  await wantDigest(t.tam, false)
  expect(await sendDigests()).toBe(1)
  expect(to()).toHaveLength(3)
})

test('a service that is away, or busy, is tried again the same day; whoever has left gets none', async () => {
  at('2026-06-17T06:00:00Z')
  await mail.close()
  expect(await sendDigests()).toBe(0)
  mail = await startMail(settings().MAIL_PORT, { ...CALM_MAIL, reply: () => ({ code: 451, said: '4.7.1 busy' }) })
  expect(await sendDigests()).toBe(0)
  await mail.close()
  mail = await startMail(settings().MAIL_PORT, CALM_MAIL)
  expect(await sendDigests()).toBe(1)
  expect(await sendDigests()).toBe(0)
  at('2026-06-18T06:00:00Z')
  await removeColleague(t.marek, t.ines.id)
  expect(await sendDigests()).toBe(0)
  // Nothing to do is no email.
  await wantDigest(t.marek, true)
  await t.owner('task').where({ for_id: t.marek.id }).update({ done_at: new Date(), done_by: t.marek.id })
  const { moves } = await todayPage(t.marek)
  expect(await sendDigests()).toBe(moves.length > 0 ? 1 : 0)
})
