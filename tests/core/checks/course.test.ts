import fc from 'fast-check'
import { expect, test } from 'vitest'
import { courseOf } from '@/core/checks/course'
import type { Verdict } from '@/core/checks/patterns'
import { wilson, Z } from '@/core/checks/share'

const verdict = fc.constantFrom<Verdict>('fits', 'does not', 'cannot tell')

test('the share moves with each verdict that tells, and its interval with it', () => {
  const course = courseOf(['fits', 'cannot tell', 'does not', 'fits', 'fits'], Z[95])
  expect(course.map(({ seen, share }) => [seen, share])).toEqual([
    [1, 1],
    [2, 0.5],
    [3, 2 / 3],
    [4, 0.75],
  ])
  expect(course.at(-1)).toMatchObject(wilson(3, 4, Z[95]))
  expect(courseOf(['cannot tell'], Z[95])).toEqual([])
})

test('its end is the share of all that were told, in whatever order; the share always lies in its interval', () => {
  fc.assert(
    fc.property(fc.array(verdict), fc.constantFrom(90, 95, 99), (all, sure) => {
      const course = courseOf(all, Z[sure as 90])
      const [fit, told] = [all.filter((own) => own === 'fits').length, all.filter((own) => own !== 'cannot tell').length]
      expect(course.map(({ seen }) => seen)).toEqual(Array.from({ length: told }, (_, i) => i + 1))
      if (told > 0) expect(course.at(-1)?.share).toBe(fit / told)
      for (const { share, low, high } of course) expect(low <= share && share <= high).toBe(true)
    }),
  )
})
