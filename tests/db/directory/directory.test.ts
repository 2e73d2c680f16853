import { beforeAll, describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { findOrganisations } from '@/usecases/directory/find-organisations'
import { findPeople } from '@/usecases/directory/find-people'
import { openOrganisation } from '@/usecases/directory/open-organisation'
import { openPerson } from '@/usecases/directory/open-person'
import { knownWords } from '@/usecases/lists/known-words'
import { recordContact } from '@/usecases/contact/record-contact'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { addNote } from '@/usecases/contact/add-note'
import { suppress } from '@/usecases/screening/suppress'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Role,Organisation,Organisation type,Email,Phone,Address,Town,Postcode,Status,Tags
D1,Zoë Solheim,Head Brewer,Otter Brewery,brewery,zoe@otter.example,0113 496 0101,1 Quay Street,Thornmouth,PW1 1AA,prospect,large roof
D2,Ana Ruiz Vela,Owner,Otter Brewery,brewery,ana@otter.example,0113 496 0102,,,,customer,
D3,Bo Pike,,,,bo_pike@example.org,,3 Mill Lane,Copsewick,PW8 1AA,,
D4,Cy Haddad,Nurse,100% Clinic,clinic,cy@clinic.example,0113 496 0101,4 Mill Lane,Copsewick,PW8 1AA,,
`,
  )
  await startEngine(t)
})

const names = async (typed: string, sort?: Parameters<typeof findPeople>[2]) =>
  (await findPeople(t.ines, typed, sort)).people.map((p) => p.name)

describe('finding people', () => {
  test.each([
    ['zoe', ['Zoë Solheim']],
    ['SOLHEIM zoë', ['Zoë Solheim']],
    ['otter', ['Ana Ruiz Vela', 'Zoë Solheim']],
    ['otter ana', ['Ana Ruiz Vela']],
    ['ANA@otter.example', ['Ana Ruiz Vela']],
    ['@otter', ['Ana Ruiz Vela', 'Zoë Solheim']],
    ['0113 496 0101', ['Cy Haddad', 'Zoë Solheim']],
    ['+44 113 496 0102', ['Ana Ruiz Vela']],
    ['nurse', ['Cy Haddad']],
    ['copsewick', ['Bo Pike', 'Cy Haddad']],
    ['owner otter', ['Ana Ruiz Vela']],
    ['', ['Bo Pike', 'Ana Ruiz Vela', 'Cy Haddad', 'Zoë Solheim']],
    ['%', ['Bo Pike', 'Ana Ruiz Vela', 'Cy Haddad', 'Zoë Solheim']],
    ["'; drop table person; --", []],
  ])('“%s”', async (typed, expected) => expect((await names(typed)).sort()).toEqual([...expected].sort()))

  test('while the engine is away people are found by name all the same', async () => {
    const port = settings().ENGINE_PORT
    settings().ENGINE_PORT = 1
    expect((await names('otter', 'town')).sort()).toEqual(['Ana Ruiz Vela', 'Zoë Solheim'])
    expect(await names('nurse copsewick')).toEqual(['Cy Haddad'])
    settings().ENGINE_PORT = port
  })

  test('sorted by name, organisation, town, last contact', async () => {
    expect(await names('')).toEqual(['Cy Haddad', 'Bo Pike', 'Zoë Solheim', 'Ana Ruiz Vela'])
    expect((await names('', 'organisation'))[3]).toBe('Bo Pike')
    expect((await names('', 'town')).slice(0, 2)).toEqual(['Cy Haddad', 'Bo Pike'])
    const [bo] = (await findPeople(t.ines, 'bo pike')).people
    await recordContact(t.tam, bo.id, { channel: 'email', result: 'sent' })
    expect((await names('', 'last contact'))[3]).toBe('Bo Pike')
  })
})

test('somebody without an address of their own is where their organisation is', async () => {
  const [ana] = (await findPeople(t.ines, 'ana ruiz')).people
  expect(ana.place).toBe('Thornmouth')
  const page = await openPerson(t.ines, ana.id)
  expect(page.addresses.find((a) => a.channel === 'post')?.value).toBe('1 Quay Street, Thornmouth, PW1 1AA')
  expect(page.view.reach).toEqual({ email: 'open', phone: 'open', post: 'open', direct: 'none' })
})

test('organisations: found, sorted, opened with their people', async () => {
  const { organisations } = await findOrganisations(t.ines, '', 'people')
  expect(organisations.map((o) => [o.name, o.people])).toEqual([
    ['Otter Brewery', 2],
    ['100% Clinic', 1],
  ])
  expect((await findOrganisations(t.ines, 'clinic')).organisations.map((o) => o.name)).toEqual(['100% Clinic'])
  const page = await openOrganisation(t.ines, organisations[0].id)
  expect(page).toMatchObject({ industry: 'brewery', postal: '1 Quay Street, Thornmouth, PW1 1AA', lastAt: null })
  expect(page.staff.map((p) => p.name)).toEqual(['Zoë Solheim', 'Ana Ruiz Vela'])
  await expect(openOrganisation(t.ines, 99)).rejects.toThrow(/no such organisation/)
  expect((await knownWords(t.ines)).towns[0]).toBe('Copsewick')
})

describe('what is written by hand', () => {
  const zoe = async () => (await findPeople(t.ines, 'zoe')).people[0].id

  test('a contact counts in the year strip, the facts and the ledger, by whoever made it', async () => {
    const id = await zoe()
    await recordContact(t.tam, id, { channel: 'phone', result: 'spoke', note: 'likes tanks', date: '2026-06-05' })
    const page = await openPerson(t.ines, id)
    expect(page.view.strip).toEqual([[9, 'phone']])
    expect(page.view.last).toMatchObject({ channel: 'phone', result: 'spoke', by: 'Tam Reyes' })
    expect(page.ledger.find((e) => e.kind === 'contact')).toMatchObject({ title: 'Phone · spoke', detail: 'likes tanks', by: 'Tam Reyes' })
  })

  test.each([
    [{ channel: 'fax' }, /Choose how the contact was made/],
    [{ channel: 'phone', date: '2026-06-20' }, /is dated in the future/],
    [{ channel: 'phone', note: 'x'.repeat(2001) }, /at most 2,000/],
  ])('a contact that cannot be: %o', async (input, message) => {
    await expect(recordContact(t.tam, await zoe(), input)).rejects.toThrow(message)
  })

  test('notes hold something, and are about somebody', async () => {
    await expect(addNote(t.tam, await zoe(), '  ')).rejects.toThrow(/1 to 2,000/)
    await expect(addNote(t.tam, 999, 'x')).rejects.toThrow(/no such person/)
    await addNote(t.tam, await zoe(), 'call after four')
    expect((await openPerson(t.ines, await zoe())).ledger[0]).toMatchObject({ title: 'Note', detail: 'call after four' })
  })
})

describe('suppressions by hand', () => {
  const word = 'a letter'
  test.each([
    [{ text: 'nonsense' }, { reason: 'opt-out', channels: ['email'], word }, /neither an email address, nor a phone number, nor a domain/],
    [{ text: 'a@example.org' }, { reason: 'because', channels: ['email'], word }, /Choose a reason/],
    [{ text: 'a@example.org' }, { reason: 'other', channels: [], word }, /at least one channel/],
    [{ text: 'a@example.org' }, { reason: 'other', channels: ['email'], word: '' }, /whose word/],
    [
      { text: 'a@example.org' },
      { reason: 'other', channels: ['email'], word, since: '2026-06-10', until: '2026-06-01' },
      /must come after/,
    ],
    [{ person: 999 }, { reason: 'other', channels: ['email'], word }, /no such person/],
  ])('%o %o is refused', async (target, input, message) => {
    await expect(suppress(t.tam, target, input)).rejects.toThrow(message)
  })

  test('of a phone that two share closes it for both, and says so; the rest stays open', async () => {
    await suppress(t.tam, { text: '0113 496 0101' }, { reason: 'complaint', channels: ['phone'], word })
    for (const name of ['zoe', 'haddad'])
      expect((await findPeople(t.ines, name)).people[0].reach).toEqual({ email: 'open', phone: 'closed', post: 'open', direct: 'none' })
    expect((await suppressionIndex(t.ines, '01134960101')).rows[0]).toMatchObject({
      who: '…0101',
      catches: 2,
      channels: ['phone'],
      reason: 'complaint',
    })
    expect((await suppressionIndex(t.ines, '', 'complaint')).total).toBe(1)
  })

  test('of a person does not close the postal address they share', async () => {
    const [bo] = (await findPeople(t.ines, 'bo pike')).people
    await suppress(
      t.tam,
      { person: bo.id },
      { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word, until: '2026-07-01' },
    )
    expect((await findPeople(t.ines, 'bo pike')).people[0].reach).toEqual({
      email: 'closed',
      phone: 'none',
      post: 'closed',
      direct: 'none',
    })
    pinClock(new Date('2026-07-01T09:00:00Z'))
    expect((await findPeople(t.ines, 'bo pike')).people[0].reach).toEqual({ email: 'open', phone: 'none', post: 'open', direct: 'none' })
    pinClock(new Date('2026-06-15T09:00:00Z'))
  })
})
