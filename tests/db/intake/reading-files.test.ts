import { existsSync, readFileSync } from 'node:fs'
import { mkdtemp, rm, utimes } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, test } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { sweepFolders } from '@/runtime/temp-folder'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { tryBatch } from '@/usecases/intake/try-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { sheetRow, workbook } from '../../formats/files'
import { withFileOf } from '@/db/intake/batch-file'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { readAgain } from '@/usecases/intake/read-again'
import { runTrial } from '@/usecases/intake/run-trial'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

const HEAD = 'Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status\n'
const counts = async (id: number) => (await batchAccount(t.ines, id)).counts

describe('reading files', () => {
  test('what is no table is refused with a sentence', async () => {
    await expect(receiveFile(t.ines, { name: 'empty.csv', bytes: Buffer.alloc(0) })).rejects.toThrow(/empty/)
    await expect(receiveFile(t.ines, { name: 'x.csv', bytes: Buffer.from([0x50, 0x4b, 0, 0, 0, 1, 2]) })).rejects.toThrow(/not text/)
  })

  test('the very same file is told at once, and comes in again only when asked to', async () => {
    const csv = 'Name,Email\nOnce Only,once@example.org\n'
    const first = await broughtIn(t.ines, 'visitors.csv', csv, { kind: 'people' })
    const second = await receiveFile(t.ines, { name: 'visitors (1).csv', bytes: Buffer.from(csv), kind: 'people' })
    expect((await batchAccount(t.ines, second)).twin).toMatchObject({ id: first, name: 'visitors.csv' })
    const start = (options: { again?: true }) => startBatch(t.ines, second, { kind: 'people', mapping: ['name', 'email'] }, options)
    await expect(start({})).rejects.toThrow(
      'This file was imported before, as visitors.csv. Confirm that you want to import it again, or leave it.',
    )
    await start({ again: true })
    await runBatch(second)
    expect(await counts(second)).toMatchObject({ same: 1 })
    // One that was undone is no twin.
    const third = await receiveFile(t.ines, { name: 'visitors (2).csv', bytes: Buffer.from(csv), kind: 'people' })
    await t.owner('batch').whereIn('id', [first, second]).update({ state: 'undone' })
    expect((await batchAccount(t.ines, third)).twin).toBeNull()
  })

  test('where a known record says otherwise the file wins, or only fills what is blank, field by field', async () => {
    await broughtIn(t.ines, 'ours.csv', `${HEAD}RULE1,Rula Field,Bursar,Sedge School,,,4 Mill Lane,Thornmouth,PW1 2AB,\n`, {
      kind: 'people',
    })
    const csv = `${HEAD}RULE1,Rula Stone,Head of Estates,Hallow Clinic,rula@example.org,,9 Quay Street,Kettlehythe,PW4 1AA,customer\n`
    const id = await broughtIn(t.ines, 'theirs.csv', csv, {
      kind: 'people',
      rules: { role: 'blanks', organisation: 'blanks', address: 'blanks', relation: 'blanks' },
    })
    expect(await counts(id)).toMatchObject({ updated: 1 })
    const { rows } = await batchRows(t.ines, id, { outcome: 'updated' })
    expect(rows[0].reason).toBe('family name, relation, email · known by outside id · kept as it was: role, organisation, address')
    expect(await t.app('person').where({ outside_id: 'RULE1' }).first('family', 'role', 'relation', 'town')).toEqual({
      family: 'Stone',
      role: 'Bursar',
      relation: 'customer',
      town: 'Thornmouth',
    })
    const waits = await receiveFile(t.ines, { name: 'more.csv', bytes: Buffer.from(`${HEAD}RULE9,A B,,,,,,,,\n`), kind: 'people' })
    await expect(startBatch(t.ines, waits, await batchOf(waits), { rules: { email: 'never' } as never })).rejects.toThrow(
      'There is no rule never for email.',
    )
  })

  test('a trial tells what would become of every row, and leaves nothing behind', async () => {
    await broughtIn(
      t.ines,
      'known.csv',
      `${HEAD}TRIAL1,Tess Trial,Bursar,,tess@example.org,,,,,prospect\nTRIAL2,Tom Trial,Bursar,,,,,,,prospect\n`,
      { kind: 'people' },
    )
    await broughtIn(t.ines, 'register-of-trial.csv', 'Phone\n0113 496 0881\n', {
      kind: 'suppressions',
      register: { name: 'A register', version: '2026-06-01' },
    })
    await broughtIn(t.ines, 'stop-of-trial.csv', 'Email,Reason\nnever@example.org,opt-out\n', { kind: 'suppressions' })
    const csv = `${HEAD}TRIAL1,Tess Trial,Head of Estates,,tess@example.org,,,Thornmouth,,customer\nTRIAL2,Tom Trial,Bursar,,,,,,,prospect\nTRIAL3,New Trial,,,,0113 496 0881,,,,\nTRIAL4,Other Trial,,,never@example.org,,,,,\nTRIAL5,,,,,,,,,\nTRIAL6,Vip Trial,,,,,,,,VIP\n`
    const id = await receiveFile(t.ines, { name: 'trial.csv', bytes: Buffer.from(csv), kind: 'people' })
    const tables = async () =>
      JSON.stringify(
        await Promise.all(
          ['person', 'address', 'entry', 'entry_value', 'organisation', 'batch_row', 'change_log'].map(
            async (table) => (await t.owner(table).count('* as n'))[0].n,
          ),
        ),
      )
    const before = await tables()
    const { kind, mapping } = await batchOf(id)
    await tryBatch(t.ines, id, { kind, mapping })
    await runTrial(id)
    expect(await tables()).toBe(before)
    const { trial } = await batchOf(id)
    expect(trial).toMatchObject({
      state: 'done',
      rows: 6,
      all: true,
      counts: { new: 2, same: 1, updated: 1, 'in doubt': 0, refused: 2 },
      register: 1,
      suppressed: 1,
    })
    expect(trial?.fields).toMatchObject({ role: 1, relation: 1, town: 1 })
    await expect(tryBatch(t.tam, id, { kind, mapping })).rejects.toThrow(/coordinators and managers/)
    // The real thing comes out as the trial said.
    await startBatch(t.ines, id, { kind, mapping }, {})
    await runBatch(id)
    expect(await counts(id)).toEqual(trial?.counts)
    await expect(tryBatch(t.ines, id, { kind, mapping })).rejects.toThrow(/already being brought in/)
  })

  test('a workbook comes in by the sheet that is chosen, byte for byte kept', async () => {
    const path = await workbook([
      { name: 'This year', rows: sheetRow(1, ['Name', 'Email']) + sheetRow(2, ['New Year', 'ny@example.org']) },
      {
        name: 'Last year',
        rows:
          sheetRow(1, ['Visitors of the open day']) +
          sheetRow(2, ['Name', 'Job title']) +
          sheetRow(3, ['Old Year', 'Bursar']) +
          sheetRow(4, ['', '']),
      },
    ])
    const bytes = readFileSync(path)
    const id = await receiveFile(t.ines, { name: 'visitors.xlsx', bytes, kind: 'people' })
    expect(await batchOf(id)).toMatchObject({
      reading: { format: 'xlsx', sheet: 'This year', headerRow: 1 },
      choices: { sheets: ['This year', 'Last year'] },
      mapping: ['name', 'email'],
    })
    await readAgain(t.ines, id, { sheet: 'Last year' })
    const batch = await batchOf(id)
    expect(batch).toMatchObject({
      reading: { sheet: 'Last year', headerRow: 2 },
      mapping: ['name', 'role'],
      first_rows: [['Old Year', 'Bursar']],
    })
    await startBatch(t.ines, id, { kind: 'people', mapping: batch.mapping }, {})
    await runBatch(id)
    expect(await counts(id)).toMatchObject({ new: 1 })
    const { id: person } = await t.app('person').where({ batch_id: id }).first('id')
    expect((await openPerson(t.ines, person)).came).toEqual([
      {
        batch: id,
        file: 'visitors.xlsx',
        at: expect.any(String),
        row: 1,
        cells: [
          { title: 'Name', cell: 'Old Year' },
          { title: 'Job title', cell: 'Bursar' },
        ],
      },
    ])
    await expect(readAgain(t.ines, id, { sheet: 'This year' })).rejects.toThrow(/already being brought in/)
    expect(await withFileOf(id, async (kept) => readFileSync(kept).equals(bytes))).toBe(true)
  })

  test('a file larger than a part is kept in parts and comes back whole; one that is too large is refused as it comes', async () => {
    const rows = Array.from({ length: 60_000 }, (_, i) => `Person ${i},${'x'.repeat(80)}@example.org`)
    const bytes = Buffer.from(`Name,Email\n${rows.join('\n')}\n`)
    const id = await receiveFile(t.ines, { name: 'long.csv', bytes, kind: 'people' })
    expect(await t.app('batch_file_part').where({ batch_id: id })).toHaveLength(2)
    expect(await withFileOf(id, async (kept) => readFileSync(kept).equals(bytes))).toBe(true)
    async function* endless() {
      for (;;) yield Buffer.alloc(8 * 1024 ** 2, 'a')
    }
    await expect(receiveFile(t.ines, { name: 'endless.csv', bytes: endless() })).rejects.toThrow(/larger than 500 MB/)
  })

  test('what a killed process left in the folder of the moment is taken away after a day, and nothing else', async () => {
    const made = await Promise.all(['arch-file-', 'arch-book-', 'arch-entry-', 'other-'].map((prefix) => mkdtemp(join(tmpdir(), prefix))))
    const fresh = await mkdtemp(join(tmpdir(), 'arch-file-'))
    const old = new Date(Date.now() - 2 * 86_400_000)
    for (const path of made) await utimes(path, old, old)
    expect(await sweepFolders()).toBeGreaterThanOrEqual(3)
    expect([...made, fresh].map((path) => existsSync(path))).toEqual([false, false, false, true, true])
    await rm(made[3], { recursive: true })
    await rm(fresh, { recursive: true })
  })

  test('the mapping is remembered for the next file with that header', async () => {
    const csv = 'Who,Where it lands\nA Person,a@example.org\n'
    const id = await receiveFile(t.ines, { name: 'odd.csv', bytes: Buffer.from(csv), kind: 'people' })
    expect((await previewBatch(t.ines, id)).lacks).toMatch(/name/)
    await startBatch(t.ines, id, { kind: 'people', mapping: ['name', 'email'] }, {})
    const next = await receiveFile(t.ines, { name: 'odd-2.csv', bytes: Buffer.from(csv), kind: 'people' })
    expect((await batchOf(next)).mapping).toEqual(['name', 'email'])
  })

  test('a caller may not bring in files', async () => {
    await expect(receiveFile(t.tam, { name: 'x.csv', bytes: Buffer.from('Name\nX Y\n') })).rejects.toThrow(/coordinators and managers/)
  })
})

