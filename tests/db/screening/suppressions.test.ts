import { describe, expect, test } from 'vitest'
import { PERSONAL_DOMAINS } from '@/core/clean/email-traits'
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
import { broughtIn } from '../../support/database'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { openRound } from '@/usecases/rounds/open-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { takeBackLetThrough } from '@/usecases/screening/take-back-let-through'
import { suppress, suppressTexts } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppressionsCsv } from '@/usecases/screening/suppressions-csv'
import { givenStopped, t, HEADER, idOf, reach, word } from './stopped'

givenStopped()

const open = { email: 'open', phone: 'open', post: 'open', direct: 'none' }

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
    expect(await reach('S4')).toEqual({ ...open, email: 'closed', phone: 'closed', post: 'closed' })
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

describe('a whole mail provider', () => {
  // Whatever the package lists first: no provider is named here.
  const provider = PERSONAL_DOMAINS[0]

  test('is suppressed only when that is said; how many it would close is told first', async () => {
    await broughtIn(t.ines, 'provider.csv', `Name,Email\nPat Provider,pat@${provider}\nPia Provider,pia@${provider}\n`)
    const before = Number((await t.app('suppression').count('* as n').first())?.n)
    await expect(suppress(t.tam, { text: `@${provider}` }, { ...word, channels: ['email'] })).rejects.toThrow(
      /anybody can have an address: 2 addresses in the directory would be closed.*Nothing was suppressed/,
    )
    expect(Number((await t.app('suppression').count('* as n').first())?.n)).toBe(before)
    await suppress(t.tam, { text: `pat@${provider}` }, { ...word, channels: ['email'] })
    await suppress(t.tam, { text: `@${provider}` }, { ...word, channels: ['email'], wholeProvider: true })
    const pia = await t.app('person').where({ name: 'Pia Provider' }).first('id')
    expect((await openPerson(t.ines, pia.id)).view.reach.email).toBe('closed')
  })

  test('a file that names one has that row refused with the reason, and keeps the others', async () => {
    const other = PERSONAL_DOMAINS[1]
    const id = await broughtIn(t.ines, 'stops.csv', `Email domain,Reason\n@${other},opt-out\n@works.example,opt-out\n`, {
      kind: 'suppressions',
    })
    const rows = await t.app('batch_row').where({ batch_id: id }).orderBy('row_no').select('outcome', 'reason')
    expect(rows.map((r) => r.outcome)).toEqual(['refused', 'new'])
    expect(rows[0].reason).toMatch(/anybody can have an address; suppress it by itself under Screening/)
  })
})

describe('several at once', () => {
  const standing = async () => Number((await t.app('suppression_standing').count('* as n').first())?.n)

  test('emails, phones and domains that are pasted are suppressed together, each once', async () => {
    const before = await standing()
    const lines = ['one@several.example', '', '  0113 496 0777 ', '@several.example', 'ONE@several.example']
    expect(await suppressTexts(t.tam, lines, { ...word, channels: ['email', 'phone', 'post', 'direct'] })).toBe(3)
    expect(await standing()).toBe(before + 3)
  })

  test('where one cannot be read none is, and each that cannot is told', async () => {
    const before = await standing()
    await expect(suppressTexts(t.tam, ['good@several.example', 'no address', `@${PERSONAL_DOMAINS[2]}`], word)).rejects.toThrow(
      /“no address” is neither an email address.*anybody can have an address.*None of the 3 lines was suppressed/,
    )
    await expect(suppressTexts(t.tam, ['', ' '], word)).rejects.toThrow(/one a line/)
    await expect(
      suppressTexts(
        t.tam,
        Array.from({ length: 501 }, (_, i) => `p${i}@several.example`),
        word,
      ),
    ).rejects.toThrow(/501 lines; at most 500.*Intake/)
    await expect(suppressTexts(t.tam, ['good@several.example'], { ...word, since: '2026-06-10', until: '2026-06-09' })).rejects.toThrow(
      /end must come after/,
    )
    expect(await standing()).toBe(before)
  })
})
