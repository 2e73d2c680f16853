import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { beforeAll, describe, expect, test } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { batchOf } from '@/usecases/intake/batch-for'
import { look, rowsOf } from '@/formats'
import { runBatch } from '@/usecases/intake/run-batch'
import { settleRow } from '@/usecases/intake/settle-row'
import { broughtIn, freshDatabase, mapped, type TestDatabase } from '../../support/database'
import { pinClock } from '@/runtime/clock'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { refusedCsv } from '@/usecases/intake/refused-csv'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

const HEAD = 'Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status\n'
const file = (name: string) => readFileSync(new URL(`../../../demo/files/${name}`, import.meta.url))
const counts = async (id: number) => (await batchAccount(t.ines, id)).counts
const everybody = async () => Number((await t.app('person').count('id as n').first())?.n)

describe('invariant 5: every row is accounted for', () => {
  test('two demo files a month apart, in other encodings and with other delimiters', async () => {
    const first = await broughtIn(t.ines, 'first.csv', file('pellow-prospects-first-month.csv'))
    const firstCounts = await counts(first)
    const rows = (await batchOf(first)).rows_total as number
    expect(rows).toBe(357)
    expect(Object.values(firstCounts).reduce((a, b) => a + b)).toBe(rows)
    expect(firstCounts.new).toBe(await everybody())
    pinClock(new Date('2026-07-15T09:00:00Z'))
    const second = await broughtIn(t.ines, 'second.csv', file('pellow-prospects-second-month.csv'))
    const secondCounts = await counts(second)
    expect(await batchOf(second)).toMatchObject({ reading: { format: 'csv', delimiter: ';', headerRow: 1 }, rows_total: 375 })
    expect(Object.values(secondCounts).reduce((a, b) => a + b)).toBe(375)
    expect(secondCounts.updated).toBeGreaterThan(20)
    expect(secondCounts.same).toBeGreaterThan(80)
    expect(await everybody()).toBe(firstCounts.new + secondCounts.new)
    // Nothing of the file is lost: the raw rows are those of the file.
    const raw = await t.app('batch_row').where({ batch_id: second }).orderBy('row_no').select('raw')
    const again: string[][] = []
    const path = fileURLToPath(new URL('../../../demo/files/pellow-prospects-second-month.csv', import.meta.url))
    const { reading, header } = await look(path)
    for await (const row of rowsOf(path, reading, header)) again.push(row)
    expect(raw.map((r) => r.raw)).toEqual(again)
    expect(raw.some((r) => r.raw.some((cell: string) => /[éëøö]/.test(cell)))).toBe(true)
  })

  test('87 of 276 are new, so 189 were there already (one team’s figures, no source)', async () => {
    const rows = (from: number, to: number) =>
      HEAD + Array.from({ length: to - from }, (_, i) => `K${from + i},Person ${'abcdefghij'[i % 10]}number${from + i},,,,,,,,\n`).join('')
    await broughtIn(t.ines, 'before.csv', rows(0, 189))
    expect(await counts(await broughtIn(t.ines, 'area.csv', rows(0, 276)))).toMatchObject({
      new: 87,
      same: 189,
      updated: 0,
      'in doubt': 0,
      refused: 0,
    })
  })

  test('refused rows come back in the file’s own columns with the reason', async () => {
    const id = await broughtIn(
      t.ines,
      'bad.csv',
      `${HEAD}Z1,,,,nobody@example.org,,,,,\nZ2,Ok Person,,,,,,,,\nZ3,"Comma, ""Quoted""",,,,,,,,VIP\n`,
    )
    expect(await counts(id)).toMatchObject({ new: 1, refused: 2 })
    const { name, bytes } = await refusedCsv(t.ines, id)
    expect(name).toBe('bad-refused.csv')
    expect(bytes.toString()).toBe(
      'Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status,Row,Reason\r\nZ1,,,,nobody@example.org,,,,,,1,the name is missing\r\nZ3,"Comma, ""Quoted""",,,,,,,,VIP,3,“VIP” is not a relation we know\r\n',
    )
  })
})

