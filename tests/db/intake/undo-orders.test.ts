import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { recordContact } from '@/usecases/contact/record-contact'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { mergePeople } from '@/usecases/directory/merge-people'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { customFields } from '@/db/directory/custom-fields'
import { addNote } from '@/usecases/contact/add-note'
import { batchRows } from '@/usecases/intake/batch-rows'
import { runUndo } from '@/usecases/intake/run-undo'

/** Undoing goes back all the way, in whatever order: the directory is as it was before the first of the files. */

let t: TestDatabase
let runs = 0
beforeAll(async () => {
  t = await freshDatabase()
})

const undone = async (batch: number) => {
  await undoBatch(t.ines, batch)
  await runUndo(batch)
}

/** Everything there is of some people and their organisations, but for the ledger. */
async function directory(prefix: string) {
  const people = await t
    .app('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .where('p.outside_id', 'like', `${prefix}%`)
    .where({ 'p.state': 'live' })
    .orderBy('p.outside_id')
    .select(
      'p.id',
      'p.outside_id',
      'p.given',
      'p.family',
      'p.name',
      'p.name_key',
      'p.sort_key',
      'p.role',
      'p.relation',
      'p.county',
      'p.street',
      'p.town',
      'p.postcode',
      'p.address_key',
      'p.custom',
      'o.name as organisation',
    )
  const tags = await t.app('person').where('outside_id', 'like', `${prefix}%`).where({ state: 'live' }).orderBy('outside_id').select('tags')
  const addresses = await t
    .app('address as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where('p.outside_id', 'like', `${prefix}%`)
    .where({ 'p.state': 'live' })
    .orderBy(['p.outside_id', 'a.channel', 'a.value'])
    .select('p.outside_id', 'a.channel', 'a.value', 'a.usable', 'a.failed_at', 'a.told')
  const organisations = await t
    .app('organisation')
    .where('name', 'like', `${prefix} %`)
    .where({ live: true })
    .orderBy('name')
    .select('name', 'industry', 'head_count', 'website', 'county', 'street', 'town', 'postcode', 'address_key', 'details')
  const variants = await t
    .app('name_variant as v')
    .join('person as p', 'p.id', 'v.person_id')
    .where('p.outside_id', 'like', `${prefix}%`)
    .orderBy('v.name_key')
    .select('v.name_key')
  return { people, tags: tags.map((p) => [...p.tags].sort()), addresses, organisations, variants }
}

const HEADER = 'Id,Name,Role,Organisation,Industry,Email,Address,Town,Postcode,Tags,Status,Head count'
const maybe = (...values: string[]) => fc.constantFrom('', ...values)
interface Told {
  who: number
  name: string
  role: string
  organisation: string
  industry: string
  email: string
  street: string
  town: string
  tags: string
  status: string
  head: string
}
const rowOf: fc.Arbitrary<Told> = fc.record({
  who: fc.nat(3),
  name: fc.constantFrom('', 'slip'),
  role: maybe('Bursar', 'Caretaker', 'Estates lead'),
  organisation: maybe('Alder', 'Birch', 'Cedar'),
  industry: maybe('schools', 'breweries'),
  email: maybe('one', 'two'),
  street: maybe('1 Mill Lane', '2 Quay Street', '3 Weir Road'),
  town: maybe('Thornmouth', 'Low Wendle'),
  tags: maybe('a', 'b', 'a;b', 'c'),
  status: maybe('prospect', 'customer'),
  head: maybe('10', '20'),
})
const row = (told: Partial<Told>): Told => ({
  who: 0,
  name: '',
  role: '',
  organisation: '',
  industry: '',
  email: '',
  street: '',
  town: '',
  tags: '',
  status: '',
  head: '',
  ...told,
})
const NAMES = ['Ada Marlow', 'Benjamin Tovey', 'Cordelia Nash', 'Dorothy Usher']
const SLIPS = ['Ada Marolw', 'Benjamin Tovye', 'Cordelia Nsah', 'Dorothy Uhser']

const csvOf = (prefix: string, rows: readonly Told[]) =>
  `${HEADER}\n${rows.map((r) => [`${prefix}${r.who}`, r.name ? SLIPS[r.who] : NAMES[r.who], r.role, r.organisation && `${prefix} ${r.organisation}`, r.organisation && r.industry, r.email && `${r.email}.${r.who}@${prefix}.example`.toLowerCase(), r.street, r.street && r.town, r.street && r.town ? 'PW1 2AB' : '', r.tags, r.status, r.organisation && r.head].join(',')).join('\n')}\n`

test(
  'several files, undone in any order, leave the directory as it was before the first',
  async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(rowOf, { maxLength: 3 }),
        fc.array(fc.array(rowOf, { minLength: 1, maxLength: 4 }), { minLength: 2, maxLength: 4 }),
        fc.array(fc.nat(), { minLength: 4, maxLength: 4 }),
        async (base, files, keys) => {
          const prefix = `R${++runs}x`
          if (base.length > 0) await broughtIn(t.ines, 'base.csv', csvOf(prefix, base), { kind: 'people' })
          const before = await directory(prefix)
          const batches: number[] = []
          for (const rows of files) batches.push(await broughtIn(t.ines, 'file.csv', csvOf(prefix, rows), { kind: 'people' }))
          const order = batches.map((batch, i) => ({ batch, key: keys[i] })).sort((a, b) => a.key - b.key)
          for (const { batch } of order) await undone(batch)
          expect(await directory(prefix)).toEqual(before)
        },
      ),
      {
        numRuns: Number(process.env.RUNS ?? 25),
        examples: [
          // A spelling told by a row that told nothing else goes with its file.
          [[], [[row({ name: 'slip' })], [row({})]], [0, 0, 0, 0]],
          // Letters go to the organisation; a town alone, and an address, come and go.
          [
            [row({ who: 1, organisation: 'Alder', street: '2 Quay Street', town: 'Low Wendle' }), row({ who: 2, organisation: 'Alder' })],
            [[row({ who: 2, town: 'Thornmouth' })], [row({ who: 2, street: '1 Mill Lane' })]],
            [1, 0, 0, 0],
          ],
          [
            [row({ who: 1, organisation: 'Alder', street: '2 Quay Street', town: 'Low Wendle' }), row({ who: 2, organisation: 'Alder' })],
            [[row({ who: 2, street: '1 Mill Lane', town: 'Thornmouth', organisation: 'Birch' })], [row({ who: 2, street: '3 Weir Road' })]],
            [0, 1, 0, 0],
          ],
        ],
      },
    )
  },
  Number(process.env.RUNS ?? 25) * 5_000,
)

