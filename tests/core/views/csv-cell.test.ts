import fc from 'fast-check'
import { expect, test } from 'vitest'
import { safeCell } from '@/core/views/csv-cell'

// OWASP, CSV Injection: the signs and the separators are those it names; the full-width ones come besides.
test.each([
  ['=1+1', "'=1+1"],
  ['@SUM(A1)', "'@SUM(A1)"],
  ['-cmd', "'-cmd"],
  ['\t=1', "'\t'=1"],
  ['\n=1', "'\n'=1"],
  [' =1', "' =1"],
  ['\u200B=1', "'\u200B=1"],
  ['＝1+1', "'＝1+1"],
  ['＠x', "'＠x"],
  ['low; =HYPERLINK("x")', 'low; \'=HYPERLINK("x")'],
  ['a\r\n+1-1', "a\r\n'+1-1"],
  ['a|=1', "a|'=1"],
])('%j becomes %j', (cell, safe) => expect(safeCell(cell)).toBe(safe))

test.each([
  '+44 113 496 0000',
  '+441134960000',
  '-12',
  '-0.125',
  '-0,125',
  '',
  'Estates lead',
  'a = b',
  'Smith-Jones',
  'x@example.org',
  '12; 13',
  'a,b',
])('%j stays as it is', (cell) => expect(safeCell(cell)).toBe(cell))

test('however it is cut at separators and lines, no part of any cell begins like a formula; and it is safe once and for all', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: fc.constantFrom('=', '+', '-', '@', '＝', ';', '\t', '\n', '\r', '|', ' ', '\u200B', 'a', '1', '.') }),
      (cell) => {
        const safe = safeCell(cell)
        if (/^[+-]?[\d .,]+$/.test(cell)) return
        for (const part of safe.split(/[;\t\r\n|]/)) expect(part.replace(/^[\s\u200B]+/, '')).not.toMatch(/^[=+\-@＝＋－＠]/)
        expect(safeCell(safe)).toBe(safe)
      },
    ),
  )
})
