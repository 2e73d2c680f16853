import fc from 'fast-check'
import { ASKED, STATES } from '@/core/criteria/changed'
import type { Criterion } from '@/core/criteria/registry'

/** Questions about changes of a record, of its organisation and of its premises. */
export const changedCriterion: fc.Arbitrary<Criterion> = fc
  .record({
    kind: fc.constantFrom('changed' as const, 'org-changed' as const, 'premises-changed' as const),
    asks: fc.subarray([...ASKED], { maxLength: 2 }),
    kinds: fc.constantFrom([], [], [{ id: 1, name: 'one' }], [{ id: 2, name: 'two' }]),
    days: fc.option(fc.constantFrom(5, 30, 90)),
    since: fc.constantFrom(undefined, null, { id: 7, name: 'Schools' }, { id: 8, name: 'Never released' }),
    by: fc.constantFrom('happened' as const, 'learned' as const),
    least: fc.constantFrom(1, 1, 2),
    state: fc.constantFrom(...STATES),
    sources: fc.constantFrom(undefined, [], ['county wire'], ['permits', 'wire']),
    words: fc.constantFrom(undefined, ['roof'], ['estate management', 'torn off'], ['of the roof']),
  })
  .map((c): Criterion => ({ ...c, ...(c.since ? { days: null } : {}), kinds: [...c.kinds] }) as Criterion)
