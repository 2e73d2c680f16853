import { describe, expect, test } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { createList } from '@/usecases/lists/create-list'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { broughtIn } from '../../support/database'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startRound } from '@/usecases/rounds/start-round'
import { openRound } from '@/usecases/rounds/open-round'
import { liftGone } from '@/usecases/screening/lift-gone'
import { takeBackLifting } from '@/usecases/screening/take-back-lifting'
import { suppress } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { givenStopped, t, HEADER, idOf, reach, word } from './stopped'

givenStopped()

describe('a register, version by version', () => {
  const NAME = 'Marle register'
  const version = (date: string, numbers: string[], name = NAME) =>
    broughtIn(t.ines, `register-${date}.csv`, `Phone\n${numbers.join('\n')}\n`, { kind: 'suppressions', register: { name, version: date } })
  const register = async (name = NAME) => (await suppressionIndex(t.ines)).registers.find((r) => r.name === name)
  const lift = (expected: number, why = 'their office confirmed it') => liftGone(t.ines, { register: NAME, expected, why })
  const standing = async (id: number) =>
    Number(
      (
        await t
          .app('suppression_standing as s')
          .join('suppression_touch as t', 't.suppression_id', 's.id')
          .where({ 't.person_id': id, 's.reason': 'register' })
          .countDistinct('s.id as n')
          .first()
      )?.n,
    )

  test('tells what is new and gone since the version before; what is gone is lifted when somebody says so, and put back', async () => {
    await broughtIn(t.ines, 'called.csv', 'Id,Name,Phone\nREG1,Gone Fromit,0113 496 0771\nREG2,Still Onit,0113 496 0772\n', {
      kind: 'people',
    })
    await version('2026-03-01', ['0113 496 0771', '0113 496 0772', '0113 496 0773'])
    expect(await register()).toMatchObject({ version: '2026-03-01', since: null, stillHeld: 0, standing: 3 })
    await version('2026-04-01', ['0113 496 0772', '0113 496 0773', '0113 496 0774', '0113 496 0775'])
    expect(await register()).toMatchObject({ version: '2026-04-01', since: { fresh: 2, gone: 1 }, stillHeld: 1, standing: 5 })
    // Until then it stands.
    const { id } = await t.app('person').where({ outside_id: 'REG1' }).first('id')
    expect(await standing(id)).toBe(1)
    await expect(liftGone(t.tam, { register: NAME, expected: 1, why: 'x' })).rejects.toThrow(/coordinators and managers/)
    // One of five is more than 5 %, and the file may be cut short.
    await expect(lift(1, ' ')).rejects.toThrow(/These are 1 of the 5 .* more than 5 %/)
    await expect(lift(2)).rejects.toThrow(/1 are not on the register any more, and you were shown 2/)
    expect(await standing(id)).toBe(1)
    expect(await lift(1)).toBe(1)
    expect(await standing(id)).toBe(0)
    expect((await openPerson(t.ines, id)).ledger[0]).toMatchObject({
      title: 'Suppression lifted',
      detail: 'not on Marle register of 2026-04-01 any more: their office confirmed it',
    })
    await expect(lift(0)).rejects.toThrow(/Nothing is left to lift/)
    // Taken back as one, once, by an entry, and lifted anew.
    const [{ id: lifting }] = (await suppressionIndex(t.ines)).liftings
    await expect(takeBackLifting(t.tam, lifting)).rejects.toThrow(/coordinators and managers/)
    expect(await takeBackLifting(t.ines, lifting)).toBe(1)
    await expect(takeBackLifting(t.ines, lifting)).rejects.toThrow(/taken back already/)
    expect(await standing(id)).toBe(1)
    expect((await openPerson(t.ines, id)).ledger[0].detail).toMatch(/the lift was taken back/)
    expect((await openPerson(t.ines, id)).view.reach.phone).toBe('closed')
    expect(await lift(1)).toBe(1)
    // It comes back when it is on a later version again; an older version that comes in late changes nothing of that.
    await version('2026-05-01', ['0113 496 0771'])
    expect(await standing(id)).toBe(1)
    await version('2026-02-01', ['0113 496 0779'])
    expect(await register()).toMatchObject({ version: '2026-05-01', since: { fresh: 1, gone: 4 } })
  })

  test('a version from a day to come, or of no real day, is refused, and so is a register without a name', async () => {
    await expect(version('2026-06-16', ['0113 496 0771'])).rejects.toThrow(
      /dated 16 Jun 2026, which has not come yet. Nothing was brought in/,
    )
    await expect(version('2026-02-30', ['0113 496 0771'])).rejects.toThrow(/there is no such day/)
    await expect(version('2026-06-01', ['0113 496 0771'], '  ')).rejects.toThrow(/Give the register a name/)
    await version('2026-06-15', ['0113 496 0771'])
    expect(await register()).toMatchObject({ version: '2026-06-15' })
  })

  test('a version replaces only the register of its name, which is one however it is typed; the one that runs out first counts', async () => {
    const before = (await register()) as NonNullable<Awaited<ReturnType<typeof register>>>
    await version('2026-06-14', ['0113 496 0880'], 'Pellow list')
    expect(await register()).toMatchObject({ stillHeld: before.stillHeld, version: before.version })
    await version('2026-06-13', ['0113 496 0881'], ' pellow  LIST')
    expect((await suppressionIndex(t.ines)).registers.map((r) => [r.name, r.version])).toEqual([
      ['Pellow list', '2026-06-14'],
      [NAME, '2026-06-15'],
    ])
    const round = await startRound(
      t.ines,
      await createList(t.ines, 'Registers', true, [{ id: 's', verb: 'start', off: false, batch: null }]),
    )
    expect((await openRound(t.ines, round)).rules.map((r) => r.rule)).toContainEqual({
      id: 'register',
      kind: 'register',
      version: '2026-06-14',
      goodFor: 31,
    })
  })
})

