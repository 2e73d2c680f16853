import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { byLevel, type Mover, movementOf } from '@/core/changes/movement'

const mover = (id: number, known: boolean, then: [string | null, string | null], now: [string | null, string | null]): Mover => ({
  id,
  known,
  then: { organisation: then[0], role: then[1] },
  now: { organisation: now[0], role: now[1] },
})

test('who arrived, became known, rose, fell and left, and by which level', () => {
  const moves = movementOf(
    [
      mover(1, true, ['larch', 'Site Manager'], ['larch', 'Head of Estates']),
      mover(2, true, ['larch', 'Director of Estates'], ['larch', 'Site Manager']),
      mover(3, true, ['brewery', 'Head Brewer'], ['larch', 'Operations Director']),
      mover(4, false, [null, null], ['larch', 'Trainee Gardener']),
      mover(5, true, ['larch', 'Site Manager'], [null, null]),
      mover(6, true, ['larch', 'Keeper of the keys'], ['larch', '???']),
      mover(7, true, ['larch', 'Bursar'], ['larch', 'Bursar']),
      mover(8, true, ['brewery', 'Porter'], ['brewery', 'Head Porter']),
    ],
    new Set(['larch']),
  )
  expect(moves.map(({ id, movement }) => `${id} ${movement}`)).toEqual([
    '1 raised',
    '2 lowered',
    '3 arrived',
    '4 newly known',
    '5 left',
    '6 unclear',
    '7 stayed',
  ])
  expect(byLevel(moves)).toContainEqual({ level: 'manager', opening: 3, arrived: 0, known: 0, from: 1, to: 1, left: 1, closing: 2 })
})

describe('whoever moves however', () => {
  const place = fc.tuple(
    fc.constantFrom('larch', 'brewery', 'school', null),
    fc.constantFrom('Site Manager', 'Head of Estates', 'Director', 'Trainee', '???', null),
  )
  const movers = fc
    .array(fc.tuple(fc.boolean(), place, place), { maxLength: 30 })
    .map((all) => all.map(([known, then, now], i) => mover(i + 1, known, then, now)))

  test('each level closes, and all of them together: opening + arrived + newly known − left = closing', () => {
    fc.assert(
      fc.property(movers, fc.subarray(['larch', 'school']), (all, of) => {
        const moves = movementOf(all, new Set(of))
        const levels = byLevel(moves)
        for (const level of levels)
          expect(level.opening + level.arrived + level.known + level.from - level.to - level.left).toBe(level.closing)
        const sum = (key: 'opening' | 'arrived' | 'known' | 'from' | 'to' | 'left' | 'closing') =>
          levels.reduce((n, level) => n + level[key], 0)
        expect(sum('opening') + sum('arrived') + sum('known') - sum('left')).toBe(sum('closing'))
        expect(sum('from')).toBe(sum('to'))
        expect(sum('closing')).toBe(all.filter(({ now }) => now.organisation !== null && of.includes(now.organisation)).length)
        expect(new Set(moves.map(({ id }) => id)).size).toBe(moves.length)
      }),
      { numRuns: 300 },
    )
  })
})
