import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import iconv from 'iconv-lite'
import { describe, expect, test } from 'vitest'
import { encodingOf } from '@/formats/encoding'
import { lookOutside, rowsOutside } from '@/formats/outside'
import { Texts } from '@/formats/sheet'
import { sweepFolders } from '@/runtime/temp-folder'
import { fileOf, readAll, sheetRow, workbook } from './files'

/** Rows are kept as they came: every digit, every letter, or a sentence that says where not. */

const refused = async (path: string | Promise<string>) =>
  readAll(await path).then(
    () => 'taken',
    (error: Error) => error.message,
  )

describe('numbers keep every digit', () => {
  test('of JSON Lines: two ids of twenty digits stay two', async () => {
    const { all } = await readAll(
      await fileOf(
        '{"id":12345678901234567890,"share":1.10,"far":1e400}\n{"id":12345678901234567891,"share":0.30000000000000000004,"list":[1.0,2]}\n',
      ),
    )
    expect(all).toEqual([
      ['12345678901234567890', '1.10', '1e400', ''],
      ['12345678901234567891', '0.30000000000000000004', '', '1.0; 2'],
    ])
  })
  test('of GeoJSON, positions among them', async () => {
    const feature = (id: string, at: string) =>
      `{"type":"Feature","id":${id},"geometry":{"type":"Point","coordinates":[${at}]},"properties":{"meter":98765432109876543210}}`
    const { header, all } = await readAll(
      await fileOf(
        `{"type":"FeatureCollection","features":[${feature('12345678901234567890', '-1.50000000000000000001,53.10')},${feature('12345678901234567891', '-1.5,53')}]}`,
      ),
    )
    expect(header).toEqual(['Feature id', 'Geometry', 'Longitude', 'Latitude', 'meter'])
    expect(all).toEqual([
      ['12345678901234567890', 'Point', '-1.50000000000000000001', '53.10', '98765432109876543210'],
      ['12345678901234567891', 'Point', '-1.5', '53', '98765432109876543210'],
    ])
  })
  test('any number that JSON can write comes out as it was written', async () => {
    // RFC 8259, section 6: the grammar of a number.
    const digits = fc.stringMatching(/^(0|[1-9]\d{0,24})(\.\d{1,20})?([eE][+-]?\d{1,3})?$/)
    await fc.assert(
      fc.asyncProperty(fc.tuple(fc.boolean(), digits), async ([minus, text]) => {
        const number = `${minus ? '-' : ''}${text}`
        expect((await readAll(await fileOf(`{"n":${number}}\n`))).all).toEqual([[number]])
      }),
      { numRuns: 60 },
    )
  })
})

describe('the encoding is judged by the whole file', () => {
  const late = (tail: string) => `Name,Town\n${'Maud Ellery,Thornmouth\n'.repeat(60_000)}${tail}\n`
  test('a first accent behind the first mebibyte, in UTF-8 and in an encoding of one byte', async () => {
    const text = late('Zoë Übelacker,Köhlerfürth')
    expect(Buffer.byteLength(text)).toBeGreaterThan(1024 * 1024)
    for (const encoding of ['UTF-8', 'windows-1252'])
      expect((await readAll(await fileOf(iconv.encode(text, encoding)))).all.at(-1)).toEqual(['Zoë Übelacker', 'Köhlerfürth'])
  })
  test('UTF-16 without a mark, and one broken byte in very much UTF-8', async () => {
    expect((await readAll(await fileOf(iconv.encode('Name,Town\nZoë Ash,Kettlehythe\n', 'UTF-16LE', { addBOM: false })))).all).toEqual([
      ['Zoë Ash', 'Kettlehythe'],
    ])
    const mixed = Buffer.concat([Buffer.from(`Name,Town\n${'Zoë Ash,Köln\n'.repeat(100)}`), Buffer.from([0x5a, 0xeb, 0x0a])])
    expect(await encodingOf(await fileOf(mixed))).toBe('UTF-8')
  })
  test('UTF-8 is known as such, wherever its letters lie across the pieces it is read in', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.string({ unit: 'grapheme', minLength: 1, maxLength: 40 }).filter((s) => !/[\0\uFFFD]/.test(s)),
        async (s) => {
          expect(await encodingOf(await fileOf(`a${s}`))).toBe('UTF-8')
        },
      ),
      { numRuns: 80 },
    )
  })
})

