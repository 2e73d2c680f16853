import csvSpectrum from 'csv-spectrum'
import fc from 'fast-check'
import iconv from 'iconv-lite'
import { stringify } from 'csv-stringify/sync'
import { describe, expect, test } from 'vitest'
import { rowsOf } from '@/formats'
import { archiveOf, fileOf, readAll, sheetRow, workbook } from './files'

const refused = async (path: string | Promise<string>) =>
  readAll(await path).then(
    () => 'taken',
    (error: Error) => error.message,
  )

describe('CSV (RFC 4180)', () => {
  // The csv-spectrum package: a set of CSV files with the values they hold, after RFC 4180.
  test('csv-spectrum', async () => {
    const cases = await new Promise<{ name: string; csv: Buffer; json: Buffer }[]>((resolve, reject) =>
      csvSpectrum((error: Error | null, data: never) => (error ? reject(error) : resolve(data))),
    )
    expect(cases.length).toBeGreaterThan(10)
    for (const { name, csv, json } of cases) {
      // The package's own two files of this case hold different phone numbers.
      if (name === 'location_coordinates') continue
      const rows: string[][] = []
      for await (const row of rowsOf(await fileOf(csv), { format: 'csv', encoding: 'UTF-8', delimiter: ',', headerRow: 0 }, []))
        rows.push(row)
      const [header, ...body] = rows
      expect(
        body.map((row) => Object.fromEntries(row.map((cell, i) => [header[i], cell]))),
        name,
      ).toEqual(JSON.parse(json.toString()))
    }
  })

  test.each(['UTF-8', 'windows-1252', 'UTF-16LE', 'ISO-8859-1'])('in %s, split by anything', async (encoding) => {
    for (const delimiter of [',', ';', '\t', '|']) {
      const text = `Name${delimiter}Town\r\n${Array.from({ length: 12 }, (_, i) => `Zoë Übelacker${i}${delimiter}Köhlerfürth déjà`).join('\r\n')}\r\n`
      const { reading, all, header } = await readAll(await fileOf(iconv.encode(text, encoding, { addBOM: encoding.startsWith('UTF-16') })))
      expect(reading.delimiter).toBe(delimiter)
      expect(header).toEqual(['Name', 'Town'])
      expect(all[3]).toEqual(['Zoë Übelacker3', 'Köhlerfürth déjà'])
    }
  })

  test('any table that is written comes back', async () => {
    const cell = fc.string({ unit: 'grapheme', maxLength: 12 }).filter((text) => !/[\r\n\0\uFEFF]/.test(text))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(cell, cell, fc.constant('a@example.org')), { minLength: 1, maxLength: 8 }),
        fc.constantFrom(',', ';', '\t'),
        async (rows, delimiter) => {
          const path = await fileOf(stringify([['Name', 'Role', 'Email'], ...rows], { delimiter, quoted: true }))
          const read = await readAll(path, { encoding: 'UTF-8', delimiter })
          expect(read.all).toEqual(rows)
        },
      ),
      { numRuns: 60 },
    )
  })

  test('a title, a date and a blank row above the titles of the columns are left out', async () => {
    const { reading, header, all, rows } = await readAll(
      await fileOf('Open day visitors,,\nPrinted 3 May 2026,,\n,,\nName,Town,Email\nMaud Ellery,Thornmouth,m@example.org\n'),
    )
    expect(reading.headerRow).toBe(4)
    expect(header).toEqual(['Name', 'Town', 'Email'])
    expect(all).toEqual([['Maud Ellery', 'Thornmouth', 'm@example.org']])
    expect(rows).toBe(1)
  })
})

