import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { openPerson } from '@/usecases/directory/open-person'
import { letThrough } from '@/usecases/screening/let-through'
import { createList } from '@/usecases/lists/create-list'
import { mergePeople } from '@/usecases/directory/merge-people'
import { recordContact } from '@/usecases/contact/record-contact'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { onlyLooking, passGate, shutGate } from '@/db/locks'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { openRound } from '@/usecases/rounds/open-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { takeBackLetThrough } from '@/usecases/screening/take-back-let-through'
import { liftGone } from '@/usecases/screening/lift-gone'
import { takeBackLifting } from '@/usecases/screening/take-back-lifting'
import { suppress } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppressionsCsv } from '@/usecases/screening/suppressions-csv'

let t: TestDatabase
const HEADER = 'Id,Name,Organisation,Email,Phone,Address,Town,Postcode,Status\n'
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `${HEADER}S1,Ann Able,North School,ann@north.example,0113 496 0001,1 Mill Lane,Thornmouth,PW1 2AB,\nS2,Bob Bell,North School,bob@north.example,0113 496 0002,1 Mill Ln,Thornmouth,PW1 2AB,\nS3,Cas Cole,Sedge Homes,cas@mail.north.example,0113 496 0003,2 Quay Street,Low Wendle,PW2 1ZZ,customer\nS4,Dot Dean,Sedge Homes,dot@example.org,0113 496 0004,3 Quay Street,Low Wendle,PW2 1ZZ,\n`,
  )
  await startEngine(t)
})

const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const reach = async (outside: string) => (await openPerson(t.ines, await idOf(outside))).view.reach
const word = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }
const open = { email: 'open', phone: 'open', post: 'open' }

describe('suppressions in every scope', () => {
  test('of an email domain: exactly that one, now and later', async () => {
    const id = await suppress(t.tam, { text: '@North.Example' }, word)
    expect(await reach('S1')).toEqual({ ...open, email: 'closed' })
    expect(await reach('S3')).toEqual(open)
    await broughtIn(t.ines, 'later.csv', `${HEADER}S5,Eve East,,eve@north.example,,,,,\n`)
    expect((await reach('S5')).email).toBe('closed')
    expect((await suppressionIndex(t.ines, 'ann@north.example')).rows.map((r) => [r.id, r.scope, r.catches])).toEqual([[id, 'domain', 3]])
    await liftSuppression(t.ines, id, 'their office rang')
    expect(await reach('S1')).toEqual(open)
  })
  test('of a postal address, however it is written', async () => {
    const id = await suppress(t.tam, { postal: { street: '1 MILL LN', town: '', postcode: 'pw12ab' } }, word)
    for (const who of ['S1', 'S2']) expect(await reach(who)).toEqual({ ...open, post: 'closed' })
    expect(await reach('S3')).toEqual(open)
    await liftSuppression(t.ines, id, 'sold')
    await expect(suppress(t.tam, { postal: { street: '1 Mill Lane', town: '', postcode: '' } }, word)).rejects.toThrow(
      /needs its street, and its town or postcode/,
    )
  })
  test('of a postal address with a unit, a direction or a post box, in whatever order, whichever came first', async () => {
    await broughtIn(
      t.ines,
      'units.csv',
      `${HEADER}U1,Ula Able,,,,"Flat 2, 4 N Weir Street",Thornmouth,PW1 9ZZ,\nU2,Uri Bell,,,,4 N Weir Street,Thornmouth,PW1 9ZZ,\nU3,Una Cole,,,,P.O. Box 12,Thornmouth,PW1 9ZZ,\n`,
    )
    const flat = await suppress(t.tam, { postal: { street: '4 North Weir St, Apt 2', town: 'Thornmouth', postcode: 'PW1 9ZZ' } }, word)
    const box = await suppress(t.tam, { postal: { street: 'Post Office Box 12', town: '', postcode: 'pw19zz' } }, word)
    expect([(await reach('U1')).post, (await reach('U2')).post, (await reach('U3')).post]).toEqual(['closed', 'open', 'closed'])
    // Somebody who comes in later, written the third way.
    await broughtIn(t.ines, 'later-unit.csv', `${HEADER}U4,Udo Dean,,,,"Apartment 2, 4 North Weir Street",Thornmouth,PW1 9ZZ,\n`)
    expect((await reach('U4')).post).toBe('closed')
    const page = await openPerson(t.ines, await idOf('U1'))
    expect(page.suppressions.map((s) => s.id)).toEqual([flat])
    expect((await suppressionIndex(t.ines, '')).rows.find((r) => r.id === flat)?.catches).toBe(2)
    for (const id of [flat, box]) await liftSuppression(t.ines, id, 'sold')
    expect((await reach('U4')).post).toBe('open')
  })
  test('of an organisation: everybody there, those who come later too, by every channel or some', async () => {
    const o = await t.app('organisation').where({ name: 'Sedge Homes' }).first('id')
    const id = await suppress(t.tam, { organisation: o.id }, { ...word, channels: ['phone'] })
    for (const who of ['S3', 'S4']) expect(await reach(who)).toEqual({ ...open, phone: 'closed' })
    await broughtIn(t.ines, 'newer.csv', `${HEADER}S6,Fay Fell,SEDGE HOMES LTD,,0113 496 0009,,,,\n`)
    expect((await reach('S6')).phone).toBe('closed')
    await liftSuppression(t.ines, id, 'they changed their mind')
  })
  test('a file of them comes in and goes out again, and the same file twice is the same', async () => {
    const file =
      'Domain,Organisation,Street,Town,Reason,Requested by\nnorth.example,,,,opt-out,their office\n,Sedge Homes,,,complaint,a letter\n,,3 Quay St,Low Wendle,,the owner\nno domain,,,,,\n'
    const counts = async () => (await batchAccount(t.ines, await broughtIn(t.ines, 'stop.csv', file, { kind: 'suppressions' }))).counts
    expect(await counts()).toMatchObject({ new: 3, refused: 1 })
    expect(await counts()).toMatchObject({ new: 0, same: 3, refused: 1 })
    expect(await reach('S4')).toEqual({ email: 'closed', phone: 'closed', post: 'closed' })
    const { bytes } = await suppressionsCsv(t.ines, '', null)
    const out = bytes.toString()
    expect(out).toContain('email domain,north.example,,north.example,,email,opt-out')
    const again = await batchAccount(t.ines, await broughtIn(t.ines, 'out.csv', bytes, { kind: 'suppressions' }))
    expect(again.counts.same).toBeGreaterThanOrEqual(2)
    for (const { id, stand } of (await suppressionIndex(t.ines)).rows)
      if (stand !== 'lifted') await liftSuppression(t.ines, id, 'end of the test')
    expect(await reach('S4')).toEqual(open)
  })
  test('of a record that was merged, it holds the one that stays, and a release sees it', async () => {
    await broughtIn(t.ines, 'twins.csv', `${HEADER}M1,Gus Gale,,gus@example.org,,,,,\nM2,August Gale,,august@example.org,,,,,\n`)
    await suppress(t.tam, { person: await idOf('M2') }, word)
    await mergePeople(t.ines, await idOf('M1'), await idOf('M2'))
    expect((await reach('M1')).email).toBe('closed')
  })
})

