import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { ReadModel } from '@/engine/read-model'
import { pinClock } from '@/runtime/clock'
import { batchOf } from '@/usecases/intake/batch-for'
import { openOrganisation } from '@/usecases/directory/open-organisation'
import { openPerson } from '@/usecases/directory/open-person'
import { createList } from '@/usecases/lists/create-list'
import { mergePeople } from '@/usecases/directory/merge-people'
import { receiveFile } from '@/usecases/intake/receive-file'
import { recordContact } from '@/usecases/contact/record-contact'
import { releaseRound } from '@/usecases/rounds/release-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { readAgain } from '@/usecases/intake/read-again'
import { startRound } from '@/usecases/rounds/start-round'
import { openRound } from '@/usecases/rounds/open-round'

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
beforeAll(async () => {
  t = await freshDatabase('2026-06-15T14:30:00Z')
  await startEngine(t)
})
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const people = (rows: string) =>
  broughtIn(t.ines, 'people.csv', `Id,Name,Role,Organisation,Email,Phone\n${rows}\n`, { kind: 'people', byKeysAlone: true })

describe('days', () => {
  test('a contact of today without a time counts for the round that was released today, by hand and by file; one with an earlier time does not', async () => {
    const batch = await people('C1,Ada Today,,,ada@days.example,\nC2,Ben Today,,,ben@days.example,\nC3,Cyd Today,,,cyd@days.example,')
    const round = await startRound(
      t.ines,
      await createList(t.ines, 'Today', true, [{ ...start, batch: { id: batch, name: 'people' } } as Line]),
    )
    await releaseRound(t.ines, round)
    pinClock(new Date('2026-06-15T15:00:00Z'))
    expect((await openRound(t.ines, round)).toCome).toEqual({ open: 3, all: 3 })
    await recordContact(t.tam, await idOf('C1'), { channel: 'email', result: 'replied', date: '2026-06-15' })
    await broughtIn(
      t.ines,
      'calls.csv',
      'Email,Date,Channel,Result\nben@days.example,15/06/2026,email,replied\ncyd@days.example,15/06/2026 09:00,email,replied\n',
      { kind: 'contacts' },
    )
    expect((await openRound(t.ines, round)).toCome).toEqual({ open: 1, all: 3 })
    expect((await openPerson(t.ines, await idOf('C1'))).ledger[0]).toMatchObject({
      title: 'Email · replied',
      at: '2026-06-15T14:30:00.000Z',
      detail: 'round 1 of Today',
    })
  })

  test('the same contact is one by the day where we are, not by that of Greenwich', async () => {
    await people('C4,Dot Midnight,,,dot@days.example,')
    // Half past midnight on 2 June in London is still 1 June in UTC.
    const file = (rows: string) => broughtIn(t.ines, 'night.csv', `Email,Date,Channel,Result\n${rows}\n`, { kind: 'contacts' })
    await file('dot@days.example,2026-06-02 00:30,phone,spoke')
    expect(
      (
        await batchAccount(
          t.ines,
          await file('dot@days.example,2026-06-02 11:00,phone,spoke\ndot@days.example,2026-06-01 23:00,phone,spoke'),
        )
      ).counts,
    ).toMatchObject({ same: 1, new: 1 })
  })

  test('a day that has not come here is refused; today is not', async () => {
    pinClock(new Date('2026-06-15T23:30:00Z'))
    const rows = await broughtIn(
      t.ines,
      'future.csv',
      'Email,Date,Channel\ndot@days.example,2026-06-16,post\ndot@days.example,2026-06-17,post\n',
      { kind: 'contacts' },
    )
    expect((await batchAccount(t.ines, rows)).counts).toMatchObject({ new: 1, refused: 1 })
    pinClock(new Date('2026-06-15T15:00:00Z'))
  })
})

