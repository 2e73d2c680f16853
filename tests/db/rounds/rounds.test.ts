import { createHash } from 'node:crypto'
import { parse } from 'csv-parse/sync'
import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { openPerson } from '@/usecases/directory/open-person'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { recordContact } from '@/usecases/contact/record-contact'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { broughtIn } from '../../support/database'
import { latestEdition } from '@/db/lists/list-rows'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { suppress } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { givenClinics, t, HEAD, start, keepRole, idOf, person, list } from './clinics'

givenClinics()

let round: number

test('the account of the list reconciles, and each tab opens its people', async () => {
  const lines = (await latestEdition(list)).lines
  const { figures, page } = await listAccountFor(t.tam, { lines, view: { tab: 'out' } })
  expect(figures.lines.map((f) => [f.out, f.unknown, f.in, f.balance])).toEqual([
    [0, 0, 9, 9],
    [1, 1, 0, 7],
    [1, 0, 0, 6],
  ])
  expect(figures.tabs).toMatchObject({ on: 6, leftOut: 2, unknown: 1, never: 0, directory: 9 })
  expect(page.records.map((p) => [p.title, p.because?.title])).toEqual([
    ['Hal Nurse', 'Left out by line 2'],
    ['Fay Trainee', 'Left out by line 3'],
  ])
})

test('screening: the account, and each held-back person with the rule and its evidence', async () => {
  round = await startRound(t.ines, list)
  const { figures, page } = await screenRound(t.ines, round, { tab: 'held' })
  expect(figures.opening).toBe(6)
  expect(figures.rules.map((r) => [r.out.email, r.out.phone, r.out.post, r.anyone])).toEqual([
    [0, 0, 0, 6],
    [1, 1, 1, 5],
    [0, 1, 0, 5],
    [0, 0, 0, 5],
    [1, 1, 1, 4],
    [1, 1, 1, 3],
    [0, 0, 0, 3],
  ])
  expect(figures.clear).toEqual({ email: 3, phone: 2, post: 3, direct: 0 })
  const because = Object.fromEntries(page.people.map((p) => [p.name, p.because]))
  expect(because['Ben Stopped']).toEqual({ title: 'Asked us to stop', detail: 'Asked us to stop since 15 Jun 2026 · asked on the phone' })
  expect(because['Dee Customer']).toEqual({ title: 'Customers and our own people', detail: 'Relation to us: customer' })
  expect(because['Eve Lately']).toEqual({ title: 'Contacted recently', detail: 'Phone on 1 Jun 2026 by Tam Reyes' })
  const phones = await screenRound(t.ines, round, { tab: 'rule', rule: 'register', channel: 'phone' })
  expect(phones.page.people.map((p) => p.name)).toEqual(['Cyd Register'])
  expect(phones.page.people[0].because?.detail).toContain('County register')
  // The same people stay mailable.
  expect(phones.page.people[0].reach).toEqual({ email: 'open', phone: 'closed', post: 'open', direct: 'none' })
})

test('a rule can be changed while the round is built; those of the law cannot be left out', async () => {
  const rules = (await openRound(t.ines, round)).rules.map((r) => r.rule)
  const shorter = rules.map((r) => (r.kind === 'contacted-within' ? { ...r, days: 7 } : r))
  await setRules(t.ines, round, shorter)
  expect((await screenRound(t.ines, round, { tab: 'clear' })).figures.anyone).toBe(4)
  await setRules(t.ines, round, rules)
  await expect(
    setRules(
      t.ines,
      round,
      rules.filter((r) => r.kind !== 'asked-to-stop'),
    ),
  ).rejects.toThrow(/cannot be left out/)
  await expect(setRules(t.tam, round, rules)).rejects.toThrow(/coordinators and managers/)
})