const start: Line = { id: 's', verb: 'start', off: false, batch: null }

describe('let through', () => {
  let round: number
  test('a customer may be, by one channel, with a reason, by a coordinator; the file then has them', async () => {
    round = await startRound(t.ines, await createList(t.ines, 'Everybody', true, [start]))
    const cas = await idOf('S3')
    await expect(letThrough(t.tam, round, cas, 'email', 'please')).rejects.toThrow(/coordinators and managers/)
    await expect(letThrough(t.ines, round, cas, 'email', '  ')).rejects.toThrow(/Write the reason/)
    await letThrough(t.ines, round, cas, 'email', 'asked for the survey')
    const { page } = await screenRound(t.ines, round, { tab: 'through' })
    expect(page.people.map((p) => [p.id, p.reach.email, p.through])).toEqual([
      [cas, 'open', { let: [{ channel: 'email', reason: 'asked for the survey', by: 'Ines Okafor' }], may: ['phone', 'post'] }],
    ])
    await letThrough(t.ines, round, cas, 'post', 'asked for the survey')
    await takeBackLetThrough(t.ines, round, cas, 'post')
    await expect(letThrough(t.ines, round, await idOf('S1'), 'email', 'x')).rejects.toThrow(/Nothing holds them back/)
  })
  test('an opt-out, a complaint or a register never: refused by the use case and by the database itself', async () => {
    const ann = await idOf('S1')
    const stops = [
      await suppress(t.tam, { text: 'ann@north.example' }, word),
      await suppress(t.tam, { person: await idOf('S2') }, { ...word, reason: 'complaint' }),
    ]
    await expect(letThrough(t.ines, round, ann, 'email', 'please')).rejects.toThrow(/nobody can let this through/)
    const row = (person_id: number, channel: string) => ({
      round_id: round,
      person_id,
      channel,
      reason: 'past the application',
      actor_id: t.ines.id,
      at: new Date('2026-06-15T10:00:00Z'),
    })
    await expect(t.app('let_through').insert(row(ann, 'email'))).rejects.toThrow(/cannot be let through/)
    await expect(t.app('let_through').insert(row(await idOf('S2'), 'phone'))).rejects.toThrow(/cannot be let through/)
    const other = await suppress(t.tam, { person: await idOf('S4') }, { ...word, reason: 'other' })
    await letThrough(t.ines, round, await idOf('S4'), 'phone', 'they rang us')
    for (const id of [...stops, other]) await liftSuppression(t.ines, id, 'end of the test')
  })
  test('one who opts out after being let through is not in the file, and nothing can be let through once it is released', async () => {
    const cas = await idOf('S3')
    await suppress(t.tam, { text: 'cas@mail.north.example' }, word)
    await releaseRound(t.ines, round)
    expect((await roundFile(t.ines, round, 'email')).bytes.toString()).not.toContain('cas@mail.north.example')
    expect((await openRound(t.ines, round)).letThrough).toBe(2)
    await expect(letThrough(t.ines, round, cas, 'phone', 'late')).rejects.toThrow(/released/)
    await expect(
      t
        .app('let_through')
        .insert({ round_id: round, person_id: cas, channel: 'phone', reason: 'late', actor_id: t.ines.id, at: new Date() }),
    ).rejects.toThrow(/released and frozen/)
  })
})

