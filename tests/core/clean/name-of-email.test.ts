import { describe, expect, test } from 'vitest'
import { nameOfEmail } from '@/core/clean/name-of-email'
import { personRow } from '@/core/clean/person-row'
import { guessMapping, mappingLacks } from '@/core/match/columns'

describe('the name an email address tells', () => {
  test.each([
    ['ann.able@north.example', 'Ann', 'Able'],
    ['Ann_Able@north.example', 'Ann', 'Able'],
    ['able-ann@north.example', 'Ann', 'Able'],
    ['thomas.james@north.example', 'Thomas', 'James'],
  ])('%s is %s %s', (email, given, family) => {
    expect(nameOfEmail(email)).toEqual({ given, family })
  })

  test.each([
    'info@north.example',
    'head.office@north.example',
    'a.able@north.example',
    'annable@north.example',
    'ann.able2@north.example',
    'ann.b.able@north.example',
    'ann.able',
    '',
    '@north.example',
    'roof.repairs@north.example',
  ])('%s tells none', (email) => {
    expect(nameOfEmail(email)).toBeNull()
  })
})

describe('a file that has nothing but email addresses', () => {
  const mapping = guessMapping('people', ['Email'], [['ann.able@north.example'], ['info@north.example']])

  test('can come in', () => {
    expect(mapping).toEqual(['email'])
    expect(mappingLacks('people', mapping)).toBeNull()
    // A column that nobody said anything of could hold the names.
    expect(mappingLacks('people', ['email', null])).toMatch(/which column holds the name/)
  })
  test('with the names its addresses tell, each of which is told as a doubt', () => {
    const row = personRow(['ann.able@north.example'], mapping, 'GB')
    expect(row).toMatchObject({ name: { given: 'Ann', family: 'Able', name: 'Ann Able' } })
    expect('notes' in row && row.notes).toContainEqual(
      expect.objectContaining({ field: 'name', what: 'name taken from the email address', doubt: true }),
    )
  })
  test('and those that tell none are refused with what to do', () => {
    expect(personRow(['info@north.example'], mapping, 'GB')).toEqual({
      refused: 'no name in the row, and none in the email address; fill the gaps of the file first',
    })
  })
  test('where there is a column for names, a blank in it stays a missing name', () => {
    expect(personRow(['', 'ann.able@north.example'], ['name', 'email'], 'GB')).toEqual({ refused: 'the name is missing' })
  })
})

test('what a source finds comes with titles that are known, every one that holds something of a person', () => {
  const titles = [
    'Record number',
    'Name',
    'Role',
    'Organisation',
    'Organisation type',
    'Employees',
    'Email',
    'Phone',
    'Street',
    'Town',
    'Postcode',
  ]
  const mapping = guessMapping('people', titles, [])
  expect(mapping).toEqual([
    'record',
    'name',
    'role',
    'organisation',
    'industry',
    'headCount',
    'email',
    'phone',
    'street',
    'town',
    'postcode',
  ])
  expect(mappingLacks('people', mapping)).toBeNull()
  expect(
    guessMapping(
      'premises',
      [
        'Premises',
        'Kind of premises',
        'Street',
        'Town',
        'Postcode',
        'Latitude',
        'Longitude',
        'Roof area',
        'Year built',
        'Owner',
        'Kind of owner',
      ],
      [],
    ),
  ).toEqual(['name', 'kind', 'street', 'town', 'postcode', 'latitude', 'longitude', 'roofArea', 'yearBuilt', 'owner', 'ownerKind'])
})
