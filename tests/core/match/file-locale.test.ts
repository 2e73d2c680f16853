import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { isDay, localDate, startOfDate, wallTime } from '@/core/calendar/local-day'
import { tagsMoved } from '@/core/views/tags-moved'
import { cellsToClean, guessLocale, inOneLocale } from '@/core/match/file-locale'

const USUAL = { decimal: '.', monthFirst: false } as const
const COMMA = { decimal: ',', monthFirst: false } as const

describe('how a file writes numbers and dates is guessed from its rows', () => {
  test.each<[string, string[][], string | undefined, object]>([
    [
      'decimals behind a comma',
      [
        ['Maud', '0,125'],
        ['Tam', '12,5'],
      ],
      ';',
      COMMA,
    ],
    ['thousands behind a point', [['1.234,50']], undefined, COMMA],
    ['decimals behind a point', [['0.125'], ['1,234.5']], ',', USUAL],
    ['three digits behind a comma tell nothing', [['1,234']], ',', USUAL],
    ['the month first', [['11/27/2026'], ['3/4/2026']], ',', { decimal: '.', monthFirst: true }],
    ['the day first', [['27/11/2026'], ['3/4/2026']], ',', USUAL],
    ['no rows', [], ',', USUAL],
    ['semicolons alone', [['Maud', 'x']], ';', COMMA],
  ])('%s', (_, rows, delimiter, locale) => expect(guessLocale(rows, delimiter, USUAL)).toEqual(locale))
})

describe('cells are read by it', () => {
  test.each([
    ['0,125', '0.125'],
    ['1.234,5', '1234.5'],
    ['1 234,5', '1234.5'],
    ['12', '12'],
    ['-3,25', '-3.25'],
    ['1.234', '1234'],
    ['120,5 m²', '120.5 m²'],
    ['n/a', 'n/a'],
    ['', ''],
  ])('%s is %s', (cell, read) => expect(inOneLocale([cell], ['roofArea'], COMMA)).toEqual([read]))
  test.each([
    ['11/27/2026', '2026-11-27'],
    ['3/4/2026', '2026-03-04'],
    ['3/4/2026 14:05', '2026-03-04 14:05'],
    ['2026-03-04', '2026-03-04'],
    ['soon', 'soon'],
  ])('%s is %s', (cell, read) => expect(inOneLocale([cell], ['date'], { decimal: '.', monthFirst: true })).toEqual([read]))
  test('only fields that hold numbers or dates are touched, the team’s own among them', () => {
    const batch = {
      header: ['Name', 'Share', 'Since', 'Note'],
      shaping: {},
      mapping: ['name', 'custom:1', 'custom:2', null],
      reading: { format: 'csv' as const, headerRow: 1, decimal: ',' as const, monthFirst: true },
    }
    const customs = [
      { id: 1, name: 'Share', kind: 'number' as const, choices: [] },
      { id: 2, name: 'Since', kind: 'date' as const, choices: [] },
    ]
    expect(cellsToClean(batch, ['1,5', '1,5', '11/27/2026', '1,5'], customs)).toEqual(['1,5', '1.5', '2026-11-27', '1,5'])
  })
  test('a number that is written in a locale is the number that was meant', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -9_999_999, max: 9_999_999, noNaN: true }).map((n) => Math.round(n * 100) / 100),
        (n) => {
          const written = new Intl.NumberFormat('de-DE', { minimumFractionDigits: 2, maximumFractionDigits: 2 }).format(n)
          expect(Number(inOneLocale([written], ['latitude'], COMMA)[0])).toBeCloseTo(n, 2)
        },
      ),
    )
  })
})

describe('times on the wall', () => {
  // tz database, Europe/London 2026: forward on 29 March at 01:00 UTC, back on 25 October at 01:00 UTC.
  test.each([
    ['2026-03-29', '12:00', '2026-03-29T11:00:00.000Z'],
    ['2026-03-28', '12:00', '2026-03-28T12:00:00.000Z'],
    ['2026-10-25', '12:00', '2026-10-25T12:00:00.000Z'],
    ['2026-10-25', '00:30', '2026-10-24T23:30:00.000Z'],
    ['2026-10-24', '23:59', '2026-10-24T22:59:00.000Z'],
    ['2026-03-29', '01:30', '2026-03-29T01:30:00.000Z'],
  ])('%s at %s in London is %s', (date, time, at) => expect(new Date(wallTime(date, time, 'Europe/London')).toISOString()).toBe(at))
  test('any time of any day lies on that day, and midnight is its beginning', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2020-01-01'), max: new Date('2035-12-31'), noInvalidDate: true }),
        fc.integer({ min: 0, max: 23 }),
        fc.integer({ min: 0, max: 59 }),
        fc.constantFrom('Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu'),
        (day, hour, minute, zone) => {
          const date = day.toISOString().slice(0, 10)
          const two = (n: number) => String(n).padStart(2, '0')
          expect(localDate(wallTime(date, `${two(hour)}:${two(minute)}`, zone), zone)).toBe(date)
          expect(wallTime(date, '00:00', zone)).toBe(startOfDate(date, zone))
        },
      ),
    )
  })
  test.each([
    ['2026-02-29', false],
    ['2024-02-29', true],
    ['2026-13-01', false],
    ['2026-1-1', false],
    ['', false],
    ['2026-12-31', true],
  ])('%s is a day: %s', (text, is) => expect(isDay(text)).toBe(is))
})

test.each([
  [null, 'a', 'Tagged a'],
  ['a, b', 'b', 'No longer tagged a'],
  ['a', 'b, c', 'Tagged b, c; no longer a'],
  ['a', 'a', 'Tags unchanged'],
  ['a', null, 'No longer tagged a'],
])('tags from %s to %s: %s', (before, after, said) => expect(tagsMoved(before, after)).toBe(said))