describe('release', () => {
  test('is refused to a caller', async () => {
    await expect(releaseRound(t.tam, round)).rejects.toThrow(/coordinators and managers/)
  })

  test('freezes the round, one file a channel, contacts to come, and the ledger', async () => {
    await releaseRound(t.ines, round)
    const email = await roundFile(t.ines, round, 'email')
    const rows = parse(email.bytes, { columns: true }) as Record<string, string>[]
    expect(rows.map((r) => [r.Name, r.Email])).toEqual([
      ['Ada Open', 'r1@example.org'],
      ['Cyd Register', 'r3@example.org'],
      ['Ida Zigzag', 'r9@example.org'],
    ])
    // OWASP, CSV Injection: what begins like a formula is made plain.
    expect(rows.map((r) => r.Role)).toContain("'=Estates lead")
    expect(email.bytes.toString().split('\r\n')).toHaveLength(5)
    expect(createHash('sha256').update(email.bytes).digest('hex')).toBe(email.sha256)
    const phone = parse((await roundFile(t.ines, round, 'phone')).bytes, { columns: true }) as Record<string, string>[]
    expect(phone.map((r) => r.Phone).sort()).toEqual(['+441134960001', '+441134960009'])
    const post = parse((await roundFile(t.ines, round, 'post')).bytes, { columns: true }) as Record<string, string>[]
    expect(post[1]).toMatchObject({ Street: expect.stringMatching(/Mill Lane/), Town: 'Thornmouth', Postcode: 'PW1 2AB' })
    expect((await openRound(t.ines, round)).toCome).toEqual({ all: 8, open: 8 })
    const { ledger } = await openPerson(t.ines, await idOf('Ada Open'))
    expect(ledger.map((e) => e.title)).toEqual(expect.arrayContaining(['Released for contact by email, phone, post', 'Came onto the list']))
  })

  test('cannot be done twice, and nothing frozen can be written to afterwards', async () => {
    await expect(releaseRound(t.ines, round)).rejects.toThrow(/released already/)
    await expect(t.app('round').where({ id: round }).update({ rules: '[]' })).rejects.toThrow(/frozen/)
    const nurse = await idOf('Hal Nurse')
    await expect(t.app('round_member').insert({ round_id: round, person_id: nurse, card: '{}', why: 'x' })).rejects.toThrow(/frozen/)
  })

  test('its page stays as it was whatever changes, and its file the same byte for byte', async () => {
    const before = await roundFile(t.ines, round, 'email')
    await suppress(t.tam, { text: 'r1@example.org' }, { reason: 'opt-out', channels: ['email'], word: 'wrote back' })
    await broughtIn(t.ines, 'rename.csv', HEAD + person('R1', 'Ada Renamed', 'Nurse'))
    const page = await screenRound(t.ines, round, { tab: 'clear' })
    expect(page.page.people.map((p) => p.name)).toContain('Ada Open')
    expect(page.page.people.find((p) => p.name === 'Ada Open')?.reach.email).toBe('open')
    expect((await roundFile(t.ines, round, 'email', { asReleased: true })).bytes.equals(before.bytes)).toBe(true)
    // What is downloaded to be used leaves out whoever must not be contacted any more, and nothing else.
    const lines = before.bytes.toString().split('\r\n')
    const now = (await roundFile(t.ines, round, 'email')).bytes.toString().split('\r\n')
    expect(lines.filter((own) => own.includes('r1@example.org'))).toHaveLength(1)
    expect(now).toEqual(lines.filter((own) => !own.includes('r1@example.org')))
    await broughtIn(t.ines, 'rename.csv', HEAD + person('R1', 'Ada Open', 'Estates lead'))
  })

  test('its contacts to come hold people back elsewhere, until they are made or the round is closed', async () => {
    const other = await createList(t.marek, 'Another list', true, [start, keepRole])
    const second = await startRound(t.marek, other)
    const held = await screenRound(t.marek, second, { tab: 'rule', rule: 'another-round' })
    const cyd = held.page.people.find((p) => p.name === 'Cyd Register')
    expect(cyd?.because?.detail).toBe('To be contacted by email in round 1 of Clinics')
    // A contact by the same channel makes one of them good.
    pinClock(new Date('2026-06-16T09:00:00Z'))
    await recordContact(t.tam, await idOf('Cyd Register'), { channel: 'email', result: 'replied' })
    // One was made, and one stopped by the suppression above.
    expect((await openRound(t.ines, round)).toCome.open).toBe(6)
    expect(
      await t
        .app('contact_to_come')
        .where({ round_id: round, person_id: await idOf('Cyd Register'), channel: 'email' })
        .first(),
    ).toMatchObject({ ended_at: expect.any(Date), entry_id: expect.any(Number) })
  })

  test('stops when somebody was suppressed after the screening was looked at, or the list was saved again', async () => {
    const id = await createList(t.ines, 'Race', true, [start, { ...keepRole, criterion: { kind: 'role', any: ['nurse'] } }])
    const racing = await startRound(t.ines, id)
    const clearBefore = (await screenRound(t.ines, racing, { tab: 'clear' })).figures.clear.email
    expect(clearBefore).toBe(1)
    await suppress(t.tam, { text: 'r8@example.org' }, { reason: 'opt-out', channels: ['email'], word: 'just now' })
    await releaseRound(t.ines, racing)
    expect(parse((await roundFile(t.ines, racing, 'email')).bytes, { columns: true })).toEqual([])
    await closeRound(t.ines, racing)
  })

  test('waits for whoever is writing a suppression, and then sees it', async () => {
    const id = await createList(t.ines, 'Gate', true, [start, { ...keepRole, criterion: { kind: 'role', any: ['nurse'] } }])
    const gated = await startRound(t.ines, id)
    // The person was never held back: only the suppression that is being written holds back.
    await setRules(
      t.ines,
      gated,
      (await openRound(t.ines, gated)).rules.map(({ rule }) => (rule.kind === 'contacted-within' ? { ...rule, off: true } : rule)),
    )
    const { writeSuppressions } = await import('@/usecases/screening/suppress-people')
    const writing = await t.app.transaction()
    await writeSuppressions(writing, [
      {
        of: { phone: '+441134960008' },
        reason: 'opt-out',
        channels: ['phone'],
        since: new Date('2026-06-01'),
        until: null,
        word: 'a test',
        actor: t.tam.id,
      },
    ])
    const releasing = releaseRound(t.ines, gated)
    await new Promise((resolve) => setTimeout(resolve, 400))
    await writing.commit()
    await releasing
    expect((await openRound(t.ines, gated)).state).toBe('released')
    expect((await roundFile(t.ines, gated, 'phone')).bytes.toString()).not.toContain('+441134960008')
  })
})