describe('how a suppression stands', () => {
  test('one that has ended, or is still to come, holds nobody back and is counted apart', async () => {
    await broughtIn(t.ines, 'stands.csv', `${HEADER}E1,Enid Ended,,enid@stand.example,,,,,\nE2,Tess Tocome,,tess@stand.example,,,,,\n`)
    const counts = async () =>
      (await suppressionIndex(t.ines)).counts.find((c) => c.reason === 'complaint') ?? { standing: 0, ended: 0, toCome: 0 }
    const before = await counts()
    await suppress(t.tam, { text: 'enid@stand.example' }, { ...word, reason: 'complaint', since: '2026-01-01', until: '2026-06-15' })
    await suppress(t.tam, { text: 'tess@stand.example' }, { ...word, reason: 'complaint', since: '2026-07-01' })
    expect(await counts()).toMatchObject({ standing: before.standing, ended: before.ended + 1, toCome: before.toCome + 1 })
    expect((await suppressionIndex(t.ines, '', 'complaint')).rows.slice(0, 2).map((r) => r.stand)).toEqual(['to come', 'ended'])
    for (const [outside, stand] of [
      ['E1', 'ended'],
      ['E2', 'to come'],
    ] as const) {
      const page = await openPerson(t.ines, await idOf(outside))
      expect([page.view.reach.email, page.addresses[0].suppressed, page.suppressions[0].stand]).toEqual(['open', null, stand])
    }
    // A row that suppresses from today is not the same as one that begins in July.
    expect(
      (
        await batchAccount(
          t.ines,
          await broughtIn(t.ines, 'now.csv', 'Email,Reason\ntess@stand.example,complaint\n', { kind: 'suppressions' }),
        )
      ).counts,
    ).toMatchObject({ new: 1, same: 0 })
    expect(await reach('E2')).toMatchObject({ email: 'closed' })
    await expect(suppress(t.tam, { text: 'enid@stand.example' }, { ...word, since: '2026-02-31' })).rejects.toThrow(/Since: give a day/)
  })
})

describe('spellings', () => {
  test('a domain in letters of any script and its ASCII form are one, for addresses and for domains, whichever came first', async () => {
    await broughtIn(
      t.ines,
      'scripts.csv',
      `${HEADER}X1,Xaver Ash,,xaver@münchen.example,,,,,\nX2,Xenia Bay,,XENIA@XN--MNCHEN-3YA.EXAMPLE,,,,,\n`,
    )
    const id = await suppress(t.tam, { text: '@xn--mnchen-3ya.example' }, word)
    for (const who of ['X1', 'X2']) expect((await reach(who)).email).toBe('closed')
    await liftSuppression(t.ines, id, 'a test')
    const one = await suppress(t.tam, { text: 'xenia@MÜNCHEN.example' }, word)
    expect([(await reach('X1')).email, (await reach('X2')).email]).toEqual(['open', 'closed'])
    await liftSuppression(t.ines, one, 'a test')
    await suppress(t.tam, { text: '@Mu\u0308nchen.Example' }, word)
    await broughtIn(t.ines, 'scripts-later.csv', `${HEADER}X3,Xo Cole,,'xo@\u200Bxn--mnchen-3ya.example,,,,,\n`)
    for (const who of ['X1', 'X2', 'X3']) expect((await reach(who)).email).toBe('closed')
    expect((await suppressionIndex(t.ines, 'anybody@münchen.example')).rows[0]).toMatchObject({ catches: 3 })
  })
})

test('a register file with half its rows broken closes what it can, says which it cannot read, and lifts nothing without a word', async () => {
  const numbers = Array.from({ length: 60 }, (_, i) => `0155 0123 ${200 + i}`)
  const name = 'Broken register'
  const bring = (date: string, rows: string[]) =>
    broughtIn(t.ines, `broken-${date}.csv`, `Phone\n${rows.join('\n')}\n`, { kind: 'suppressions', register: { name, version: date } })
  await bring('2026-04-01', numbers)
  const batch = await bring(
    '2026-05-01',
    // One number is gone, and every other row of those that are there cannot be read.
    numbers.slice(1).map((number, i) => (i % 2 === 0 ? number : `see list ${i}`)),
  )
  const { counts } = await batchAccount(t.ines, batch)
  expect(counts).toMatchObject({ refused: 29 })
  expect((counts.new ?? 0) + (counts.same ?? 0)).toBe(30)
  const register = (await suppressionIndex(t.ines)).registers.find((own) => own.name === name)
  // All that stood goes on standing: a number that could not be read is not gone.
  expect(register).toMatchObject({ version: '2026-05-01', standing: 60, stillHeld: 30 })
  await expect(liftGone(t.ines, { register: name, expected: 30, why: '' })).rejects.toThrow(/more than 5 %/)
  const { setNumber } = await import('@/usecases/team/number-settings')
  await setNumber(t.marek, 'lift-share', 100)
  await expect(liftGone(t.ines, { register: name, expected: 30, why: '' })).rejects.toThrow(
    /29 rows of the file could not be read.*Nothing was lifted/,
  )
  await t.owner('batch').where({ id: batch }).update({ state: 'running' })
  await expect(liftGone(t.ines, { register: name, expected: 30, why: 'checked' })).rejects.toThrow(/not all imported yet/)
  await t.owner('batch').where({ id: batch }).update({ state: 'done' })
  expect(await liftGone(t.ines, { register: name, expected: 30, why: 'their office confirmed it' })).toBe(30)
})
