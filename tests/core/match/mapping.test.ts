import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { cleanCustom, CUSTOM_KINDS, type CustomField } from '@/core/clean/custom'
import { personRow } from '@/core/clean/person-row'
import { guessColumns } from '@/core/match/columns'
import { trialOf } from '@/core/match/how-mapped'
import { carriedOver, cut, shaped, shapedHeader, type Shaping, shapingLacks } from '@/core/match/shaping'

const NAME: Shaping = {
  made: [
    { is: 'part', of: 0, at: ',', part: 1, last: false },
    { is: 'part', of: 0, at: ',', part: 2, last: true },
    { is: 'joined', of: [1, 2], with: ' ' },
    { is: 'always', value: 'Open day' },
  ],
  words: { 3: [['ellery', 'Ellerey']], 5: [['4 MILL LANE', '4 Mill Lane']] },
}

describe('columns that are made', () => {
  test('a column is cut, columns are joined, one is the same in every row, and words are replaced', () => {
    expect(shapedHeader(['Who', 'No', ''], NAME)).toEqual([
      'Who',
      'No',
      '',
      'Who, part 1',
      'Who, the rest',
      'No + column 3',
      'always “Open day”',
    ])
    expect(shaped(['Ellery, Maud, Dr', '4', 'Mill Lane'], 3, NAME)).toEqual([
      'Ellery, Maud, Dr',
      '4',
      'Mill Lane',
      'Ellerey',
      'Maud,Dr',
      '4 Mill Lane',
      'Open day',
    ])
    expect(shaped(['Reed', '', ''], 3, NAME)).toEqual(['Reed', '', '', 'Reed', '', '', 'Open day'])
  })

  test('nothing is made of an empty row, and a short one counts as if its cells were empty', () => {
    expect(shaped(['', ' ', ''], 3, NAME)).toEqual(['', ' ', ''])
    expect(shaped(['A, B'], 3, NAME)).toHaveLength(7)
  })

  test('cutting loses nothing but the blanks around parts', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'b', ' ', ',', ';', 'é'), maxLength: 20 })
    fc.assert(
      fc.property(letters, fc.constantFrom(' ', ',', ';'), fc.integer({ min: 2, max: 5 }), (cell, at, parts) => {
        const made = Array.from({ length: parts }, (_, p) => ({ is: 'part' as const, of: 0, at, part: p + 1, last: p === parts - 1 }))
        const bare = (text: string) => text.replace(/[\s,;]/g, '')
        const row = shaped([cell, 'x'], 2, { made })
        expect(bare(row.slice(2).join(''))).toBe(bare(cell))
        expect(row.slice(0, 2)).toEqual([cell, 'x'])
      }),
    )
    expect(cut('  Maud   Ellery ', ' ')).toEqual(['Maud', 'Ellery'])
  })

  test.each<[string, Shaping, string | null]>([
    ['a column that is not there', { made: [{ is: 'part', of: 3, at: ',', part: 1, last: true }] }, 'a column is cut that cannot be'],
    ['one column joined', { made: [{ is: 'joined', of: [1], with: ' ' }] }, 'columns are joined that cannot be'],
    ['nothing in every row', { made: [{ is: 'always', value: ' ' }] }, 'what stands in every row is empty or too long'],
    ['words of no column', { words: { 9: [['a', 'b']] } }, 'words of a column are replaced that the file does not have'],
    ['a whole one', NAME, null],
  ])('%s is told', (_, shaping, lacks) => expect(shapingLacks(shaping, 3)).toBe(lacks))

  test('a mapping is carried over to the same titles in another order, and what is missing is told', () => {
    const from = {
      header: ['Who', 'No', 'Street', 'Mail'],
      mapping: [null, null, null, 'email', 'family', 'given', 'street', 'tags'],
      shaping: { ...NAME, words: { 3: [['a', 'b']], 7: [['Open day', 'Fair']] } as Shaping['words'] },
    }
    const over = carriedOver(from, ['MAIL', 'Extra', 'Who', 'Street'])
    expect(over.missing).toEqual(['No'])
    expect(over.mapping).toEqual(['email', null, null, null, 'family', 'given', 'tags'])
    expect(over.shaping.made).toEqual([
      { is: 'part', of: 2, at: ',', part: 1, last: false },
      { is: 'part', of: 2, at: ',', part: 2, last: true },
      { is: 'always', value: 'Open day' },
    ])
    expect(over.shaping.words).toEqual({ 0: [['a', 'b']], 6: [['Open day', 'Fair']] })
    expect(carriedOver(from, from.header)).toEqual({ mapping: from.mapping, shaping: from.shaping, missing: [] })
  })

  test('a trial of one way tells nothing of another', () => {
    const how = { kind: 'people' as const, mapping: ['name'] }
    const all = [
      trialOf(how, {}),
      trialOf(how, { byKeysAlone: true }),
      trialOf(how, { rules: { role: 'blanks' } }),
      trialOf({ ...how, shaping: NAME }, {}),
      trialOf({ ...how, mapping: ['family'] }, {}),
    ]
    expect(new Set(all).size).toBe(all.length)
    expect(trialOf({ ...how, shaping: {} }, { rules: {} })).toBe(all[0])
    // A database gives keys back in an order of its own.
    const stored: Shaping = JSON.parse(
      JSON.stringify({ words: NAME.words, made: NAME.made?.map((column) => Object.fromEntries(Object.entries(column).reverse())) }),
    )
    expect(trialOf({ ...how, shaping: stored }, {})).toBe(all[3])
  })
})