describe('workbooks (ISO/IEC 29500)', () => {
  const styles =
    '<numFmts count="2"><numFmt numFmtId="164" formatCode="00000"/><numFmt numFmtId="165" formatCode="dd/mm/yyyy"/></numFmts><fonts count="1"><font/></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="4"><xf numFmtId="0"/><xf numFmtId="164" applyNumberFormat="1"/><xf numFmtId="165" applyNumberFormat="1"/><xf numFmtId="9" applyNumberFormat="1"/></cellXfs>'

  test('the sheet and the row of titles are found, and can be chosen; hidden sheets are not offered', async () => {
    const path = await workbook([
      { name: 'Notes', rows: '' },
      {
        name: 'Visitors &amp; friends',
        rows:
          sheetRow(1, ['Open day visitors']) + sheetRow(3, ['Name', 'Town', 'Email']) + sheetRow(4, ['Maud Ellery', '', 'm@example.org']),
      },
      { name: 'Old', rows: sheetRow(1, ['Name', 'Town']) + sheetRow(2, ['Tam Quill', 'Kettlehythe']) },
      { name: 'Secret', state: 'hidden', rows: sheetRow(1, ['Name']) },
    ])
    const found = await readAll(path)
    expect(found.reading).toEqual({ format: 'xlsx', sheet: 'Visitors & friends', headerRow: 2 })
    expect(found.choices.sheets).toEqual(['Notes', 'Visitors & friends', 'Old'])
    expect([found.header, found.all]).toEqual([['Name', 'Town', 'Email'], [['Maud Ellery', '', 'm@example.org']]])
    const other = await readAll(path, { sheet: 'Old' })
    expect(other.all).toEqual([['Tam Quill', 'Kettlehythe']])
    expect((await readAll(path, { sheet: 'Old', headerRow: 0 })).all).toHaveLength(2)
    await expect(readAll(path, { sheet: 'Secret' })).rejects.toThrow(/no sheet “Secret”/)
    await expect(readAll(path, { sheet: 'Notes' })).rejects.toThrow(/holds no rows/)
  })

  test('numbers as they look, dates as ISO 8601, formulas by their result, errors and truth as words', async () => {
    // 46351 is 25 November 2026 in the 1900 date system: 46023 is 1 January 2026 (from memory), and 328 days on.
    const cells = [
      '<c r="A2" s="1"><v>451</v></c>',
      '<c r="B2" s="2"><v>46351</v></c>',
      '<c r="C2"><v>441134960123</v></c>',
      '<c r="D2" s="3"><v>0.4</v></c>',
      '<c r="E2"><f>A2*2</f><v>902</v></c>',
      '<c r="F2" t="b"><v>1</v></c>',
      '<c r="G2" t="e"><v>#N/A</v></c>',
      '<c r="H2" t="str"><f>"a"&amp;"b"</f><v>ab</v></c>',
      '<c r="I2" s="2"><v>46351.5</v></c>',
    ]
    const path = await workbook(
      [
        {
          name: 'S',
          rows: `${sheetRow(1, ['Code', 'Since', 'Phone', 'Share', 'Twice', 'Yes', 'None', 'Text', 'At'])}<row r="2">${cells.join('')}</row>`,
        },
      ],
      styles,
    )
    expect((await readAll(path)).all).toEqual([
      ['00451', '2026-11-25', '441134960123', '40%', '902', 'TRUE', '#N/A', 'ab', '2026-11-25 12:00'],
    ])
  })

  test('texts that cells share, in runs and with how they are pronounced; prefixed names; dates from 1904', async () => {
    const shared =
      '<si><t>Name</t></si><si><r><rPr><b/></rPr><t>Maud </t></r><r><t xml:space="preserve">Ellery &amp; sons</t></r></si><si><t>李</t><rPh sb="0" eb="1"><t>り</t></rPh></si>'
    const path = await workbook(
      [
        {
          name: 'S',
          rows: '<row><c t="s"><v>0</v></c></row><row><c t="s"><v>1</v></c></row><row><c t="s"><v>2</v></c></row><row><c t="d"><v>2026-11-25T00:00:00</v></c></row><row><c><v>0.30000000000000004</v></c></row>',
        },
      ],
      styles,
      shared,
    )
    expect((await readAll(path)).all).toEqual([['Maud Ellery & sons'], ['李'], ['2026-11-25'], ['0.3']])
    const xml = '<?xml version="1.0"?>'
    const old = await archiveOf({
      'xl/workbook.xml': `${xml}<x:workbook xmlns:x="a" xmlns:q="b"><x:workbookPr date1904="1"/><x:sheets><x:sheet name="One" q:id="z"/></x:sheets></x:workbook>`,
      'xl/_rels/workbook.xml.rels': `${xml}<Relationships><Relationship Id="z" Type="t/worksheet" Target="sheets/first.xml"/><Relationship Id="y" Type="t/styles" Target="styles.xml"/></Relationships>`,
      'xl/styles.xml': `${xml}<styleSheet><cellXfs><xf numFmtId="14"/></cellXfs></styleSheet>`,
      // 0 is 1 January 1904, 44889 so many days later (ISO/IEC 29500-1, 18.17.4.1).
      'xl/sheets/first.xml': `${xml}<x:worksheet xmlns:x="a"><x:sheetData><x:row r="1"><x:c r="A1" t="str"><x:v>Since</x:v></x:c></x:row><x:row r="2"><x:c r="A2"><x:v>44889</x:v></x:c></x:row></x:sheetData></x:worksheet>`,
    })
    expect((await readAll(old, { headerRow: 1 })).all).toEqual([[new Date(Date.UTC(1904, 0, 1 + 44889)).toISOString().slice(0, 10)]])
  })

  test('merged titles, and very many empty rows', async () => {
    const empty = Array.from({ length: 100_000 }, (_, i) => `<row r="${i + 4}"/>`).join('')
    const path = await workbook([
      {
        name: 'S',
        rows:
          sheetRow(1, ['Person', '', 'Where']) +
          sheetRow(2, ['Name', 'Role', 'Town']) +
          sheetRow(3, ['Maud Ellery', 'Bursar', 'Thornmouth']) +
          empty,
        after: '<mergeCells count="1"><mergeCell ref="A1:B1"/></mergeCells>',
      },
    ])
    const found = await readAll(path, { headerRow: 2 })
    expect([found.header, found.all, found.rows]).toEqual([['Name', 'Role', 'Town'], [['Maud Ellery', 'Bursar', 'Thornmouth']], 1])
  })

  test('what is broken is refused with a sentence', async () => {
    expect(await refused(workbook([{ name: 'S', rows: '' }]))).toMatch(/No sheet of the workbook holds a row/)
    expect(await refused(workbook([{ name: 'S', rows: sheetRow(1, ['Name']) }]))).toMatch(/titles and no rows/)
    expect(await refused(workbook([{ name: 'S', rows: '<row r="1"><c' }]))).toMatch(/cannot be read/)
    expect(await refused(archiveOf({ 'xl/workbook.xml': '<workbook>' }))).toMatch(/table of contents/)
  })
})