test('an address that bounced is closed until something gets through; a meeting counts where a rule says so', async () => {
  const dot = await idOf('S4')
  await recordContact(t.tam, dot, { channel: 'email', result: 'bounced', date: '2026-06-01' })
  expect((await reach('S4')).email).toBe('closed')
  await recordContact(t.tam, dot, { channel: 'email', result: 'replied', date: '2026-06-03' })
  expect((await reach('S4')).email).toBe('open')
  const round = await startRound(t.ines, await createList(t.ines, 'Met', true, [start]))
  const rules = (await openRound(t.ines, round)).rules.map((r) => r.rule)
  await setRules(
    t.ines,
    round,
    rules.map((r) => (r.kind === 'contacted-within' ? { ...r, days: 1 } : r.kind === 'another-round' ? { ...r, off: true } : r)),
  )
  await recordContact(t.tam, dot, { channel: 'met', result: 'spoke' })
  const held = async () => (await screenRound(t.ines, round, { tab: 'held' })).page.people.find((p) => p.id === dot)?.because?.detail
  expect(await held()).toBeUndefined()
  await setRules(
    t.ines,
    round,
    rules.map((r) =>
      r.kind === 'contacted-within' ? { ...r, days: 1, ways: ['met' as const] } : r.kind === 'another-round' ? { ...r, off: true } : r,
    ),
  )
  expect(await held()).toContain('Met on 15 Jun 2026 by Tam Reyes')
})

test('a trial of rows keeps no release waiting, and nothing it wrote can be kept', async () => {
  const looking = await t.app.transaction()
  await onlyLooking(looking)
  await passGate(looking)
  await looking('suppression').insert({
    reason: 'opt-out',
    channels: ['email'],
    scope: 'person',
    person_id: (await t.app('person').first('id')).id,
    since: new Date(),
    recorded_at: new Date(),
    hint: '',
    word: 'tried',
    actor_id: t.ines.id,
  })
  const releasing = await t.app.transaction()
  await releasing.raw(`set local lock_timeout = '1s'`)
  await shutGate(releasing)
  await releasing.rollback()
  await expect(looking.raw('set constraints all immediate')).rejects.toThrow(/a trial is not kept/)
  await looking.commit().catch(() => {})
  expect(await t.app('suppression').where({ word: 'tried' })).toEqual([])
})

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

describe('asked us to stop, whichever way it comes', () => {
  test('in a file of contacts, in other words', async () => {
    await broughtIn(
      t.ines,
      'to-stop.csv',
      `${HEADER}Z1,Zed Able,,zed@stop.example,0113 496 0991,1 Quay Street,Low Wendle,PW2 1ZZ,\nZ2,Zoe Bell,,zoe@stop.example,,,,,\n`,
    )
    await broughtIn(
      t.ines,
      'results.csv',
      'Email,Date,Channel,Result\nzed@stop.example,2026-06-14,phone,Asked us to STOP\nzoe@stop.example,2026-06-14,met,Unsubscribed\n',
      { kind: 'contacts' },
    )
    expect(await reach('Z1')).toEqual({ ...open, phone: 'closed' })
    expect((await reach('Z2')).email).toBe('closed')
    expect((await openPerson(t.ines, await idOf('Z2'))).suppressions[0]).toMatchObject({
      reason: 'opt-out',
      channels: ['email', 'phone', 'post', 'direct'],
    })
  })
  test('by hand, in other words', async () => {
    const id = await idOf('Z1')
    await recordContact(t.tam, id, { channel: 'email', result: 'Opted out' })
    expect(await reach('Z1')).toMatchObject({ email: 'closed' })
    expect((await openPerson(t.ines, id)).ledger.map((e) => e.title).join()).toContain('asked us to stop')
  })
})

test('a let-through that is dated back is refused by the database itself', async () => {
  const round = await startRound(t.ines, await createList(t.ines, 'Dated back', true, [start]))
  const zed = await idOf('Z1')
  const row = (at: string) => ({
    round_id: round,
    person_id: zed,
    channel: 'phone',
    reason: 'dated back',
    actor_id: t.ines.id,
    at: new Date(at),
  })
  // Before they asked us to stop, nothing held them back for good.
  await expect(t.app('let_through').insert(row('2026-06-13T09:00:00Z'))).rejects.toThrow(/cannot be dated back/)
  await expect(t.app('let_through').insert(row('2026-06-15T09:00:00Z'))).rejects.toThrow(/cannot be let through/)
})
