import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { changesAccount, type Standing } from '@/core/changes/account'
import { ASKS } from '@/core/changes/asks'
import { freshnessOf } from '@/core/changes/freshness'
import { happeningsOf, type Told } from '@/core/changes/happenings'
import { openerText, openerTrouble, provedWhen } from '@/core/changes/opener'
import { datePlusDays } from '@/core/calendar/local-day'

describe('what happened', () => {
  const told = (entry: number, day: string, same: string[], stated = false): Told => ({ entry, day, same, stated, source: `s${entry}` })

  test('two reports are of one thing only by a key they share, directly or through others', () => {
    const found = happeningsOf([
      told(1, '2026-05-01', ['id 7']),
      told(2, '2026-05-01', ['link x']),
      told(3, '2026-05-01', ['id 9', 'link y']),
      told(4, '2026-05-02', ['id 7', 'link y']),
    ])
    expect(found.map((one) => one.reports)).toEqual([[1, 3, 4], [2]])
    expect(found[0]).toMatchObject({ by: '2026-05-01', after: null, sources: 3, sure: 'likely' })
  })

  test('a stated day proves the day; two stated days do not agree', () => {
    expect(happeningsOf([told(1, '2026-05-03', ['a']), told(2, '2026-05-01', ['a'], true)])[0]).toMatchObject({
      after: '2026-04-30',
      by: '2026-05-01',
      sure: 'stated',
    })
    expect(happeningsOf([told(1, '2026-05-03', ['a'], true), told(2, '2026-05-01', ['a'], true)])[0].sure).toBe('to be confirmed')
  })

  test('the order in which they come makes no difference', () => {
    const any = fc
      .array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.subarray(['a', 'b', 'c', 'd', 'e']), fc.boolean()), { maxLength: 9 })
      .map((all) => all.map(([d, same, stated], i) => told(i + 1, `2026-05-0${d}`, same, stated)))
    fc.assert(
      fc.property(
        any.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray(all, { minLength: all.length }))),
        ([all, shuffled]) => {
          expect(happeningsOf(shuffled)).toEqual(happeningsOf(all))
        },
      ),
    )
  })
})

describe('freshness goes by calendar days', () => {
  const today = '2026-11-24'
  test('a change is fresh only where the earliest day it can have happened lies within its days', () => {
    expect(freshnessOf({ after: '2026-10-02', by: '2026-11-20' }, 90, today)).toBe('fresh')
    expect(freshnessOf({ after: '2026-08-14', by: '2026-11-20' }, 90, today)).toBe('fading')
    expect(freshnessOf({ after: null, by: '2026-11-20' }, 90, today)).toBe('fading')
    expect(freshnessOf({ after: '2026-05-01', by: '2026-05-02' }, 90, today)).toBe('gone')
  })
  test('the last day of each', () => {
    const on = (by: string) => freshnessOf({ after: datePlusDays(by, -1), by }, 30, today)
    expect([on('2026-10-25'), on('2026-10-24'), on('2026-09-25'), on('2026-09-24')]).toEqual(['fresh', 'fading', 'fading', 'gone'])
  })
  test('a kind without a number of days never ages', () => {
    expect(freshnessOf({ after: null, by: '2001-01-01' }, null, today)).toBe('fresh')
  })
})

