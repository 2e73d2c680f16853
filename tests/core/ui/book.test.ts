import { afterEach, describe, expect, test, vi } from 'vitest'
import { writeFor } from '@/core/text/written'
import { count, day } from '@/ui/book/figures'
import { timeText } from '@/ui/book/time-left'
import { roundStones } from '@/ui/rounds/round-stones'

const setZone = (zone: string) => writeFor({ locale: 'en-GB', currency: 'GBP', zone })
afterEach(() => {
  vi.useRealTimers()
  setZone('UTC')
})

describe('figures', () => {
  test('thousands are set apart; no answer yet is a dash, and nothing is nothing', () => {
    expect(count(1_234_567)).toBe('1,234,567')
    expect(count(0)).toBe('0')
    expect(count(null)).toBe('–')
    expect(count(undefined)).toBe('–')
  })
})

describe('days', () => {
  test('the year is said where it is not this one', () => {
    vi.useFakeTimers({ now: new Date('2026-11-27T12:00:00Z') })
    expect(day('2026-11-21T09:00:00Z')).toBe('21 Nov')
    expect(day('2025-11-21T09:00:00Z')).toBe('21 Nov 2025')
  })
  test('a day is that of the team’s zone, on either side of midnight', () => {
    vi.useFakeTimers({ now: new Date('2026-06-27T12:00:00Z') })
    setZone('Europe/London')
    expect(day('2026-06-20T23:30:00Z')).toBe('21 Jun')
    setZone('America/New_York')
    expect(day('2026-06-21T02:30:00Z')).toBe('20 Jun')
  })
  test('at the turn of the year the year is that of the zone, too', () => {
    vi.useFakeTimers({ now: new Date('2027-01-01T03:00:00Z') })
    setZone('America/New_York')
    expect(day('2026-12-31T12:00:00Z')).toBe('31 Dec')
    setZone('UTC')
    expect(day('2026-12-31T12:00:00Z')).toBe('31 Dec 2026')
  })
})

test.each([
  [0, '5 seconds'],
  [4, '5 seconds'],
  [11, '15 seconds'],
  [59, '60 seconds'],
  [60, 'a minute'],
  [61, '2 minutes'],
  [3599, '60 minutes'],
])('%d seconds are said as %s', (seconds, text) => expect(timeText(seconds)).toBe(text))

describe('the stones of a round', () => {
  const of = (state: Parameters<typeof roundStones>[0]) => roundStones(state).map((s) => s.state)
  test('the check is in hand once a sample is drawn, and set once it passed or ended', () => {
    const check = (passed: boolean, ended: boolean, state: Parameters<typeof roundStones>[0] = 'being built') =>
      roundStones(state, {}, { passed, ended })[2].state
    expect([check(false, false), check(true, false), check(false, true)]).toEqual(['now', 'done', 'done'])
    // What went out unchecked stays so.
    expect(check(false, false, 'released')).toBe('to come')
  })
  test('are set one after the other, the release by itself', () => {
    expect(of(null)).toEqual(['now', 'to come', 'to come', 'to come', 'to come', 'to come', 'to come'])
    expect(of('being built')).toEqual(['done', 'now', 'to come', 'to come', 'to come', 'to come', 'to come'])
    expect(of('released')).toEqual(['done', 'done', 'to come', 'done', 'now', 'now', 'now'])
    // Nobody is left to contact: its results still come in.
    expect(roundStones('released', {}, null, false)[4].state).toBe('done')
    expect(of('closed')).toEqual(['done', 'done', 'to come', 'done', 'done', 'done', 'done'])
  })
  test('there are seven, and those that can be opened have an address', () => {
    const stones = roundStones('being built', { requalify: '/lists/1/requalify', screen: '/rounds/1' })
    expect(stones).toHaveLength(7)
    expect(stones.filter((s) => s.href).map((s) => s.title)).toEqual(['Requalify', 'Screen'])
  })
})
