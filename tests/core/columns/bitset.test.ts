import fc from 'fast-check'
import { expect, test } from 'vitest'
import { Bitset } from '@/core/columns/bitset'
import { Slices } from '@/core/columns/slices'

const numbers = fc.uniqueArray(fc.integer({ min: 0, max: 400 }))

test('a bitset behaves as a set of numbers', () => {
  fc.assert(
    fc.property(numbers, numbers, (a, b) => {
      const [A, B] = [Bitset.from(a), Bitset.from(b)]
      const sorted = (of: number[]) => [...of].sort((x, y) => x - y)
      expect(A.toArray()).toEqual(sorted(a))
      expect(A.count()).toBe(a.length)
      expect(A.and(B).toArray()).toEqual(sorted(a.filter((n) => b.includes(n))))
      expect(A.or(B).toArray()).toEqual(sorted([...new Set([...a, ...b])]))
      expect(A.andNot(B).toArray()).toEqual(sorted(a.filter((n) => !b.includes(n))))
      expect(A.countAnd(B)).toBe(A.and(B).count())
      expect(A.equals(Bitset.from([...a].reverse()))).toBe(true)
      expect(A.isEmpty()).toBe(a.length === 0)
    }),
  )
})

test('those whose value lies between two ends are those of whom that is true, never as an instant included', () => {
  const value = fc.oneof(fc.integer({ min: -3, max: 3 }), fc.constant(Number.NEGATIVE_INFINITY))
  fc.assert(
    fc.property(
      numbers,
      fc.array(value, { minLength: 401, maxLength: 401 }),
      value,
      fc.oneof(value, fc.constant(Number.POSITIVE_INFINITY)),
      (members, values, from, below) => {
        const expected = [...members].sort((a, b) => a - b).filter((n) => values[n] >= from && values[n] < below)
        expect(Bitset.from(members).between(Float64Array.from(values), from, below).toArray()).toEqual(expected)
      },
    ),
  )
})

test('splitting by codes is splitting by what is said of each, codes that are missing included', () => {
  fc.assert(
    fc.property(
      numbers,
      fc.array(fc.integer({ min: -1, max: 4 }), { maxLength: 420 }),
      fc.array(fc.constantFrom(0, 1, 2), { minLength: 6, maxLength: 6 }),
      (members, codes, said) => {
        const set = Bitset.from(members)
        const expected = set.split((n) => said[(codes[n] ?? -1) + 1])
        const found = set.splitByCode(Int32Array.from(codes), Uint8Array.from(said))
        expect([found.yes.toArray(), found.unknown.toArray()]).toEqual([expected.yes.toArray(), expected.unknown.toArray()])
      },
    ),
  )
})

test('bit 31 of a word is a member like any other', () => {
  const set = Bitset.from([31, 63, 95])
  expect(set.toArray()).toEqual([31, 63, 95])
  expect(set.count()).toBe(3)
  set.delete(63)
  expect(set.has(63)).toBe(false)
})

test('rows of records survive any order of replacing, compaction included', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 400 })), {
        maxLength: 30,
      }),
      (writes) => {
        const slices = new Slices({ value: 'uint8' })
        const expected = new Map<number, number[]>()
        for (const [n, rows] of writes) {
          slices.replace(n, rows, (fields, at, value) => {
            fields.value[at] = value
          })
          expected.set(n, rows)
        }
        for (const [n, rows] of expected)
          expect([...slices.fields.value.subarray(slices.first(n), slices.first(n) + slices.count(n))]).toEqual(rows)
        for (const n of expected.keys()) for (let i = 0; i < slices.count(n); i++) expect(slices.owner[slices.first(n) + i]).toBe(n)
      },
    ),
  )
})
