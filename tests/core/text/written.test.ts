import fc from 'fast-check'
import { afterEach, describe, expect, test } from 'vitest'
import { phoneText } from '@/core/clean/phone'
import { fieldText, numberText } from '@/core/text/field-text'
import { inKept, inUnit, quantityText, UNITS, type Quantity, unitsOf } from '@/core/text/units'
import {
  countText,
  dateText,
  dayText,
  moneySign,
  moneyText,
  priceText,
  shareText,
  shortDayText,
  timeText,
  writeFor,
} from '@/core/text/written'

const BRITISH = { locale: 'en-GB', currency: 'GBP', zone: 'Europe/London' }
afterEach(() => writeFor(BRITISH))

/** Some locales set thousands apart by a blank that does not break. */
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, ' ')

describe('as a British team writes', () => {
  test.each([
    [countText(1_234_567), '1,234,567'],
    [countText(-12.5), '-12.5'],
    [moneyText(1240), '£1,240'],
    [moneyText(0.04), '£0.04'],
    [moneyText(1240, 'EUR'), '€1,240'],
    [priceText(125, 'GBP'), '£1.25'],
    [priceText(200, 'GBP'), '£2.00'],
    [moneySign(), '£'],
    [shareText(0.125), '12.5 %'],
    [shareText(1), '100 %'],
    [dateText('2026-11-21'), '21 Nov 2026'],
    [dateText('2026-02-29x'), '2026-02-29x'],
    [numberText(1994, 'year'), '1994'],
    [numberText(1200, 'm²'), '1,200 m²'],
    [numberText(-3, '%'), '-3 %'],
    [fieldText({ kind: 'number', unit: 'money' }, '250000'), '£250,000'],
    [fieldText({ kind: 'number' }, 'many'), 'many'],
    [fieldText({ kind: 'date' }, '2026-03-01'), '1 Mar 2026'],
    [fieldText({ kind: 'text' }, '2026-03-01'), '2026-03-01'],
    [fieldText(undefined, '12'), '12'],
  ])('%s', (text, expected) => expect(text).toBe(expected))
})

test('a German team’s figures, money and dates are written as in Germany', () => {
  writeFor({ locale: 'de-DE', currency: 'EUR', zone: 'Europe/Berlin' })
  expect([countText(1_234_567), moneyText(1240), dateText('2026-11-21'), moneySign()].map(plain)).toEqual([
    '1.234.567',
    '1.240 €',
    '21. Nov. 2026',
    '€',
  ])
})

describe('days and times are those of the team’s zone', () => {
  const late = new Date('2026-06-20T23:30:00Z')
  test('on either side of midnight', () => {
    expect([dayText(late), timeText(late)]).toEqual(['21 Jun 2026', '00:30'])
    writeFor({ ...BRITISH, zone: 'America/New_York' })
    expect([dayText(late), timeText(late)]).toEqual(['20 Jun 2026', '19:30'])
  })
  test('the year is left out where it is this one, in that zone', () => {
    expect(shortDayText(late, new Date('2026-12-31T23:00:00Z'))).toBe('21 Jun')
    expect(shortDayText(late, new Date('2027-01-01T03:00:00Z'))).toBe('21 Jun 2026')
    writeFor({ ...BRITISH, zone: 'America/New_York' })
    expect(shortDayText(late, new Date('2027-01-01T03:00:00Z'))).toBe('20 Jun')
  })
})

describe('phone numbers', () => {
  // Ofcom keeps 0121 496 0000 to 0999 and 07700 900000 to 900999 for drama; Fraunhofer’s own number stands in libphonenumber’s examples (from memory).
  test.each([
    ['+441214960374', 'GB', '0121 496 0374'],
    ['+447700900123', 'GB', '07700 900123'],
    ['+441214960374', 'DE', '+44 121 496 0374'],
    ['+4930123456', 'GB', '+49 30 123456'],
    ['+4930123456', 'DE', '030 123456'],
    ['ring the bell', 'GB', 'ring the bell'],
    ['', 'GB', ''],
  ])('%s for %s: %s', (number, region, text) => expect(phoneText(number, region)).toBe(text))
})

describe('units', () => {
  // Source: NIST Handbook 44, Appendix C, General tables of units of measurement: each of these is exact there.
  test.each([
    ['m', 'ft', 1, 0.3048],
    ['m', 'miles', 1, 1609.344],
    ['m²', 'sq ft', 1, 0.09290304],
    ['m²', 'acres', 1, 4046.8564224],
    ['m²', 'hectares', 1, 10_000],
    ['months', 'years', 1.5, 18],
  ] as const)('in %s, %s %d are %d', (quantity, unit, told, kept) => expect(inKept(quantity, unit, told)).toBeCloseTo(kept, 9))

  test('what was told comes back as it was told, in every unit', () => {
    const quantity = fc.constantFrom<Quantity>('m', 'm²')
    fc.assert(
      fc.property(
        quantity.chain((q) => fc.tuple(fc.constant(q), fc.constantFrom(...unitsOf(q)))),
        fc.integer({ min: 1, max: 10_000_000 }),
        ([q, unit], hundredths) => {
          const told = hundredths / 100
          expect(inUnit(q, unit, inKept(q, unit, told))).toBe(told)
        },
      ),
    )
  })

  test('a quantity reads in the unit it was told in, and in the one it is kept in where none was', () => {
    expect(quantityText('m²', inKept('m²', 'acres', 2), 'acres')).toBe('2 acres')
    expect(quantityText('m', 1500)).toBe('1,500 m')
    expect(quantityText('m', 1500, 'km')).toBe('1.5 km')
    expect(Object.keys(UNITS)).toEqual(['m', 'm²', 'months'])
  })
})
