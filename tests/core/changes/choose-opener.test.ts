import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { datePlusDays } from '@/core/calendar/local-day'
import { chooseOpener, NO_OPENERS, type OpenerCandidate } from '@/core/changes/choose-opener'
import { freshnessOf } from '@/core/changes/freshness'

const today = '2026-11-24'
const words = { before: 'caretaker', after: 'head of estates', organisation: 'Low Wendle Clinic', given: 'Ada' }
const role: OpenerCandidate = {
  change: 1,
  asks: 'confirm',
  sure: 'stated',
  state: 'open',
  after: '2026-11-01',
  by: '2026-11-10',
  freshDays: 90,
  opener: 'You became {after} {when}.',
  holds: true,
  words,
}
const chosen = (...of: OpenerCandidate[]) => chooseOpener(of, NO_OPENERS, today)?.text ?? null

describe('the opener of somebody', () => {
  test('is that of the latest change, in words that its interval proves', () => {
    const hiring = { ...role, change: 2, asks: 'opening' as const, by: '2026-11-20', opener: '{organisation} takes people on {when}.' }
    expect(chosen(role)).toBe('You became head of estates in November.')
    expect(chosen(role, hiring)).toBe('Low Wendle Clinic takes people on in November.')
    expect(chosen({ ...role, words: { ...words, after: null } }, role)).toBe('You became head of estates in November.')
  })

  test.each<[string, Partial<OpenerCandidate>]>([
    ['may have happened before its days', { after: '2026-07-01' }],
    ['was never seen otherwise, so that nothing says how old it is', { after: null }],
    ['lies in the future', { by: '2026-11-25' }],
    ['is to be confirmed', { sure: 'to be confirmed' }],
    ['is not what the record says any more', { holds: false }],
    ['was taken by a colleague, who writes themselves', { state: 'taken' }],
    ['was set aside', { state: 'set aside' }],
    ['was answered', { state: 'handled', asks: 'answer' }],
    ['was an opening somebody used', { state: 'handled', asks: 'opening' }],
    ['lacks a word that its sentence names', { words: { ...words, after: null } }],
  ])('is none where the change %s', (_, more) => {
    expect(chosen({ ...role, ...more })).toBeNull()
  })

  test('is there once a new role was confirmed', () => {
    expect(chosen({ ...role, state: 'handled' })).toBe('You became head of estates in November.')
  })

  test('is never one they got, by the change or by the sentence', () => {
    const text = 'You became head of estates in November.'
    expect(chooseOpener([role], { changes: new Set([1]), texts: new Set() }, today)).toBeNull()
    expect(chooseOpener([role], { changes: new Set(), texts: new Set([text]) }, today)).toBeNull()
    const earlier = { ...role, change: 2, by: '2026-11-05', after: '2026-10-30', opener: 'Congratulations, {given}.' }
    expect(chooseOpener([role, earlier], { changes: new Set([1]), texts: new Set() }, today)).toEqual({
      change: 2,
      text: 'Congratulations, Ada.',
    })
  })

  const candidate: fc.Arbitrary<OpenerCandidate> = fc.record({
    change: fc.integer({ min: 1, max: 12 }),
    asks: fc.constantFrom('confirm', 'answer', 'reconsider', 'opening'),
    sure: fc.constantFrom('stated', 'likely', 'to be confirmed'),
    state: fc.constantFrom('open', 'taken', 'handled', 'set aside'),
    after: fc.option(fc.integer({ min: 10, max: 200 }).map((n) => datePlusDays(today, -n))),
    by: fc.integer({ min: -3, max: 9 }).map((n) => datePlusDays(today, -n)),
    freshDays: fc.constantFrom(7, 30, 90, null),
    opener: fc.constantFrom('{given}!', 'Since {when}.', '{before}'),
    holds: fc.boolean(),
    words: fc.constant({ ...words, before: null }),
  })
  const some = fc.uniqueArray(candidate, { selector: ({ change }) => change, maxLength: 8 })

  test('does not hang on the order of the changes, is fresh, and once got is not got again', () => {
    fc.assert(
      fc.property(
        some.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray(all, { minLength: all.length }))),
        ([all, shuffled]) => {
          const one = chooseOpener(all, NO_OPENERS, today)
          expect(chooseOpener(shuffled, NO_OPENERS, today)).toEqual(one)
          const seen = { changes: new Set<number>(), texts: new Set<string>() }
          for (let next = one; next !== null; next = chooseOpener(all, seen, today)) {
            expect(seen.changes.has(next.change) || seen.texts.has(next.text)).toBe(false)
            const own = all.find(({ change }) => change === next?.change) as OpenerCandidate
            expect(freshnessOf(own, own.freshDays, today)).toBe('fresh')
            expect(own.holds && own.by <= today && own.state !== 'taken').toBe(true)
            seen.changes.add(next.change)
            seen.texts.add(next.text)
          }
        },
      ),
    )
  })
})