describe('matching', () => {
  test('a file brought in twice changes nothing; a changed cell is an update with the value before and after', async () => {
    const row = (role: string, email: string) =>
      `${HEAD}M1,Greta Solheim,${role},Hallow Clinic,${email},0113 496 0001,1 Mill Lane,Thornmouth,PW1 2AB,prospect\n`
    await broughtIn(t.ines, 'a.csv', row('Caretaker', 'greta@example.org'))
    expect(await counts(await broughtIn(t.ines, 'b.csv', row('Caretaker', 'greta@example.org')))).toMatchObject({ same: 1 })
    const id = await broughtIn(t.ines, 'c.csv', row('Estates Manager', 'g.solheim@example.org'))
    expect(await counts(id)).toMatchObject({ updated: 1 })
    const [{ person }] = (await batchRows(t.ines, id, { outcome: 'updated' })).rows
    const page = await openPerson(t.ines, person?.id as number)
    expect(page.ledger.map((e) => e.title)).toEqual(
      expect.arrayContaining([
        'Role: Caretaker → Estates Manager',
        'Email: greta@example.org → g.solheim@example.org',
        'Came into the directory',
      ]),
    )
    expect(page.addresses.filter((a) => a.channel === 'email').map((a) => a.value)).toEqual(['g.solheim@example.org', 'greta@example.org'])
  })

  test('empty cells change nothing', async () => {
    await broughtIn(
      t.ines,
      'a.csv',
      `${HEAD}M2,Bram Oduya,Bursar,Low Library,bram@example.org,,2 Weir Street,Low Wendle,PW2 1AA,customer\n`,
    )
    expect(await counts(await broughtIn(t.ines, 'b.csv', `${HEAD}M2,Bram Oduya,,,,,,,,\n`))).toMatchObject({ same: 1 })
  })

  test('a shared mailbox makes nobody the same person; two records by two keys are in doubt', async () => {
    expect(
      await counts(
        await broughtIn(
          t.ines,
          'a.csv',
          `${HEAD},Ann Ashby,,,desk@shared.example,,,,,\n,Ben Brook,,,desk@shared.example,,,,,\n,Ann Ashby,,Marsh End,,,,,,\n`,
          { byKeysAlone: true },
        ),
      ),
    ).toMatchObject({ new: 3 })
    const id = await broughtIn(t.ines, 'b.csv', `${HEAD},Ann Ashby,,Marsh End,desk@shared.example,,,,,\n`)
    expect(await counts(id)).toMatchObject({ 'in doubt': 1 })
    expect((await batchRows(t.ines, id, { outcome: 'in doubt' })).rows[0].candidates).toHaveLength(2)
  })

  test('a row in doubt is decided on: one of those it could be, or somebody new; once', async () => {
    await broughtIn(t.ines, 'a.csv', `${HEAD},Cato Reed,Bursar,,,0113 496 0555,,,,\n`)
    const id = await broughtIn(
      t.ines,
      'b.csv',
      `${HEAD},C. Reed,Estates lead,,c.reed@example.org,0113 496 0555,,,,\n,C. Reed,,,,0113 496 0555,,,,\n`,
    )
    expect(await counts(id)).toMatchObject({ 'in doubt': 2 })
    const [first, second] = (await batchRows(t.ines, id, { outcome: 'in doubt' })).rows
    const person = first.candidates[0].id
    await expect(settleRow(t.tam, id, first.row, { person })).rejects.toThrow(/coordinators and managers/)
    await expect(settleRow(t.ines, id, first.row, { person: 1 })).rejects.toThrow(/not among the possible matches/)
    await settleRow(t.marek, id, first.row, { person })
    await settleRow(t.marek, id, second.row, 'new')
    await expect(settleRow(t.ines, id, first.row, 'new')).rejects.toThrow(/not in doubt any more/)
    expect(await counts(id)).toEqual({ new: 1, same: 0, updated: 1, 'in doubt': 0, refused: 0 })
    const page = await openPerson(t.ines, person)
    expect(page.view).toMatchObject({ name: 'Cato Reed', role: 'Estates lead' })
    expect(page.ledger.find((e) => e.title.startsWith('Role'))?.by).toBe('Marek Dunn')
  })

  test('a row that stands twice in one file is one person', async () => {
    expect(
      await counts(
        await broughtIn(
          t.ines,
          'a.csv',
          `${HEAD},Twice Standing,,,twice@example.org,,,,,\n,twice standing,Bursar,,TWICE@example.org,,,,,\n`,
        ),
      ),
    ).toMatchObject({ new: 1, updated: 1 })
  })
})

