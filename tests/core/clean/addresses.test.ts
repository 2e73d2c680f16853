import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { cleanPhone, isMobile } from '@/core/clean/phone'
import { cleanPostal, comparablePostal, comparableStreet, postalKey, secondPostalKey } from '@/core/clean/postal'
import { houseAndStreet, streetLine } from '@/core/clean/street'
import { place } from '@/core/criteria/place'

describe('a line of an address is taken apart in one place', () => {
  test.each([
    ['12 Mill Lane', null, 12, '12', 'Mill Lane'],
    ['12a Mill Lane', null, 12, '12a', 'Mill Lane'],
    ['12 b Mill Lane', null, 12, '12b', 'Mill Lane'],
    ['12B, Mill Lane', null, 12, '12b', 'Mill Lane'],
    ['No. 12 Mill Lane', null, 12, '12', 'Mill Lane'],
    ['12-14 Mill Lane', null, 12, '12-14', 'Mill Lane'],
    ['12 – 14 Mill Lane', null, 12, '12-14', 'Mill Lane'],
    ['Flat 2, 12 Mill Lane', 'flat 2', 12, '12', 'Mill Lane'],
    ['Flat 2 12 Mill Lane', 'flat 2', 12, '12', 'Mill Lane'],
    ['Apt. 2B, 12-14 Mill Lane', 'flat 2b', 12, '12-14', 'Mill Lane'],
    ['12 Mill Lane, Flat 2', 'flat 2', 12, '12', 'Mill Lane'],
    ['12 Mill Lane #2', 'flat 2', 12, '12', 'Mill Lane'],
    ['12 Mill Lane, 2nd floor', 'floor 2', 12, '12', 'Mill Lane'],
    ['Flat A, Alder House', 'flat a', null, '', 'Alder House'],
    ['1st Avenue', null, null, '', '1st Avenue'],
    ['12 A Street', null, 12, '12', 'A Street'],
    ['Mill Lane', null, null, '', 'Mill Lane'],
    ['7', null, null, '', '7'],
  ])('%s', (line, unit, house, number, street) => {
    expect(streetLine(line)).toEqual({ unit, house, number, street })
    expect(houseAndStreet(line)).toEqual({ house, street })
  })

  test.each([
    ['Flat 2, 4 Mill Lane', '4 Mill Ln, Apt 2'],
    ['12 b Mill Lane', '12B Mill Ln'],
    ['No. 12 St Mary’s Rd', '12 Saint Marys Road'],
    ['St Johns St', 'Saint John’s Street'],
    ['12-14 N Weir St', '12 – 14 North Weir Street'],
    ['P.O. Box 12', 'Post Office Box 12'],
  ])('%s and %s are one', (a, b) => expect(comparableStreet(a)).toBe(comparableStreet(b)))

  test.each([
    ['Flat 2, 4 Mill Lane', 'Flat 3, 4 Mill Lane'],
    ['12 Mill Lane', '14 Mill Lane'],
    ['12 Mill Lane', '12-14 Mill Lane'],
    ['4 Mill Lane', 'Flat 2, 4 Mill Lane'],
  ])('%s and %s are two', (a, b) => expect(comparableStreet(a)).not.toBe(comparableStreet(b)))

  test('a number is told where there is one, the street is of the line, and capitals and blanks are nothing', () => {
    const words = fc.constantFrom(
      '12',
      '12-14',
      '7',
      'b',
      'Flat',
      'Apt.',
      '2',
      '2B',
      'Mill',
      'Lane',
      'St',
      'Mary’s',
      'No.',
      '#',
      ',',
      'Quay',
      '1st',
      'floor',
      'Å',
      'Suite',
    )
    fc.assert(
      fc.property(fc.array(words, { maxLength: 8 }), (parts) => {
        const line = parts.join(' ')
        const { house, number, street } = streetLine(line)
        expect(number === '').toBe(house === null)
        if (house !== null) expect(number.startsWith(String(house))).toBe(true)
        expect(line.toLowerCase()).toContain(street.split(' ')[0].toLowerCase())
        expect(comparableStreet(`  ${line.toUpperCase()} `)).toBe(comparableStreet(line))
      }),
    )
  })

  test('the keys suppressions were made by from the beginning never change', () => {
    const postal = { street: 'Flat 2, 12 Saint Mary’s St', town: 'Þórshavn', postcode: null }
    expect([postalKey(postal), secondPostalKey(postal), comparablePostal(postal)]).toEqual([
      'flat 2 12 saint marys street|þorshavn',
      'flat 2 12 saint marys street|þorshavn',
      'flat 2 12 saint marys street|thorshavn',
    ])
    expect(
      [postalKey, secondPostalKey, comparablePostal].map((key) => key({ street: '12-14 St Johns Rd', town: null, postcode: 'PW1 2AB' })),
    ).toEqual(['12 14 street johns road|pw12ab', '12 14 street johns road|pw12ab', '12-14 saint johns road|pw12ab'])
  })
})

test.each([
  ['pw12ab', 'PW1 2AB'],
  ['114 55', '114 55'],
  ['d-10115', 'D-10115'],
  ['1071  dj', '1071 DJ'],
])('the postcode %s stands as %s', (raw, postcode) => expect(cleanPostal({ street: '1 Mill Lane', postcode: raw }).postcode).toBe(postcode))

describe('a part of a postcode', () => {
  const record = (postcode: string) => ({ town: null, postcode }) as never
  const verdict = (typed: string, postcode: string) =>
    place.verdict({ kind: 'place', towns: [], postcodes: [typed] }, record(postcode), {} as never)
  // Royal Mail, PAF: outward code (area and district), a blank, and the inward code (sector and unit). From memory.
  test.each([
    ['PW1', 'PW1 1AA', 'yes'],
    ['PW1', 'PW11 1AA', 'no'],
    ['PW1 1', 'PW1 1AA', 'yes'],
    ['PW1 1', 'PW11 2AA', 'no'],
    ['PW1 1', 'PW1 2AA', 'no'],
    ['PW11', 'PW11 2AA', 'yes'],
    ['PW11', 'PW1 1AA', 'no'],
    ['PW1 1AA', 'PW1 1AA', 'yes'],
    ['pw11aa', 'PW1 1AA', 'yes'],
    ['PW', 'PW11 2AA', 'yes'],
    ['114', '114 55', 'yes'],
    ['114 5', '114 55', 'yes'],
  ])('%s and %s: %s', (typed, postcode, said) => expect(verdict(typed, postcode)).toBe(said))
})

describe('phone numbers', () => {
  test.each([
    ['0000 000 0000', false],
    ['12345', false],
    ['٠١١٣ ٤٩٦ ٠١٢٣', true],
    ['０１１３ ４９６ ０１２３', true],
    ["'0113 496 0123", true],
    ['1', false],
    ['+44 (0)113 496 0123', true],
  ])('%s is usable: %s', (raw, usable) => expect(cleanPhone(raw, 'GB')?.usable ?? false).toBe(usable))
  test('digits of any script are one number', () => expect(cleanPhone('٠١١٣ ٤٩٦ ٠١٢٣', 'GB')?.normal).toBe('+441134960123'))
  test.each([
    ['+447700900123', true],
    ['+441134960123', false],
    ['+4915112345678', true],
  ])('%s is a mobile: %s', (number, mobile) => expect(isMobile(number)).toBe(mobile))
})