describe('values stand as people wrote them', () => {
  test('an organisation before a change, and what would be asked about', async () => {
    await people('V1,Eve Mover,Bursar,The St Anne’s School & Co,eve@days.example,')
    await people('V1,Eve Mover,,Sedge Brewery Ltd,eve@days.example,')
    expect((await openPerson(t.ines, await idOf('V1'))).ledger[0].title).toBe('Organisation: The St Anne’s School & Co → Sedge Brewery Ltd')
    const asks = await broughtIn(t.ines, 'asks.csv', 'Id,Name,Organisation,Email\nV1,Eve Mover,Hallow Clinic,eve@days.example\n', {
      kind: 'people',
      rules: { organisation: 'ask' },
    })
    expect((await batchRows(t.ines, asks, { outcome: 'in doubt' })).rows[0].reason).toContain(
      'organisation: Sedge Brewery Ltd → Hallow Clinic',
    )
  })

  test('money and phone numbers in the ledger and beside a row, in the national form and with the currency', async () => {
    const told = async (phone: string, revenue: string) => {
      const batch = await broughtIn(
        t.ines,
        'revenue.csv',
        `Id,Name,Organisation,Phone,Organisation: revenue\nV2,Fay Ledger,Kiln Bakery,${phone},${revenue}\n`,
        { kind: 'people', byKeysAlone: true },
      )
      const person = await openPerson(t.ines, await idOf('V2'))
      const kiln = await t.app('organisation').where({ name: 'Kiln Bakery' }).first('id')
      const { ledger } = await openOrganisation(t.ines, kiln.id)
      const { rows } = await batchRows(t.ines, batch, { outcome: 'updated' })
      return { titles: [...person.ledger, ...ledger].map(({ title }) => title), changes: rows.flatMap((r) => r.changes) }
    }
    await told('01632 960001', '250000')
    const { titles, changes } = await told('01632 960002', '1356000')
    expect(titles).toContain('Organisation: revenue: £250,000 → £1,356,000')
    expect(titles).toContain('Phone: 01632 960001 → 01632 960002')
    expect(changes).toContainEqual(expect.objectContaining({ field: 'phone', before: '01632 960001', after: '01632 960002' }))
  })

  test('numbers and dates by the file’s own locale, which is guessed and can be changed', async () => {
    const csv = 'Name;Address;Town;Postcode;Roof area;Latitude;Longitude\nMill House;1 Mill Lane;Thornmouth;PW1 2AB;1.250,5;53,125;-1,5\n'
    const id = await receiveFile(t.ines, { name: 'dach.csv', bytes: Buffer.from(csv), kind: 'premises' })
    expect((await batchOf(id)).reading).toMatchObject({ decimal: ',', monthFirst: false })
    await readAgain(t.ines, id, { decimal: '.' })
    expect((await batchOf(id)).reading).toMatchObject({ decimal: '.' })
    await broughtIn(t.ines, 'dach.csv', csv, { kind: 'premises' as never })
    expect(await t.app('premises').where({ name: 'Mill House' }).first('roof_area', 'lat', 'lon')).toEqual({
      roof_area: 1251,
      lat: 53.125,
      lon: -1.5,
    })
  })
})

describe('what hangs together is kept up', () => {
  const shared = async () =>
    (await t.app('address').where({ channel: 'phone', value: '+441134960555' }).orderBy('person_id').select('shared')).map((a) => a.shared)
  test('a number is the organisation’s no longer once the colleague who had it moved, merged or went', async () => {
    await people('S1,Fay Desk,,Desk School,,0113 496 0555\nS2,Gus Desk,,Desk School,,0113 496 0555')
    expect(await shared()).toEqual([true, true])
    await people('S2,Gus Desk,,Another School,,')
    expect(await shared()).toEqual([false, false])
    await people('S2,Gus Desk,,Desk School,,')
    expect(await shared()).toEqual([true, true])
    await mergePeople(t.ines, await idOf('S1'), await idOf('S2'))
    expect(
      (
        await t
          .app('address')
          .where({ channel: 'phone', value: '+441134960555', person_id: await idOf('S1') })
          .first('shared')
      ).shared,
    ).toBe(false)
  })

  test('an organisation of very many says how many there are', async () => {
    await people(Array.from({ length: 520 }, (_, i) => `M${i},Given${i} Crowd${i},,Crowd School,,`).join('\n'))
    const { id } = await t.app('organisation').where({ name: 'Crowd School' }).first('id')
    const page = await openOrganisation(t.ines, id)
    expect([page.people, page.staff.length]).toEqual([520, 500])
  })

  test('what the engine holds is never half of one moment and half of another', async () => {
    await people('H1,Hal Half,Bursar,Half School,hal@days.example,')
    const model = new ReadModel(t.app)
    await model.catchUp()
    const id = await idOf('H1')
    const { organisation_id } = await t.app('person').where({ id }).first('organisation_id')
    const seen = () => [
      model.directory.organisations.industry.get(model.directory.organisations.numberFor(organisation_id) as number),
      model.columns.role.get(model.columns.numberFor(id) as number),
    ]
    await t.app.transaction(async (trx) => {
      await trx('organisation').where({ id: organisation_id }).update({ industry: 'schools' })
      await trx('person').where({ id }).update({ role: 'Head' })
    })
    const lock = await t.owner.transaction()
    await lock.raw('lock table address in access exclusive mode')
    const catching = model.catchUp()
    for (let i = 0; i < 100; i++) {
      const { rows } = await t.owner.raw(
        `select 1 from pg_locks where relation = 'address'::regclass and not granted and database = (select oid from pg_database where datname = current_database())`,
      )
      if (rows.length > 0) break
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    expect(seen()).toEqual([null, 'Bursar'])
    await lock.commit()
    await catching
    expect(seen()).toEqual(['schools', 'Head'])
  })
})
