import { describe, expect, test } from 'vitest'
import { cleanName } from '@/core/clean/name'
import { personRow } from '@/core/clean/person-row'
import { whoseName } from '@/core/clean/whose-name'
import { guessMapping } from '@/core/match/columns'

const row = (name: string, more: { organisation?: string; role?: string } = {}) =>
  personRow([name, more.organisation ?? '', more.role ?? ''], ['name', 'organisation', 'role'], 'GB')

describe('a row that names no one person is refused, not stored as one', () => {
  test.each([
    ['N/A', /nobody’s/],
    ['none', /nobody’s/],
    ['TBC', /nobody’s/],
    ['---', /nobody’s|missing/],
    ['Hallow Clinic Ltd', /is an organisation/],
    ['Sedge Brewery', /is an organisation/],
    ['Pike & Sons', /is an organisation/],
    ['Ada & Ben Marlow', /two people/],
    ['Ada Marlow and Ben Tovey', /two people/],
    ['Ada Marlow / Ben Tovey', /two people/],
    ['Ada Marlow; Ben Tovey', /two people/],
  ])('%s', (name, why) => expect(row(name)).toMatchObject({ refused: expect.stringMatching(why) }))
  test('an organisation that stands in both columns', () =>
    expect(row('Marle House', { organisation: 'MARLE HOUSE LTD' })).toMatchObject({
      refused: '“Marle House” is an organisation, not a person',
    }))
  test('two given names in a column of their own', () =>
    expect(personRow(['Ada & Ben', 'Marlow'], ['given', 'family'], 'GB')).toMatchObject({ refused: expect.stringMatching(/two people/) }))
  test.each([
    'Mr & Mrs Quill',
    'The Occupier',
    'Anna Church',
    'Grace Bank',
    'Ruth Sands',
    'Hugo Trust',
    'José Ortega y Gasset',
    'Ada-Marie O’Rourke',
    'Anders Sandberg',
    'Sandy Group',
  ])('%s is one', (name) => expect(row(name)).not.toHaveProperty('refused'))
})

describe('a role in the column of names', () => {
  test.each([
    ['Maud Ellery, Head of Estates', 'Maud Ellery', 'Head of Estates'],
    ['Maud Ellery - Bursar', 'Maud Ellery', 'Bursar'],
    ['Maud Ellery – Facilities Manager', 'Maud Ellery', 'Facilities Manager'],
    ['Maud Ellery (Caretaker)', 'Maud Ellery', 'Caretaker'],
  ])('%s', (name, who, role) => {
    const found = row(name)
    expect(found).toMatchObject({
      name: { name: who },
      role,
      notes: expect.arrayContaining([expect.objectContaining({ what: `“${role}” behind the name was taken as the role` })]),
    })
  })
  test('a role of its own column stays, and the other is told', () =>
    expect(row('Maud Ellery, Bursar', { role: 'Head of Finance' })).toMatchObject({
      role: 'Head of Finance',
      name: { name: 'Maud Ellery' },
      notes: expect.arrayContaining([expect.objectContaining({ what: expect.stringMatching(/left out: the row has a role/) })]),
    }))
  test.each(['Ellery, Maud', 'Smith, John, MBA', 'Jean-Luc Picard', 'Warden, Ruth', 'Quill Jr, Tam'])('%s holds none', (name) =>
    expect(whoseName({ full: name, given: '', family: '' }, '')).toMatchObject({ role: null }),
  )
})

test.each([
  ['Karin af Ugglas', 'Karin', 'af Ugglas'],
  ['Jan van ’t Hoff', 'Jan', 'van ’t Hoff'],
  ['José Ortega y Gasset', 'José', 'Ortega y Gasset'],
  ['Ludwig von und zu Moor', 'Ludwig', 'von und zu Moor'],
  ['Gianni dal Pozzo', 'Gianni', 'dal Pozzo'],
  ['Pieter op den Berg', 'Pieter', 'op den Berg'],
  ['Ben Smith', 'Ben', 'Smith'],
])('%s is %s and %s', (full, given, family) => expect(cleanName({ full })).toMatchObject({ given, family }))

test('a title beside a job title is no role, whichever stands first; alone it is one', () => {
  expect(guessMapping('people', ['Title', 'First name', 'Surname', 'Job title'], [['Mrs', 'Maud', 'Ellery', 'Bursar']])).toEqual([
    null,
    'given',
    'family',
    'role',
  ])
  expect(guessMapping('people', ['Name', 'Position', 'Title'], [['Maud Ellery', 'Bursar', 'Mrs']])).toEqual(['name', 'role', null])
  expect(guessMapping('people', ['Name', 'Title'], [['Maud Ellery', 'Bursar']])).toEqual(['name', 'role'])
})