const field = (kind: CustomField['kind'], choices: string[] = []): CustomField => ({ id: 7, name: 'Beds', kind, choices })

describe('fields of our own', () => {
  test.each<[CustomField['kind'], string, string | null | undefined]>([
    ['text', '  green  roof ', 'green roof'],
    ['text', ' ', null],
    ['number', '1,234.50', '1234.5'],
    ['number', '1 234', '1234'],
    ['number', '-3,5', '-3.5'],
    ['number', '007', '7'],
    ['number', 'about 12', undefined],
    ['date', '3 March 2026', '2026-03-03'],
    ['date', '31/02/2026', undefined],
    ['choice', 'LARGE', 'Large'],
    ['choice', 'huge', undefined],
    ['yes or no', 'Y', 'yes'],
    ['yes or no', 'nein', 'no'],
    ['yes or no', '✓', 'yes'],
    ['yes or no', 'perhaps', undefined],
  ])('as %s, “%s” is kept as %s', (kind, raw, value) => expect(cleanCustom(field(kind, ['Small', 'Large']), raw)).toBe(value))

  test('cleaning a value twice changes nothing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CUSTOM_KINDS),
        fc.oneof(
          fc.string(),
          fc.integer().map(String),
          fc.double({ noNaN: true, min: -1e9, max: 1e9 }).map((n) => n.toFixed(3)),
          fc.constantFrom('yes', 'N', '1/2/2026', 'large'),
        ),
        (kind, raw) => {
          const once = cleanCustom(field(kind, ['Small', 'Large']), raw)
          if (once) expect(cleanCustom(field(kind, ['Small', 'Large']), once)).toBe(once)
        },
      ),
    )
  })

  test('a column is taken for a field by its title, and a value that cannot be is told and left out', () => {
    expect(guessColumns('people', ['Name', 'BEDS'], [], [field('number')])[1]).toEqual({ field: 'custom:7', by: 'title' })
    const row = (cell: string) => personRow(['Maud Ellery', cell], ['name', 'custom:7'], 'GB', [field('number')])
    expect(row('12')).toMatchObject({ custom: { 7: '12' }, notes: [] })
    expect(row('many')).toMatchObject({
      custom: {},
      notes: [{ field: 'Beds', raw: 'many', doubt: true, what: '“many” is no number of Beds and was left out' }],
    })
    expect(row('')).toMatchObject({ custom: {}, notes: [] })
  })
})

// Titles of columns as other programs write them (common practice, no source).
test.each([
  ['Job Title', 'role'],
  ['Occupation', 'role'],
  ['Company Name', 'organisation'],
  ['Account Name', 'organisation'],
  ['Company Size', 'headCount'],
  ['Number of Employees', 'headCount'],
  ['Company Domain', 'website'],
  ['Zipcode', 'postcode'],
  ['City', 'town'],
  ['Province', 'county'],
  ['Cell Phone', 'phone2'],
  ['Lifecycle Stage', 'relation'],
  ['Business Email', 'email'],
])('a column called %s holds %s', (title, field) => {
  expect(guessColumns('people', [title], [['']], [])[0]).toMatchObject({ field })
})