describe('what each undo says', () => {
  const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
  const file = (rows: string) =>
    broughtIn(t.ines, 'told.csv', `Id,Name,Role,Organisation,Email,Address,Town,Postcode\n${rows}\n`, { kind: 'people' })

  test('whoever came with a later file, too, stays until that is undone as well', async () => {
    const first = await file('T1,Ida Tilling,Bursar,T One School,ida@told.example,,,')
    const second = await file('T1,Ida Tilling,Bursar,T One School,ida@told.example,,,')
    await undone(first)
    expect((await batchRows(t.ines, first, { undone: 'kept' })).rows[0].undone).toEqual({
      what: 'kept',
      why: 'they came with told.csv, too',
    })
    expect((await openPerson(t.ines, await idOf('T1'))).state).toBe('live')
    await undone(second)
    expect((await openPerson(t.ines, await idOf('T1'))).state).toBe('withdrawn')
    expect((await batchRows(t.ines, first, { undone: 'withdrawn' })).total).toBe(1)
    expect((await t.app('organisation').where({ name: 'T One School' }).first('live')).live).toBe(false)
    expect((await t.app('entry').where({ kind: 'withdrawn' }).whereNotNull('organisation_id')).length).toBeGreaterThan(0)
  })

  test('an organisation somebody else works at stays; what was worked on stays, too', async () => {
    const first = await file('T2,Una Vale,Bursar,T Two School,una@told.example,,,')
    const second = await file('T3,Wim Oakes,Bursar,T Two School,wim@told.example,,,')
    await addNote(t.tam, await idOf('T3'), 'rang back')
    await undone(first)
    await undone(second)
    expect((await batchRows(t.ines, second, { undone: 'kept' })).rows[0].undone?.why).toBe('worked on since: a note')
    expect((await t.app('organisation').where({ name: 'T Two School' }).first('live')).live).toBe(true)
  })

  test('what an address has shown is known again when it comes back', async () => {
    await file('T4,Xena Ridd,Bursar,,xena@told.example,4 Mill Lane,Thornmouth,PW1 2AB')
    const id = await idOf('T4')
    await recordContact(t.tam, id, { channel: 'post', result: 'returned', date: '2026-06-01' })
    const post = async () =>
      (await openPerson(t.ines, id)).addresses.filter((a) => a.channel === 'post').map(({ value, usable, why }) => ({ value, usable, why }))
    const before = await post()
    expect(before).toEqual([{ value: '4 Mill Lane, Thornmouth, PW1 2AB', usable: false, why: 'failed 1 Jun 2026' }])
    const moved = await file('T4,Xena Ridd,,,,9 Quay Street,Low Wendle,PW2 1ZZ')
    expect(await post()).toEqual([{ value: '9 Quay Street, Low Wendle, PW2 1ZZ', usable: true, why: null }])
    await undone(moved)
    expect(await post()).toEqual(before)
    // A contact that is taken back in between counts no more.
    await file('T4,Xena Ridd,,,,9 Quay Street,Low Wendle,PW2 1ZZ')
    await recordContact(t.tam, id, { channel: 'post', result: 'replied', date: '2026-06-02' })
    await file('T4,Xena Ridd,,,,4 Mill Lane,Thornmouth,PW1 2AB')
    expect(await post()).toEqual(before)
  })

  test('a field of the team’s own and one set by hand since', async () => {
    expect((await customFields(t.app)).length).toBeGreaterThan(0)
    const first = await file('T5,Yan Moss,Bursar,,yan@told.example,,,')
    const second = await file('T5,Yan Moss,Caretaker,,,,,')
    const third = await file('T5,Yan Moss,Head of Estates,,,,,')
    await undone(second)
    const role = async () => (await t.app('person').where({ outside_id: 'T5' }).first('role')).role
    expect(await role()).toBe('Head of Estates')
    expect((await batchRows(t.ines, second, { undone: 'kept' })).rows[0].undone?.why).toBe('role: worked on since, and kept')
    await undone(third)
    expect(await role()).toBe('Bursar')
    await undone(first)
    expect((await openPerson(t.ines, await idOf('T5'))).state).toBe('withdrawn')
  })
})