describe('what no text can hold is refused with its row and column, in every format, at any row', () => {
  const many = (line: string, n = 3000) => `${line}\n`.repeat(n)
  test('a zero character', async () => {
    expect(await refused(fileOf(`Name,Town\n${many('Maud Ellery,Thornmouth')}Tam\0,Low Wendle\n`))).toMatch(
      /^Row 3,001, column 1 \(Name\): there is a zero character. Mend that row .* Nothing was stored/,
    )
    expect(await refused(fileOf(`${many('{"name":"Maud"}')}{"name":"Tam","town":"Low\\u0000"}\n`))).toMatch(
      /^Row 3,001, column 2 \(town\): there is a zero character/,
    )
    expect(
      await refused(
        fileOf('{"type":"FeatureCollection","features":[{"type":"Feature","geometry":null,"properties":{"a":"x","b":"\\u0000"}}]}'),
      ),
    ).toMatch(/^Row 1, column 2 \(b\): there is a zero character/)
  })
  test('half of a letter', async () => {
    expect(await refused(fileOf(`${many('{"name":"Maud"}', 10)}{"name":"\\ud83d"}\n`))).toMatch(
      /^Row 11, column 1 \(name\): there is half of a letter/,
    )
    expect((await readAll(await fileOf('{"name":"\\ud83d\\ude00"}\n'))).all).toEqual([['😀']])
  })
  test('a cell of very many letters', async () => {
    const long = 'x'.repeat(100_001)
    expect(await refused(fileOf(`Name,Note\nMaud,short\nTam,${long}\n`))).toMatch(
      /^Row 2, column 2 \(Note\): there is a cell of 100,001 characters; at most 100,000/,
    )
    expect(await refused(fileOf(`{"name":"${long}"}\n`))).toMatch(/^Row 1, column 1 \(name\)/)
    expect(await refused(fileOf(`BEGIN:VCARD\nVERSION:4.0\nFN:${long}\nEND:VCARD\n`))).toMatch(/^Row 1, column 2 \(Full name\)/)
    expect(await refused(workbook([{ name: 'S', rows: sheetRow(1, ['Name', 'Note']) + sheetRow(2, ['Maud', long]) }]))).toMatch(
      /^Row 2, column 2: there is a cell of 100,001/,
    )
  })
  test('nesting that goes on for ever', async () => {
    const deep = `${'{"a":'.repeat(30_000)}1${'}'.repeat(30_000)}`
    expect(await refused(fileOf(`{"name":"a"}\n${deep}\n`))).toMatch(/^Line 2 is nested too deeply/)
    expect(
      await refused(fileOf(`{"type":"FeatureCollection","features":[{"type":"Feature","geometry":null,"properties":${deep}}]}`)),
    ).toMatch(/nested too deeply|goes wrong after feature/)
  })
})

describe('texts that cells of a workbook share', () => {
  test('come back as they went in, however long and of whatever script', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme', maxLength: 30 })), (texts) => {
        const kept = new Texts()
        for (const text of texts) kept.push(text)
        expect(texts.map((_, i) => kept.at(i))).toEqual(texts.map((text) => Buffer.from(text).toString()))
        expect([kept.length, kept.at(texts.length)]).toEqual([texts.length, undefined])
      }),
    )
    const kept = new Texts()
    const long = ['a', 'b'.repeat(900_000), 'c'.repeat(900_000), 'd'.repeat(3_000_000), '', 'e']
    for (const text of long) kept.push(text)
    expect(long.map((_, i) => kept.at(i))).toEqual(long)
  })
})

describe('files are read in a process of their own', () => {
  test('which says what is there, gives the rows, and knows neither secrets nor the database', async () => {
    const path = await fileOf('Name,Town\nMaud Ellery,Thornmouth\n"Tam\nQuill",Low Wendle\n')
    const shape = await lookOutside(path)
    const rows: string[][] = []
    for await (const row of rowsOutside(path, shape.reading, shape.header)) rows.push(row)
    expect([shape.header, rows]).toEqual([
      ['Name', 'Town'],
      [
        ['Maud Ellery', 'Thornmouth'],
        ['Tam\nQuill', 'Low Wendle'],
      ],
    ])
    expect(existsSync(`${path}.rows`)).toBe(false)
    await expect(lookOutside(await fileOf(''))).rejects.toThrow(/The file is empty/)
    const [pid] = readers()
    const environment = spawnSync('cat', [`/proc/${pid}/environ`], { encoding: 'utf8' }).stdout
    expect(environment).toContain('PATH=')
    expect(environment).not.toMatch(/SECRET|DATABASE_URL|PASSWORD/)
  }, 30_000)

  test('one that comes to its end is told of as a sentence, and the next file is read by another; many at once take turns', async () => {
    const big = await fileOf(`Name,Town\n${'Maud Ellery,Thornmouth\n'.repeat(600_000)}`)
    const reading = lookOutside(big).then(
      () => 'taken',
      (error: Error) => error.message,
    )
    await new Promise((resolve) => setTimeout(resolve, 150))
    for (const pid of readers()) process.kill(pid, 'SIGKILL')
    expect(await reading).toMatch(/needs more memory .* Nothing was stored/)
    const small = await fileOf('Name\nMaud Ellery\n')
    const all = await Promise.all(Array.from({ length: 7 }, () => lookOutside(small)))
    expect(all.map((shape) => shape.rows)).toEqual(Array(7).fill(1))
    expect(readers().length).toBeLessThanOrEqual(2)
  }, 60_000)

  const readers = (): number[] =>
    spawnSync('pgrep', ['-P', String(process.pid), '-f', 'formats/reader.ts'], { encoding: 'utf8' })
      .stdout.trim()
      .split('\n')
      .filter(Boolean)
      .map(Number)
})

test('what a process that is gone left behind is swept; what one that runs is working with is not', async () => {
  const folder = (pid: number | string, minutes: number) => {
    const path = mkdtempSync(join(tmpdir(), `arch-file-${pid}-`))
    writeFileSync(join(path, 'file'), 'x')
    const at = new Date(Date.now() - minutes * 60_000)
    utimesSync(path, at, at)
    return path
  }
  const gone = spawnSync('true').pid
  const [dead, young, alive, old] = [folder(gone, 10), folder(gone, 1), folder(process.pid, 10), folder(process.pid, 60 * 25)]
  await sweepFolders()
  expect([dead, young, alive, old].map((path) => existsSync(path))).toEqual([false, true, true, false])
})