describe('an opener says no more than is proved', () => {
  const today = '2026-11-24'
  test.each([
    ['2026-11-02', '2026-11-03', 'on 3 November'],
    ['2025-11-02', '2025-11-03', 'on 3 November 2025'],
    ['2026-11-01', '2026-11-20', 'in November'],
    ['2026-10-02', '2026-11-20', 'in October or November'],
    ['2025-12-02', '2026-01-20', 'in December 2025 or January'],
    ['2026-08-14', '2026-11-20', 'in the last 4 months'],
    [null, '2026-11-20', null],
  ])('after %s and by %s: %s', (after, by, said) => {
    expect(provedWhen({ after, by }, today)).toBe(said)
  })

  test('“in the last months” holds the whole interval, and a month less would not', () => {
    const any = fc.tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 700 }))
    fc.assert(
      fc.property(any, ([ago, long, offset]) => {
        const today = datePlusDays('2026-01-31', offset)
        const by = datePlusDays(today, -ago)
        const earliest = datePlusDays(by, -long)
        const said = provedWhen({ after: datePlusDays(earliest, -1), by }, today) as string
        const months = /last (\d+) months/.exec(said)?.[1]
        if (months === undefined) {
          // A day, a month or two name the calendar itself.
          expect(said).toMatch(/^(on|in) /)
          return
        }
        const back = new Date(`${today}T12:00:00Z`)
        back.setUTCDate(1)
        back.setUTCMonth(back.getUTCMonth() - Number(months))
        const start = back.toISOString().slice(0, 7)
        expect(earliest.slice(0, 7) >= start).toBe(true)
      }),
      { numRuns: 300 },
    )
  })

  test('words are filled in; one that is missing leaves no opener, but the day may be left out', () => {
    const words = { when: 'in November', before: null, after: 'Head of Estates', organisation: 'Larch House', given: 'Marit' }
    expect(openerText('You became {after} {when}.', words)).toBe('You became Head of Estates in November.')
    expect(openerText('You became {after} {when}.', { ...words, when: null })).toBe('You became Head of Estates.')
    expect(openerText('You were {before}.', words)).toBeNull()
    expect(openerTrouble('Dear {name}')).toMatch(/“\{name\}” is not known/)
    expect(openerTrouble('Dear {given')).toMatch(/brace/)
    expect(openerTrouble('Dear given}')).toMatch(/brace/)
    expect(openerTrouble('Since {when}')).toBeNull()
  })
})

describe('the account of somebody’s changes', () => {
  const standing: fc.Arbitrary<Standing> = fc
    .record({
      asks: fc.constantFrom(...ASKS),
      then: fc.boolean(),
      toldSince: fc.boolean(),
      newly: fc.boolean(),
      settledSince: fc.boolean(),
      reopened: fc.boolean(),
      putOff: fc.constantFrom('due' as const, 'waiting' as const, null),
      state: fc.constantFrom('open' as const, 'taken' as const, 'handled' as const, 'set aside' as const),
      byThem: fc.boolean(),
      gone: fc.boolean(),
      followed: fc.boolean(),
    })
    .map((s) => ({
      ...s,
      id: 0,
      then: s.then && !s.toldSince,
      now: s.followed && !s.gone && (s.state === 'open' || s.state === 'taken') && s.putOff !== 'waiting',
    }))

  test('it closes after any history', () => {
    fc.assert(
      fc.property(fc.array(standing, { maxLength: 40 }), (all) => {
        const account = changesAccount(all)
        const sum = (of: { n: number }[]) => of.reduce((n, line) => n + line.n, 0)
        expect(account.opening + sum(account.came) - sum(account.went)).toBe(account.closing)
        expect(account.closing).toBe(all.filter((s) => s.now).length)
        expect(account.opening).toBe(all.filter((s) => s.then).length)
      }),
      { numRuns: 300 },
    )
  })

  test('what came and was settled since stands on both sides', () => {
    const one: Standing = {
      id: 1,
      asks: 'confirm',
      now: false,
      then: false,
      toldSince: true,
      newly: false,
      settledSince: true,
      reopened: false,
      putOff: null,
      state: 'handled',
      byThem: true,
      gone: false,
      followed: true,
    }
    const account = changesAccount([one])
    expect(account.came.find((line) => line.asks === 'confirm')?.n).toBe(1)
    expect(account.went.find((line) => line.why === 'handled by you')?.n).toBe(1)
    const sides = (of: Standing) => changesAccount([of]).came.reduce((n, line) => n + line.n, 0)
    // What one only began to follow counts where one settled it oneself; what others did before is none of theirs.
    expect(sides({ ...one, newly: true })).toBe(1)
    expect(sides({ ...one, newly: true, byThem: false })).toBe(0)
    expect(sides({ ...one, newly: true, settledSince: false })).toBe(0)
  })
})
