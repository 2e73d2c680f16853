import fc from 'fast-check'
import { expect, test } from 'vitest'
import { partedBy, SPREAD_BY } from '@/core/checks/parts'
import { ASOF, blank, columnsOf, DAY, directory } from '../../support/people'

test('strata are parted further: everybody stays in one part of their own stratum', () => {
  fc.assert(
    fc.property(directory, fc.constantFrom(...SPREAD_BY), (people, by) => {
      const columns = columnsOf(people)
      if (columns.live.count() === 0) return
      const half = columns.live.split((n) => n % 2).yes
      const origins = [
        { line: 'a', unknownOf: null, set: half },
        { line: 'b', unknownOf: null, set: columns.live.andNot(half) },
      ]
      const first = [2, 3].map((n) => columns.live.split((m) => (m % n === 0 ? 1 : 0)).yes)
      const parts = partedBy(origins, columns, by, ASOF, first)
      for (const { line, set } of origins) {
        const ids = parts.filter((own) => own.line === line).flatMap((own) => columns.toIds(own.set))
        expect(ids.sort((a, b) => a - b)).toEqual(columns.toIds(set).sort((a, b) => a - b))
      }
      expect(parts.every(({ set }) => set.count() > 0)).toBe(true)
      expect(parts.length).toBeLessThanOrEqual(12)
    }),
  )
})

test('whoever came with several files belongs to the last, and small files share a part', () => {
  const people = Array.from({ length: 20 }, (_, i) => ({ ...blank, id: i + 1, batches: i < 4 ? [1, 7] : [((i - 4) % 8) + 1] }))
  const columns = columnsOf(people)
  const parts = partedBy([{ line: 's', unknownOf: null, set: columns.live }], columns, 'batch', ASOF)
  expect(parts).toHaveLength(6)
  expect(columns.toIds(parts[0].set)).toEqual(expect.arrayContaining([1, 2, 3, 4]))
  expect(parts[0].part).toEqual({ of: 'batch', batch: 7 })
  expect(parts.at(-1)?.part).toEqual({ of: 'batch', batch: null })
})

test('by age: changed within a quarter, within a year, or longer ago', () => {
  const people = [10, 100, 400, null].map((days, i) => ({ ...blank, id: i + 1, changedAt: days === null ? null : ASOF - days * DAY }))
  const columns = columnsOf(people as never)
  const parts = partedBy([{ line: 's', unknownOf: null, set: columns.live }], columns, 'age', ASOF)
  expect(parts.map(({ part, set }) => [(part as { days: number | null }).days, columns.toIds(set)])).toEqual([
    [90, [1]],
    [365, [2]],
    [null, [3, 4]],
  ])
})