describe('requalify', () => {
  test('joined, left and stayed, each with its reason and the values before and after', async () => {
    pinClock(new Date('2026-07-20T09:00:00Z'))
    await broughtIn(
      t.ines,
      'second.csv',
      HEAD +
        person('R1', 'Ada Open', 'Estates lead') +
        person('R3', 'Cyd Register', 'Nurse') +
        person('R8', 'Hal Nurse', 'Head of Facilities') +
        person('R20', 'Ivy New', 'Facilities lead'),
    )
    await saveEdition(t.ines, list, 1, [...(await latestEdition(list)).lines.slice(0, 2)])
    const left = await requalifyList(t.ines, list, { account: 'listed', tab: 'left' })
    expect(left.listed).toMatchObject({ opening: 6, left: 1, joined: 3, stayed: 5, closing: 8 })
    expect(left.page.people.map((p) => [p.name, p.because])).toEqual([
      ['Cyd Register', { title: 'role: Facilities manager → Nurse', detail: 'Keep role says estates or facilities in any wording' }],
    ])
    const joined = await requalifyList(t.ines, list, { account: 'listed', tab: 'joined' })
    expect(Object.fromEntries(joined.page.people.map((p) => [p.name, p.because]))).toEqual({
      'Ivy New': { title: 'New in the directory', detail: 'came in on 20 Jul 2026 with second.csv' },
      'Hal Nurse': { title: 'role: Nurse → Head of Facilities', detail: 'Now passes: Keep role says estates or facilities in any wording' },
      'Fay Trainee': {
        title: 'role: Trainee estates officer, unchanged',
        detail: 'New edition, no longer: Drop role says trainee in any wording',
      },
    })
    expect(left.clear.opening - left.clear.left + left.clear.joined).toBe(left.clear.closing)
    const clearJoined = await requalifyList(t.ines, list, { account: 'clear', tab: 'joined' })
    expect(clearJoined.page.people.find((p) => p.name === 'Eve Lately')?.because?.title).toBe('No longer held back: Contacted recently')
  })

  test('the next round closes the one before, with an entry for every contact not made', async () => {
    const next = await startRound(t.ines, list)
    expect((await openRound(t.ines, round)).state).toBe('closed')
    expect((await t.app('entry').where({ round_id: round, kind: 'not worked' })).length).toBe(7)
    expect(await startRound(t.ines, list)).toBe(next)
    await releaseRound(t.ines, next)
    const page = await openRound(t.ines, next)
    expect(page.requalified).toMatchObject({ joined: 3, left: 1 })
    const unlisted = await t.app('entry').where({ round_id: next, kind: 'unlisted' }).select('person_id')
    expect(unlisted).toEqual([{ person_id: await idOf('Cyd Register') }])
    await closeRound(t.ines, next)
    await expect(closeRound(t.ines, next)).rejects.toThrow(/closed already/)
  })
})

