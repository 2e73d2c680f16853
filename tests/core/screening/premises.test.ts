import fc from 'fast-check'
import { expect, test } from 'vitest'
import { REASONS } from '@/core/records/suppression'
import { heldPremises, PREMISES_RULES, premisesFigures, type ScreenedPremises } from '@/core/screening/premises'

const reason = fc.option(fc.constantFrom(...REASONS))
const premises: fc.Arbitrary<ScreenedPremises> = fc.record({
  id: fc.nat(999),
  postable: fc.boolean(),
  address: reason,
  household: reason,
  owner: reason,
})

test('each is closed by one rule or clear, and the account adds up', () => {
  fc.assert(
    fc.property(fc.array(premises, { maxLength: 40 }), (all) => {
      const figures = premisesFigures(all)
      let balance = all.length
      for (const { out, balance: after } of figures.rules) {
        balance -= out
        expect(after).toBe(balance)
      }
      expect(figures.clear).toBe(balance)
      expect(figures.clear).toBe(all.filter((p) => p.postable && !p.address && !p.household && !p.owner).length)
      expect(figures.rules.map(({ rule }) => rule)).toEqual([...PREMISES_RULES])
    }),
  )
})

test.each([
  ['no address', { postable: false, address: 'opt-out' as const }, 'no postal address'],
  ['a suppressed address', { address: 'opt-out' as const, owner: 'opt-out' as const }, 'address'],
  ['a household that asked to stop', { household: 'complaint' as const }, 'household'],
  ['an owner who moved', { owner: 'deceased or moved' as const }, 'owner'],
  ['nothing', {}, undefined],
])('%s decides', (_, of, rule) =>
  expect(heldPremises({ id: 1, postable: true, address: null, household: null, owner: null, ...of })?.rule).toBe(rule),
)