describe('JSON Lines', () => {
  test('what is nested is named by its path; every name of any line is a column', async () => {
    const lines = [
      { name: 'Maud Ellery', address: { town: 'Thornmouth' }, tags: ['large roof', 'b'] },
      { name: 'Tam Quill', phones: [{ number: '0113 496 0001' }, { number: '0113 496 0002' }], staff: 4, gone: null, yes: true },
    ]
    const { header, all, reading } = await readAll(await fileOf(lines.map((line) => JSON.stringify(line)).join('\n\n')))
    expect(reading.format).toBe('jsonl')
    expect(header).toEqual(['name', 'address.town', 'tags', 'phones.1.number', 'phones.2.number', 'staff', 'yes'])
    expect(all).toEqual([
      ['Maud Ellery', 'Thornmouth', 'large roof; b', '', '', '', ''],
      ['Tam Quill', '', '', '0113 496 0001', '0113 496 0002', '4', 'true'],
    ])
  })

  test('a line that is none is named', async () => {
    expect(await refused(fileOf('{"name":"a"}\n{"name":\n'))).toMatch(/^Line 2 is not JSON .* Nothing was stored/)
    expect(await refused(fileOf('{"name":"a"}\n[1]\n'))).toMatch(/^Line 2 is not an object/)
    expect(await refused(fileOf('[{"name":"a"}]'))).toMatch(/one JSON array/)
    let deep = '1'
    for (let i = 0; i < 5000; i++) deep = `{"a":${deep}}`
    expect(await refused(fileOf(deep))).toMatch(/^Line 1 is nested too deeply/)
    const { header, all } = await readAll(await fileOf('{"a":{"b":{"c":{"d":{"e":{"f":{"g":{"h":{"i":[{"j":1}]}}}}}}}}}'))
    expect([header, all]).toEqual([['a.b.c.d.e.f.g.h'], [['{"i":[{"j":1}]}']]])
  })
})