describe('files that are none, or only nearly', () => {
  const refused = async (bytes: Buffer | string, name = 'bad.csv') =>
    receiveFile(t.ines, { name, bytes: Buffer.from(bytes as string), kind: 'people' }).then(
      () => 'taken',
      (error: Error) => error.message,
    )
  test.each([
    ['', /no bytes at all/],
    ['\n\n  \n', /nothing in it but blanks/],
    ['Name,Email\n', /a header and no rows/],
    [Buffer.from('504b030414000600', 'hex'), /The archive is broken/],
    [Buffer.from('89504e470d0a1a0a', 'hex'), /a picture, not text/],
    [Buffer.from('4e616d650a4d61756400000041', 'hex'), /zero bytes/],
    [
      'Name,Email\nMaud,a@example.org\n"Joss,b@example.org\nAnn,c@example.org\n',
      /Row 2, column 1 \(Name\): a quote opens there and never closes.*Nothing was stored/,
    ],
    [`Name,Email\nMaud,a@example.org\nJoss,"${'x'.repeat(1_200_000)}"\n`, /Row 2.*longer than 1,000,000 characters/],
    [`${Array.from({ length: 600 }, (_, i) => `C${i}`).join(',')}\n`, /600 columns; at most 500/],
  ])('%#', async (bytes, said) => expect(await refused(bytes)).toMatch(said))

  test('nothing was stored of any of them', async () =>
    expect(
      Number((await t.app('batch').where({ file_name: 'bad.csv', rows_total: null, state: 'mapping' }).count('id as n').first())?.n),
    ).toBe(0))

  test('one column, 200 columns, and a header in the middle', async () => {
    expect(await counts(await broughtIn(t.ines, 'one.csv', 'Name\nOne Column\nTwo Column\n', { kind: 'people' }))).toMatchObject({ new: 2 })
    const wide = Array.from({ length: 199 }, (_, i) => `Extra ${i}`)
    expect(
      await counts(
        await broughtIn(t.ines, 'wide.csv', `Name,${wide.join(',')}\nWide Person,${wide.map(() => 'x').join(',')}\n`, { kind: 'people' }),
      ),
    ).toMatchObject({ new: 1 })
    const id = await broughtIn(t.ines, 'twice.csv', 'Name,Email\nFirst Half,h1@example.org\nName,Email\nSecond Half,h2@example.org\n', {
      kind: 'people',
    })
    expect(await counts(id)).toMatchObject({ new: 2, refused: 1 })
    expect((await batchRows(t.ines, id, { outcome: 'refused' })).rows[0]).toMatchObject({ row: 2, reason: 'this row is the header again' })
  })

  test('letters of every script, marks that turn text round, lone halves of characters, and a byte of another encoding', async () => {
    const id = await broughtIn(t.ines, 'scripts.csv', 'Name,Role,Organisation\n‮מאוד אלרי,𝓔states 🏫 lead,学校 北\nLone \uD83C Half,x,y\n', {
      kind: 'people',
    })
    expect((await counts(id)).new).toBeGreaterThanOrEqual(1)
    const { name, role } = await t.app('person').where({ batch_id: id }).orderBy('id').first('name', 'role')
    expect([name, role]).toEqual(['מאוד אלרי', '𝓔states 🏫 lead'])
    const mixed = Buffer.concat([
      Buffer.from(`Name,Town\n${Array.from({ length: 40 }, (_, i) => `Zoë Number${i},Thornmouth`).join('\n')}\nAnn Mixed,K`),
      Buffer.from([0xe9]),
      Buffer.from('ttlehythe\n'),
    ])
    const broken = await broughtIn(t.ines, 'mixed.csv', mixed, { kind: 'people' })
    const account = await counts(broken)
    expect(Object.values(account).reduce((a, b) => a + b)).toBe(41)
    if (account.refused === 1)
      expect((await batchRows(t.ines, broken, { outcome: 'refused' })).rows[0].reason).toMatch(
        /Town holds a character that could not be read/,
      )
    else expect(await batchOf(broken)).not.toMatchObject({ reading: { encoding: 'UTF-8' } })
  })
})