describe('letters that go to the organisation', () => {
  const post = async (outside: string) =>
    (
      await t
        .app('address as a')
        .join('person as p', 'p.id', 'a.person_id')
        .where({ 'p.outside_id': outside, 'a.channel': 'post' })
        .select('a.value', 'a.usable', 'a.parts')
    ).map(({ value, usable, parts }) => ({ value, usable, parts }))
  const file = (rows: string) =>
    broughtIn(t.ines, 'letters.csv', `Id,Name,Organisation,Address,Town,Postcode\n${rows}\n`, { kind: 'people' })
  const school = {
    value: '5 Weir Road, Low Wendle, PW1 2AB',
    usable: true,
    parts: { street: '5 Weir Road', town: 'Low Wendle', postcode: 'PW1 2AB' },
  }

  test('a town alone does not take the place of an address that letters reach', async () => {
    await file('L1,Ada Marlow,L One School,5 Weir Road,Low Wendle,PW1 2AB\nL2,Benjamin Tovey,L One School,,,')
    expect(await post('L2')).toEqual([school])
    await file('L2,Benjamin Tovey,,,Thornmouth,')
    expect(await post('L2')).toEqual([school])
    const moved = await file('L2,Benjamin Tovey,,1 Mill Lane,,')
    expect(await post('L2')).toMatchObject([{ value: '1 Mill Lane, Thornmouth' }])
    await undone(moved)
    expect(await post('L2')).toEqual([school])
    const told = await t
      .app('entry as e')
      .join('entry_value as v', 'v.id', 'e.value_id')
      .join('person as p', 'p.id', 'e.person_id')
      .where({ 'p.outside_id': 'L2', 'e.field': 'post' })
      .orderBy('e.id')
      .select('v.before', 'v.after')
    expect(told).toEqual([
      { before: school.value, after: '1 Mill Lane, Thornmouth' },
      { before: '1 Mill Lane, Thornmouth', after: school.value },
    ])
  })

  test('a merge that is taken back gives it back', async () => {
    await file(
      'L3,Cordelia Nash,L Two School,5 Weir Road,Low Wendle,PW1 2AB\nL4,Dorothy Usher,L Two School,,,\nL5,Dorothy Usher,,9 Quay Street,Thornmouth,',
    )
    const id = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
    await mergePeople(t.ines, await id('L4'), await id('L5'))
    expect(await post('L4')).toMatchObject([{ value: '9 Quay Street, Thornmouth' }])
    await takeBackMerge(t.ines, await id('L5'))
    expect(await post('L4')).toEqual([school])
    expect(await post('L5')).toMatchObject([{ value: '9 Quay Street, Thornmouth' }])
  })
})