describe('suppressions', () => {
  test('invariant 8: one on an email catches a row that comes in later', async () => {
    await suppress(t.tam, { text: 'Later@Example.org' }, { reason: 'opt-out', channels: ['email'], word: 'wrote in' })
    await broughtIn(t.ines, 'later.csv', `${HEAD}L1,Lat Er,Estates lead,,later@example.org,,,,,\n`)
    expect((await openPerson(t.ines, await idOf('Lat Er'))).view.reach.email).toBe('closed')
    expect((await suppressionIndex(t.ines, 'LATER@example.org')).rows[0]).toMatchObject({ catches: 1, stand: 'stands' })
    // What is stored of the address tells nobody what it is.
    const stored = JSON.stringify(
      await t.owner('suppression as s').join('suppression_key as k', 'k.suppression_id', 's.id').where('s.word', 'wrote in').first(),
    )
    expect(stored).not.toContain('later@')
  })

  test('is lifted by an entry, once, by a coordinator, and stays in the ledger', async () => {
    const { id } = (await suppressionIndex(t.ines, 'later@example.org')).rows[0]
    await expect(liftSuppression(t.tam, id, 'x')).rejects.toThrow(/coordinators and managers/)
    await liftSuppression(t.ines, id, 'asked to be written to again')
    await expect(liftSuppression(t.ines, id, 'again')).rejects.toThrow(/lifted already/)
    const page = await openPerson(t.ines, await idOf('Lat Er'))
    expect(page.view.reach.email).toBe('open')
    expect(page.suppressions[0].lifted).toMatchObject({ word: 'asked to be written to again', by: 'Ines Okafor' })
    expect(page.ledger.map((e) => e.title)).toContain('Suppression lifted')
  })

  test('a contact that ends in “asked us to stop” suppresses at once', async () => {
    await recordContact(t.tam, await idOf('Lat Er'), { channel: 'post', result: 'asked us to stop' })
    expect((await openPerson(t.ines, await idOf('Lat Er'))).suppressions[0]).toMatchObject({ reason: 'opt-out', channels: ['post'] })
  })
})
