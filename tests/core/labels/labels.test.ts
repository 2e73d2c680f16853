import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { addressBlock } from '@/core/labels/address-block'
import { fitLines, LEADING } from '@/core/labels/fit-lines'
import { labelAt, type LabelSheet, SHEETS, sheetTrouble } from '@/core/labels/sheet'

const a4 = SHEETS['a4-3x7'].sheet as LabelSheet

describe('sheets of labels', () => {
  // Dimensions of ../shared/STACK.md: US Letter 3 x 10 of 2 5/8 x 1 in, pitch 2 3/4 x 1 in, margins 3/16 and 1/2 in.
  test('a US Letter sheet: its last label ends as far from the right edge as its first begins from the left', () => {
    const { sheet } = SHEETS['letter-3x10']
    expect(labelAt(sheet, 0)).toEqual({ page: 0, x: (3 / 16) * 25.4, y: 12.7 })
    const last = labelAt(sheet, 29)
    expect(last.x + sheet.label.width).toBeCloseTo((8.5 - 3 / 16) * 25.4, 10)
    expect(last.y + sheet.label.height).toBeCloseTo((11 - 0.5) * 25.4, 10)
  })

  test('those that ship are in order', () => {
    for (const { sheet } of Object.values(SHEETS)) expect(sheetTrouble(sheet)).toBeNull()
  })

  test.each<[string, Partial<LabelSheet>, RegExp]>([
    ['labels that overlap side by side', { pitch: { across: 60, down: 38.1 } }, /side by side overlap/],
    ['labels that overlap one under the other', { pitch: { across: 66.04, down: 38 } }, /one under the other overlap/],
    ['a last column off the page', { columns: 4 }, /last column/],
    ['a last row off the page', { rows: 8 }, /last row/],
    ['a margin before the page', { margin: { left: -1, top: 0 } }, /leave the page/],
    ['no rows', { rows: 0 }, /one column and one row/],
    ['half a column', { columns: 2.5 }, /one column and one row/],
    ['a measure that is none', { label: { width: Number.NaN, height: 30 } }, /every measure/],
    ['labels too small for a letter', { label: { width: 63.5, height: 3 } }, /8 mm high/],
    ['a page for a wall', { page: { width: 21000, height: 297 } }, /2,000 mm/],
  ])('%s is refused with what is wrong', (_, wrong, says) => {
    expect(sheetTrouble({ ...a4, ...wrong })).toMatch(says)
  })

  test('labels go on from the place where they begin, sheet after sheet, none on another', () => {
    expect(labelAt(a4, 0, 21)).toMatchObject({ page: 0 })
    expect(labelAt(a4, 1, 21)).toEqual({ ...labelAt(a4, 0), page: 1 })
    expect(labelAt(a4, 0, 1, { across: 1.5, down: -2 })).toEqual({ page: 0, x: a4.margin.left + 1.5, y: a4.margin.top - 2 })
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 21 }), fc.integer({ min: 1, max: 90 }), (start, many) => {
        const places = Array.from({ length: many }, (_, n) => labelAt(a4, n, start))
        expect(new Set(places.map((p) => `${p.page} ${p.x.toFixed(2)} ${p.y.toFixed(2)}`)).size).toBe(many)
        for (const { x, y } of places) {
          expect(x + a4.label.width).toBeLessThanOrEqual(a4.page.width)
          expect(y + a4.label.height).toBeLessThanOrEqual(a4.page.height + 0.01)
        }
      }),
    )
  })
})

describe('lines on a label', () => {
  // Each letter half as wide as it is high.
  const width = (text: string) => [...text].length / 2
  const box = { width: 160, height: 100 }

  test('stand as they are where they fit, at the largest size', () => {
    expect(fitLines(['Ada Open', '12 Mill Lane'], box, width)).toEqual({ lines: ['Ada Open', '12 Mill Lane'], size: 11 })
  })

  test('a long name is broken between words before it is made smaller than it has to be', () => {
    const { lines, size } = fitLines(['Wilhelmina Featherstonehaugh-Cholmondeley of Low Wendle'], box, width)
    expect(lines.join(' ')).toBe('Wilhelmina Featherstonehaugh-Cholmondeley of Low Wendle')
    expect(size).toBeGreaterThanOrEqual(10)
  })

  test('nothing is cut: every letter of any lines is there, in the box', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ minLength: 1, maxLength: 120 }).filter((s) => s.trim() !== ''),
          { minLength: 1, maxLength: 6 },
        ),
        (given) => {
          const asked = given.map((line) => line.replace(/\s+/g, ' ').trim())
          const { lines, size } = fitLines(asked, box, width)
          expect(lines.join('').replace(/ /g, '')).toBe(asked.join('').replace(/ /g, ''))
          expect(lines.length * LEADING * size).toBeLessThanOrEqual(box.height + 1e-9)
          for (const line of lines) expect(width(line) * size).toBeLessThanOrEqual(box.width + 1e-9)
        },
      ),
    )
  })
})

describe('an address on an envelope', () => {
  const ada = { name: 'Ada Open', organisation: 'Hallow Clinic', street: '12 Mill Lane', town: 'Thornmouth', postcode: 'PW1 2AB' }
  // The order of the parts by country: UPU, Postal addressing systems, country sheets GBR, FRA and USA (from memory).
  test.each([
    ['GB', ['12 Mill Lane', 'Thornmouth', 'PW1 2AB']],
    ['FR', ['12 Mill Lane', 'PW1 2AB Thornmouth']],
    ['US', ['12 Mill Lane', 'Thornmouth PW1 2AB']],
  ])('stands in the order of %s', (country, lines) => {
    const block = addressBlock(ada, country)
    expect(block.slice(0, 2)).toEqual(['Ada Open', 'Hallow Clinic'])
    expect(block.slice(2).map((line) => line.replace(',', ''))).toEqual(lines)
  })

  test('without a street, or of somebody who is their organisation, nothing stands twice and nothing is lost', () => {
    expect(addressBlock({ ...ada, street: null }, 'GB')).toEqual(['Ada Open', 'Hallow Clinic', 'Thornmouth', 'PW1 2AB'])
    expect(addressBlock({ ...ada, organisation: 'Ada Open' }, 'GB')[1]).toBe('12 Mill Lane')
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), fc.string({ maxLength: 30 }), fc.string({ maxLength: 10 }), (street, town, postcode) => {
        const text = addressBlock({ ...ada, street, town, postcode }, 'GB').join('\n')
        for (const part of [street, town, postcode]) expect(text).toContain(part.trim())
      }),
    )
  })
})