describe('a run that is stopped', () => {
  test('goes on from where it was and doubles nothing, wherever it is stopped', async () => {
    const csv =
      HEAD + Array.from({ length: 1700 }, (_, i) => `S${i},Stop Number${i},Bursar,Org ${i % 50},s${i}@example.org,,,,,\n`).join('')
    const id = await mapped(t.ines, 'stopped.csv', csv)
    const before = await everybody()
    for (const at of [1, 2]) {
      let chunks = 0
      await expect(
        runBatch(id, () => {
          if (++chunks === at) throw new Error('killed')
        }),
      ).rejects.toThrow('killed')
    }
    expect((await batchOf(id)).state).toBe('running')
    await runBatch(id)
    await runBatch(id)
    expect(await counts(id)).toMatchObject({ new: 1700 })
    expect(await everybody()).toBe(before + 1700)
    expect((await t.app('entry').where({ batch_id: id, kind: 'created' }).count('id as n').first())?.n).toBe(1700)
    expect(await batchOf(id)).toMatchObject({ state: 'done', rows_done: 1700 })
  })

  test('two workers at the same batch at once double nothing', async () => {
    const csv = HEAD + Array.from({ length: 900 }, (_, i) => `T${i},Two Number${i},,,t${i}@example.org,,,,,\n`).join('')
    const id = await mapped(t.ines, 'two.csv', csv)
    const before = await everybody()
    await Promise.all([runBatch(id), runBatch(id)])
    expect(await everybody()).toBe(before + 900)
  })
})

describe('contacts and suppressions from a file', () => {
  test('contacts find their person, once', async () => {
    await broughtIn(t.ines, 'p.csv', `${HEAD}C1,Lucia Ferran,,,lucia@example.org,0113 496 0777,,,,\n`)
    const csv =
      'Email,Date,Channel,Result,Note\nlucia@example.org,01/06/2026,phone,spoke,"likes, tanks"\nnobody@example.org,01/06/2026,phone,spoke,\nlucia@example.org,01/06/2030,phone,,\n'
    const id = await broughtIn(t.ines, 'contacts.csv', csv)
    expect((await batchOf(id)).kind).toBe('contacts')
    expect(await counts(id)).toMatchObject({ new: 1, refused: 2 })
    expect(await counts(await broughtIn(t.ines, 'contacts.csv', csv))).toMatchObject({ new: 0, same: 1, refused: 2 })
  })

  test('suppressions stand whether or not anybody has the address', async () => {
    const id = await broughtIn(
      t.ines,
      'stop.csv',
      'Email,Reason,Until\nlucia@example.org,unsubscribed,\nlater@example.org,complaint,\nbroken@,,\n',
      { kind: 'suppressions' },
    )
    expect(await counts(id)).toMatchObject({ new: 2, refused: 1 })
    expect(
      await counts(await broughtIn(t.ines, 'stop.csv', 'Email,Reason\nlucia@example.org,opt-out\n', { kind: 'suppressions' })),
    ).toMatchObject({ same: 1 })
  })
})