describe('vCards', () => {
  test('the examples of the standards', async () => {
    // RFC 6350, section 8 and RFC 2426, section 7, shortened, with names and addresses of our own (their form from memory).
    const four =
      'BEGIN:VCARD\r\nVERSION:4.0\r\nUID:urn:uuid:4fbe8971-0bc3-424c-9c26-36c3e1eff6b1\r\nFN:Dr Maud Ellery\r\nN:Ellery;Maud;Anne;Dr;MRICS\r\nORG:Sedge School;Estates\r\nTITLE:Head of Estates\r\nADR;TYPE=work:;Unit 2;12 Mill Lane;Thornmouth;Pellow;PW1 2AB;UK\r\nTEL;VALUE=uri;TYPE="work,voice";PREF=1:tel:+44-113-496-0123\r\nTEL;VALUE=uri;TYPE="cell":tel:+44-7700-900123\r\nEMAIL;PREF=2:second@example.org\r\nEMAIL;PREF=1:maud@example.org\r\nCATEGORIES:large roof,newsletter\r\nNOTE:two lines\\nof it\r\nEND:VCARD\r\n'
    const three = `BEGIN:VCARD\nVERSION:3.0\nFN:Tam Quill\nN:Quill;Tam;;;\nitem1.EMAIL;TYPE=INTERNET,PREF:tam@example.net\nTEL;TYPE=FAX:0113 496 0009\nTEL;TYPE=WORK:0113 496 0124\nPHOTO;ENCODING=b;TYPE=JPEG:${'QUJD'.repeat(20)}\n ${'QUJD'.repeat(20)}\n ${'QUJD'.repeat(400_000)}\nADR:;;4 Quay St;Kettlehythe;;PW2 1ZZ;\nROLE:Bur\n sar\nEND:VCARD\n`
    const { reading, header, all } = await readAll(await fileOf(four + three))
    expect(reading.format).toBe('vcard')
    const [maud, tam] = all.map((row) => Object.fromEntries(row.map((cell, i) => [header[i], cell])))
    expect(maud).toEqual({
      Id: 'urn:uuid:4fbe8971-0bc3-424c-9c26-36c3e1eff6b1',
      'Full name': 'Dr Maud Ellery',
      'First name': 'Maud Anne',
      'Last name': 'Ellery',
      'Job title': 'Head of Estates',
      Organisation: 'Sedge School',
      Email: 'maud@example.org',
      'Second email': 'second@example.org',
      Phone: '+44-113-496-0123',
      Mobile: '+44-7700-900123',
      Address: 'Unit 2, 12 Mill Lane',
      Town: 'Thornmouth',
      County: 'Pellow',
      Postcode: 'PW1 2AB',
      Country: 'UK',
      Tags: 'large roof; newsletter',
      Website: '',
      Note: 'two lines\nof it',
    })
    expect(tam).toMatchObject({
      'Full name': 'Tam Quill',
      Email: 'tam@example.net',
      Phone: '0113 496 0124',
      Mobile: '',
      Address: '4 Quay St',
      'Job title': 'Bursar',
      Postcode: 'PW2 1ZZ',
    })
  })

  test('cards that do not end, or begin, are named', async () => {
    expect(await refused(fileOf('BEGIN:VCARD\nVERSION:4.0\nFN:A\n'))).toMatch(/begins in line 1 never ends/)
    expect(await refused(fileOf('BEGIN:VCARD\nVERSION:4.0\nFN:A\nBEGIN:VCARD\n'))).toMatch(/line 1 does not end before/)
    expect(await refused(fileOf('BEGIN:VCARD\nVERSION:4.0\nFN:A\nEND:VCARD\nFN:B\n'))).toMatch(/Line 5 stands outside/)
  })
})

describe('archives', () => {
  test('the first file that can be read is; the others can be chosen', async () => {
    const path = await archiveOf({
      'read me.md': '#',
      '__MACOSX/a.csv': 'x',
      'b/people.csv': 'Name,Town\nMaud Ellery,Thornmouth\n',
      'c.vcf': 'BEGIN:VCARD\nVERSION:4.0\nFN:Tam Quill\nEND:VCARD\n',
    })
    const { reading, choices, all } = await readAll(path)
    expect([reading.entry, choices.entries, all]).toEqual(['b/people.csv', ['b/people.csv', 'c.vcf'], [['Maud Ellery', 'Thornmouth']]])
    expect((await readAll(path, { entry: 'c.vcf' })).all[0][1]).toBe('Tam Quill')
  })

  test('one that unpacks to very much, is broken, holds nothing, or another archive', async () => {
    expect(await refused(archiveOf({ 'a.csv': Buffer.alloc(200 * 1024 ** 2, 'a') }))).toMatch(
      /would unpack from 1 MB to more than 200 MB\. Nothing/,
    )
    expect(await refused(archiveOf({ 'a.md': 'x' }))).toMatch(/no file that rows could be read from/)
    expect(await refused(fileOf(Buffer.from('504b030414000600', 'hex')))).toMatch(/archive is broken/)
    const inner = await archiveOf({ 'a.csv': 'Name\nA B\n' })
    const { readFileSync } = await import('node:fs')
    expect(await refused(archiveOf({ 'inner.zip': readFileSync(inner) }))).toMatch(/an archive within the archive/)
  })
})
