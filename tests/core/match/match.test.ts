import { describe, expect, test } from 'vitest'
import { guessColumns, guessMapping, mappingLacks } from '@/core/match/columns'
import { type Candidate, match, type MatchKeys } from '@/core/match/same'
import { bestDelimiter, looksLikeHeader } from '@/core/match/table'

const row = (keys: Partial<MatchKeys>): MatchKeys => ({
  outsideId: null,
  emails: [],
  phones: [],
  name: 'joan|smith',
  family: 'smith',
  organisation: null,
  address: null,
  ...keys,
})
const known = (id: number, keys: Partial<Candidate>): Candidate => ({ ...row(keys), ...keys, id })

test.each([
  [
    'the outside id, whatever else',
    row({ outsideId: 'A1', name: 'joan|brown' }),
    [known(1, { outsideId: 'A1' })],
    { is: 'same', id: 1, by: 'outside id' },
  ],
  [
    'email and name',
    row({ emails: ['j@x.example'] }),
    [known(1, { emails: ['j@x.example'] })],
    { is: 'same', id: 1, by: 'email and name' },
  ],
  [
    'a shared email under another name',
    row({ emails: ['desk@x.example'] }),
    [known(1, { emails: ['desk@x.example'], name: 'ian|pike', family: 'pike' })],
    { is: 'new' },
  ],
  [
    'name and organisation',
    row({ organisation: 'hallow' }),
    [known(1, { organisation: 'hallow' })],
    { is: 'same', id: 1, by: 'name and organisation' },
  ],
  ['name and address', row({ address: 'a' }), [known(1, { address: 'a' })], { is: 'same', id: 1, by: 'name and address' }],
  ['a name alone', row({}), [known(1, {})], { is: 'new' }],
  ['nobody near', row({ phones: ['+44'] }), [], { is: 'new' }],
] as const)('%s', (_, r, candidates, is) => expect(match(r, [...candidates])).toEqual(is))

test('keys that point at different records are in doubt', () => {
  expect(
    match(row({ emails: ['j@x.example'], organisation: 'hallow' }), [
      known(1, { emails: ['j@x.example'] }),
      known(2, { organisation: 'hallow' }),
    ]),
  ).toMatchObject({ is: 'in doubt', ids: [1, 2] })
})

test('an initial on a shared phone is in doubt; another outside id on the same keys too', () => {
  expect(match(row({ name: null, phones: ['+441'] }), [known(3, { phones: ['+441'] })])).toMatchObject({ is: 'in doubt', ids: [3] })
  expect(match(row({ outsideId: 'B', emails: ['j@x.example'] }), [known(4, { outsideId: 'A', emails: ['j@x.example'] })])).toMatchObject({
    is: 'in doubt',
    ids: [4],
  })
})

test('columns are guessed from headings in any case, and from cells where a heading says nothing', () => {
  expect(
    guessMapping(
      'people',
      ['Contact ID', 'FIRST NAME', 'Surname', 'Job Title', 'Col5', 'Whatever'],
      [['1', 'A', 'B', 'C', 'a@x.example', '0113 496 0123']],
    ),
  ).toEqual(['outsideId', 'given', 'family', 'role', 'email', 'phone'])
  expect(guessMapping('people', ['Email', 'Email'], [])).toEqual(['email', null])
})

test('a mapping that cannot be used says why', () => {
  expect(mappingLacks('people', ['phone'])).toMatch(/which column holds the name/)
  expect(mappingLacks('people', ['name', 'email', 'email'])).toMatch(/two columns/)
  expect(mappingLacks('contacts', ['email', 'channel'])).toMatch(/date/)
  expect(mappingLacks('suppressions', ['phone'])).toBeNull()
})

test('a header is told from data, a delimiter from a comma in a cell', () => {
  expect(looksLikeHeader(['Name', 'Email'], ['A', 'a@x.example'])).toBe(true)
  expect(looksLikeHeader(['Maud Ellery', 'a@x.example'], ['B', 'b@x.example'])).toBe(false)
  expect(
    bestDelimiter([
      { delimiter: ',', widths: [1, 2, 1] },
      { delimiter: ';', widths: [4, 4, 4] },
    ]),
  ).toBe(';')
  expect(
    bestDelimiter([
      { delimiter: ',', widths: [1, 1] },
      { delimiter: ';', widths: [1, 1] },
    ]),
  ).toBe(',')
})

describe('what a column holds', () => {
  const by = (kind: 'people' | 'contacts' | 'suppressions', header: string[], ...rows: string[][]) =>
    guessColumns(kind, header, rows).map((guess) => guess && `${guess.field}, ${guess.by}`)
  test('by its title, nearly by it, or by what stands in it; each field once', () => {
    expect(
      by(
        'people',
        ['Name', 'Organistion', 'A', 'B', 'C', 'D', 'E', 'Remarks'],
        ['Maud Ellery', 'Sedge School', 'm@example.org', '0113 496 0123', 'PW1 2AB', '12 Mill Lane', 'Estates Manager', 'soft-spoken'],
        ['Tam Quill', '', '', '', 'pw12ab', '4a Quay St', 'Caretaker', ''],
      ),
    ).toEqual([
      'name, title',
      'organisation, nearly its title',
      'email, values',
      'phone, values',
      'postcode, values',
      'street, values',
      'role, values',
      null,
    ])
    expect(by('people', ['Email', 'Other'], ['a@example.org', 'b@example.org'])).toEqual(['email, title', null])
    expect(
      by('contacts', ['Who', 'When it was', 'Way'], ['a@example.org', '01/06/2026', 'call'], ['b@example.org', '2026-06-02', 'visit']),
    ).toEqual(['email, values', 'date, values', 'channel, values'])
    expect(by('suppressions', ['x', 'y'], ['@sedge.example', '2026-06-02'])).toEqual(['domain, values', 'since, values'])
  })
  test('short titles are not taken for others that are one letter off', () =>
    expect(by('people', ['town', 'tow', 'mane'])).toEqual(['town, title', null, null]))
  test('a few cells that look like something do not make a column of it', () =>
    expect(by('people', ['X'], ['m@example.org'], ['nobody'], ['none'])).toEqual([null]))
})
