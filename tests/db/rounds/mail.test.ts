import { spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import PostalMime from 'postal-mime'
import { describe, expect, test } from 'vitest'
import { now } from '@/runtime/clock'
import { mailService } from '@/sources/mail-service'
import { CALM_MAIL } from '@/standins/mail'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { closeRound } from '@/usecases/rounds/close-round'
import { mailAccount } from '@/usecases/rounds/mail-account'
import { openRound } from '@/usecases/rounds/open-round'
import { todayPage } from '@/usecases/team/today'
import { pauseMail } from '@/usecases/rounds/pause-mail'
import { resumeMail } from '@/usecases/rounds/resume-mail'
import { setTurn } from '@/usecases/rounds/run-mail'
import { roundResults } from '@/usecases/rounds/round-results'
import { suppress } from '@/usecases/screening/suppress'
import { begunRound, givenMail, got, later, mail, mailBehaves, t } from './mail-rounds'

givenMail()

const account = async (round: number) => (await mailAccount(t.tam, round)) as Awaited<ReturnType<typeof mailAccount>> & { state: string }
const NONE = { accepted: 0, refused: 0, 'given up': 0, 'left out': 0, waiting: 0 }
const results = async (round: number) => (await roundResults(t.ines, round)).results.counts
const everybody = (n: number) => Array(n).fill(1)

describe('the emails of a round', () => {
  test('leave once each, are contacts of the round, and say how to stop them', async () => {
    const { round, to, ids, send } = await begunRound(45)
    expect((await account(round)).counts).toEqual({ ...NONE, waiting: 45 })
    await send()
    expect(got(to)).toEqual(everybody(45))
    expect(await account(round)).toMatchObject({ state: 'done', total: 45, counts: { ...NONE, accepted: 45 }, missed: [] })
    expect(await results(round)).toMatchObject({ reached: 45, 'not worked': 0 })
    // Read by another library than wrote it.
    const { raw } = mail.taken.find((own) => own.to === to[1]) as { raw: string }
    const email = await PostalMime.parse(raw)
    expect(email).toMatchObject({ from: { name: 'Fen Roofs', address: 'hello@fenroofs.example' }, to: [{ address: to[1] }] })
    expect(email.subject).toMatch(/^Your roof, Personab$/)
    const header = (key: string) => email.headers.find((own) => own.key === key)?.value
    // RFC 8058, section 3.1: both headers, the first with an HTTP address.
    expect(header('list-unsubscribe')).toMatch(/^<http:\/\/\S+\/stop\/\S+\/now>$/)
    expect(header('list-unsubscribe-post')).toBe('List-Unsubscribe=One-Click')
    expect(email.text).toMatch(
      /^Dear Personab,\n\nas \*\*Head\*\* of House \d+-1\.\n\n-- \nFen Roofs\n1 Mill Lane, Thornmouth\nTo stop these emails: http/,
    )
    expect(email.html).toContain('as <strong>Head</strong> of House')
    const { message_id } = await t.app('mail_message').where({ person_id: ids[1] }).first('message_id')
    expect(email.messageId).toBe(`<${message_id}@fenroofs.example>`)
    // Once more does nothing.
    await send()
    expect(got(to)).toEqual(everybody(45))
  })

  test('leave out whoever was suppressed, contacted, merged or erased since the release', async () => {
    const { round, to, ids, send } = await begunRound(7)
    await suppress(t.tam, { person: ids[0] }, { reason: 'opt-out', channels: ['email'], word: 'a call' })
    await suppress(t.tam, { text: to[1] }, { reason: 'other', channels: ['email'], word: 'a letter' })
    await recordContact(t.tam, ids[2], { channel: 'email', result: 'sent', note: null, date: null })
    await mergePeople(t.ines, ids[4], ids[3])
    await erasePerson(t.marek, ids[5])
    await send()
    // The two merged records are one person, who gets one.
    expect(got(to).slice(0, 3)).toEqual([0, 0, 0])
    expect(got(to)[3] + got(to)[4]).toBe(1)
    expect(got(to).slice(5)).toEqual([0, 1])
    const { counts, missed } = await account(round)
    expect(counts).toEqual({ ...NONE, accepted: 2, 'left out': 5 })
    expect(missed.map(({ why }) => why).sort()).toEqual([
      'must not be contacted by email any more',
      'must not be contacted by email any more',
      'the record was withdrawn or erased',
      'they got it as another record, merged with this one',
      'this contact was made or ended otherwise',
    ])
  })

  test('somebody who is suppressed while others leave gets none', async () => {
    const { round, to, ids, send } = await begunRound(60, 600)
    const sending = send()
    while (got(to).reduce((sum, own) => sum + own, 0) === 0) await new Promise((resolve) => setTimeout(resolve, 20))
    await suppress(t.tam, { person: ids[59] }, { reason: 'opt-out', channels: ['email'], word: 'a call' })
    await pauseMail(t.ines, round)
    await sending
    const before = got(to)
    expect(before.every((own) => own <= 1)).toBe(true)
    expect(await account(round)).toMatchObject({ state: 'paused', note: 'Paused by Ines Okafor.' })
    await expect(pauseMail(t.ines, round)).rejects.toThrow('nothing to pause')
    await resumeMail(t.ines, round)
    await expect(resumeMail(t.ines, round)).rejects.toThrow('not paused')
    await t.app('mail_run').where({ round_id: round }).update({ per_minute: 100_000 })
    await send()
    expect(got(to)).toEqual([...everybody(59), 0])
    expect((await account(round)).counts).toEqual({ ...NONE, accepted: 59, 'left out': 1 })
  })

  test('that are refused are bounces; that are not taken for now are tried again, and given up in the end', async () => {
    const { round, to, ids, send } = await begunRound(4)
    await mailBehaves({
      ...CALM_MAIL,
      reply: (address, seen) =>
        address === to[0]
          ? { code: 550, said: `5.1.1 no mailbox ${to[0]}` }
          : address === to[1]
            ? { code: 451, said: '4.7.1 later' }
            : address === to[2] && seen === 0
              ? { code: 452, said: '4.2.2 full' }
              : null,
    })
    await send()
    expect(await account(round)).toMatchObject({ state: 'running', counts: { ...NONE, accepted: 1, refused: 1, waiting: 2 } })
    // Nothing before its time.
    await send()
    expect((await account(round)).counts).toMatchObject({ accepted: 1, waiting: 2 })
    for (let i = 0; i < 3; i++) {
      later()
      await send()
    }
    expect(got(to)).toEqual([0, 0, 1, 1])
    const { state, counts, missed } = await account(round)
    expect([state, counts]).toEqual(['done', { ...NONE, accepted: 2, refused: 1, 'given up': 1 }])
    expect(missed.map(({ person, why }) => [person, why])).toEqual([
      [ids[0], 'no such mailbox (5.1.1)'],
      [ids[1], 'busy each time it was tried (4.7.1)'],
    ])
    const said = await t.app('entry').whereIn('person_id', ids).where({ kind: 'contact' }).orderBy('person_id').select('result')
    expect(said.map(({ result }) => result)).toEqual(['bounced', 'soft bounced', 'sent', 'sent'])
    await mailBehaves(CALM_MAIL)
  })

  test('that the service takes and then refuses are not sent, whatever it had of them', async () => {
    const { round, to, ids, send } = await begunRound(4)
    await mailBehaves({
      ...CALM_MAIL,
      // It has the whole email before it says so.
      after: (address, seen) =>
        address === to[0]
          ? { code: 552, said: '5.2.2 mailbox full' }
          : address === to[1] && seen === 0
            ? { code: 451, said: '4.3.0 not now' }
            : null,
    })
    await send()
    expect(got(to)).toEqual([0, 0, 1, 1])
    expect(await account(round)).toMatchObject({ state: 'running', counts: { ...NONE, accepted: 2, refused: 1, waiting: 1 } })
    later()
    await send()
    expect(got(to)).toEqual([0, 1, 1, 1])
    expect((await account(round)).counts).toEqual({ ...NONE, accepted: 3, refused: 1 })
    const said = await t.app('entry').whereIn('person_id', ids).where({ kind: 'contact' }).orderBy('person_id').select('result')
    expect(said.map(({ result }) => result)).toEqual(['bounced', 'sent', 'sent', 'sent'])
    await mailBehaves(CALM_MAIL)
  })

  test('an address to which nothing can be sent is refused at once, and not asked about again and again', async () => {
    const service = mailService()
    const from = { name: 'Fen', address: 'hello@fenroofs.example' }
    for (const address of ['', 'no address', 'a..b@round.example', 'two @round.example'])
      expect(
        await service.send({ id: randomUUID(), from, to: { name: 'No', address }, subject: 'A', text: 'B', html: 'B', stop: null }),
        address,
      ).toEqual({ is: 'refused', code: '5.1.3' })
    service.close()
  })

  test('a service that refuses us, and not an address, is not asked for everybody; nobody is taken for bounced', async () => {
    const { round, to, ids, send } = await begunRound(40)
    await mailBehaves({ ...CALM_MAIL, reply: () => ({ code: 554, said: '5.7.1 you may not' }) })
    await send()
    const { state, note, counts } = await account(round)
    expect(state).toBe('failed')
    expect(note).toMatch(/refuses what we send \(5\.7\.1\)/)
    expect(counts.waiting).toBe(20)
    expect(await t.app('entry').whereIn('person_id', ids).where({ kind: 'contact' }).count('id as n').first()).toMatchObject({ n: 0 })
    await mailBehaves(CALM_MAIL)
    await resumeMail(t.ines, round)
    await send()
    expect(got(to).filter((own) => own === 1)).toHaveLength(20)
  })

  test('a service that is away breaks them off, and says so; they go on when it is back', async () => {
    const { round, to, send } = await begunRound(25)
    await mail.close()
    await send()
    expect(await account(round)).toMatchObject({ state: 'failed', counts: { ...NONE, waiting: 25 } })
    expect((await account(round)).note).toMatch(/not responding/)
    const move = async () => (await todayPage(t.ines)).moves.find(({ key }) => key === `mail ${round}`)
    expect(await move()).toMatchObject({ n: 25, late: true, text: expect.stringMatching(/broke off$/) })
    await mailBehaves(CALM_MAIL)
    await resumeMail(t.ines, round)
    await send()
    expect(await move()).toBeUndefined()
    expect((await openRound(t.tam, round)).mailedAt).not.toBeNull()
    expect(got(to)).toEqual(everybody(25))
  })

  test('that take long give other work its turn, and go on after it', async () => {
    const { round, to, run, send } = await begunRound(50)
    await t.owner.raw('delete from graphile_worker._private_jobs')
    setTurn(0)
    await send()
    expect((await account(round)).counts).toEqual({ ...NONE, accepted: 20, waiting: 30 })
    const { rows } = await t.owner.raw('select key from graphile_worker.jobs')
    expect(rows).toEqual([{ key: `mail-${run}` }])
    setTurn(60_000)
    await send()
    expect(got(to)).toEqual(everybody(50))
  })

  test('of a round that is closed meanwhile do not leave', async () => {
    const { round, to, send } = await begunRound(3)
    await closeRound(t.ines, round)
    await send()
    expect(got(to)).toEqual([0, 0, 0])
    expect((await account(round)).counts).toEqual({ ...NONE, 'left out': 3 })
    expect(await results(round)).toMatchObject({ 'not worked': 3 })
  })
})

describe('nobody gets it twice, and nobody goes without', () => {
  test('where a connection breaks after the service took an email', async () => {
    const { round, to, send } = await begunRound(50)
    await mailBehaves({ ...CALM_MAIL, cutsAfter: 3 })
    await send()
    expect(got(to)).toEqual(everybody(50))
    expect(await account(round)).toMatchObject({ state: 'done', counts: { ...NONE, accepted: 50 } })
    expect(await results(round)).toMatchObject({ reached: 50 })
    await mailBehaves(CALM_MAIL)
  })

  test('where the process is killed at any message', async () => {
    const { round, to, run } = await begunRound(36)
    await mailBehaves({ ...CALM_MAIL, latency: [10, 40] })
    const clock = join(tmpdir(), `mail-clock-${process.pid}`)
    writeFileSync(clock, now().toISOString())
    let killed = 0
    for (let i = 0; i < 40; i++) {
      const child = spawn(process.execPath, ['--import', 'tsx', 'tests/support/run-mail-once.ts', String(run)], {
        env: { ...process.env, ARCH_CLOCK_FILE: clock },
        stdio: 'ignore',
      })
      const ended = new Promise<number | null>((resolve) => child.once('exit', resolve))
      // Killed some messages later than it began, wherever it stands then.
      const before = mail.taken.length
      while (child.exitCode === null && child.signalCode === null && mail.taken.length < before + 6 + (i % 4))
        await new Promise((resolve) => setTimeout(resolve, 5))
      child.kill('SIGKILL')
      if ((await ended) !== null) break
      killed++
    }
    expect(killed).toBeGreaterThan(0)
    expect(got(to)).toEqual(everybody(36))
    expect(await account(round)).toMatchObject({ state: 'done', counts: { ...NONE, accepted: 36 } })
    expect(await results(round)).toMatchObject({ reached: 36, 'not worked': 0 })
    await mailBehaves(CALM_MAIL)
  }, 120_000)

  test('where two processes send the same run', async () => {
    const { round, to, run, send } = await begunRound(40)
    await mailBehaves({ ...CALM_MAIL, latency: [1, 8] })
    await Promise.all([send(), send()])
    expect(got(to).every((own) => own <= 1)).toBe(true)
    await send()
    expect(got(to)).toEqual(everybody(40))
    expect((await account(round)).counts).toEqual({ ...NONE, accepted: 40 })
    expect((await t.app('entry').where({ kind: 'contact', round_id: round }).count('id as n').first())?.n).toBe(40)
    expect(run).toBeGreaterThan(0)
    await mailBehaves(CALM_MAIL)
  })
})
