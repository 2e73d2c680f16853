import fc from 'fast-check'
import { expect, test } from 'vitest'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import { isOfSet, type Rule } from '@/core/screening/rules'
import { CHANNELS } from '@/core/records/channels'
import { letThrough, rules } from '../../support/lines'
import { columnsOf, DAY, directory, MOMENT } from '../../support/people'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [3], letThrough: [] }

test('an account that uses what was kept says what one made anew says, whatever was asked and changed before', () => {
  const step = fc.oneof(
    rules.map((policy) => ({ do: 'ask' as const, policy })),
    // One rule alone is another: what is left before it is not worked out again.
    fc.record({ do: fc.constant('switch' as const), at: fc.nat(20) }),
    fc.record({ do: fc.constant('swap' as const), at: fc.nat(20) }),
    fc.record({ do: fc.constant('change' as const), who: fc.nat(59), relation: fc.constantFrom('customer' as const, null) }),
    fc.record({ do: fc.constant('wait' as const), days: fc.constantFrom(0.0001, 1, 30) }),
    letThrough.map((through) => ({ do: 'pass' as const, through })),
    fc.record({ do: fc.constant('other list' as const), every: fc.constantFrom(1, 2, 3) }),
  )
  fc.assert(
    fc.property(directory, fc.array(step, { minLength: 3, maxLength: 12 }), rules, (people, steps, first) => {
      const columns = columnsOf(people)
      const now = [...people]
      let policy = first
      let at = moment
      let every = 1
      for (const own of steps) {
        if (own.do === 'ask') policy = own.policy
        else if (own.do === 'switch') {
          const i = own.at % policy.length
          policy = policy.map((rule, place) => (place === i && 'off' in rule ? ({ ...rule, off: !rule.off } as Rule) : rule))
        } else if (own.do === 'swap') {
          const i = 1 + (own.at % Math.max(1, policy.length - 2))
          const [one, other] = [policy[i], policy[i + 1]]
          // The first stays the first, and those about a set come last.
          if (one && other && isOfSet(one) === isOfSet(other)) policy = policy.with(i, other).with(i + 1, one)
        } else if (own.do === 'wait') at = { ...at, asOf: at.asOf + own.days * DAY }
        else if (own.do === 'pass') at = { ...at, letThrough: own.through }
        else if (own.do === 'other list') every = own.every
        else if (own.who < now.length) {
          now[own.who] = { ...now[own.who], relation: own.relation, suppressions: [] }
          columns.put(now[own.who])
        }
        const listed = columns.numbers(now.flatMap((p) => (p.id % every === 0 ? [p.id] : [])))
        const said = screeningAccount(listed, policy, columns, at)
        const fresh = columnsOf(now)
        const anew = screeningAccount(fresh.numbers(now.flatMap((p) => (p.id % every === 0 ? [p.id] : []))), policy, fresh, at)
        expect(said.figures).toEqual(anew.figures)
        expect(columns.toIds(said.anyone)).toEqual(fresh.toIds(anew.anyone))
        said.rules.forEach(({ rule, closed, heldBack }, i) => {
          expect(rule).toBe(anew.rules[i].rule)
          expect(columns.toIds(heldBack)).toEqual(fresh.toIds(anew.rules[i].heldBack))
          for (const channel of CHANNELS) expect(columns.toIds(closed[channel])).toEqual(fresh.toIds(anew.rules[i].closed[channel]))
        })
      }
    }),
    { numRuns: 150 },
  )
})
