import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import wabt from 'wabt'
import { type BitKernel, plainKernel, WIDE, wideKernel } from '@/core/columns/bit-kernel'

const words = fc.array(fc.oneof(fc.constantFrom(0, -1), fc.integer()), { maxLength: 150 }).map((list) => Int32Array.from(list))
const maybe = fc.option(words)

/** The same set whether or not empty words stand at its end. */
const trimmed = (set: Int32Array): number[] => Array.from(set.subarray(0, set.findLastIndex((word) => word !== 0) + 1))

test('the wide passes are there on this machine, and assembled from their source', async () => {
  const { parseWat } = await wabt()
  const { buffer } = parseWat('bit-kernel.wat', readFileSync('src/core/columns/bit-kernel.wat', 'utf8'), { simd: true }).toBinary({})
  // After a change of the source, what is expected here is what WIDE has to be.
  expect(WIDE).toBe(Buffer.from(buffer).toString('base64'))
  expect(wideKernel()).not.toBeNull()
})

test('who stays, who is taken in, and how many, by wide passes as by plain ones', () => {
  const wide = wideKernel() as BitKernel
  fc.assert(
    fc.property(words, words, fc.boolean(), maybe, maybe, (b, pass, round, unknown, stays) => {
      expect(wide.pass(b, pass, round, unknown, stays)).toEqual(plainKernel.pass(b, pass, round, unknown, stays))
    }),
  )
  fc.assert(
    fc.property(words, words, words, (b, take, seen) => {
      expect(wide.take(b, take, seen)).toEqual(plainKernel.take(b, take, seen))
      expect(wide.both(b, take)).toBe(plainKernel.both(b, take))
      expect(wide.both(b, b)).toBe(plainKernel.both(b, b))
      expect(trimmed(wide.take(b, take, seen).next)).toEqual(
        trimmed(Int32Array.from({ length: Math.max(b.length, take.length) }, (_, i) => (b[i] ?? 0) | (take[i] ?? 0))),
      )
    }),
  )
})

test('steps composed from the last one on, by wide passes as by plain ones', () => {
  const wide = wideKernel() as BitKernel
  const step = fc.record({ b: words, pass: maybe, round: fc.boolean(), take: maybe })
  fc.assert(
    fc.property(words, fc.array(step, { maxLength: 8 }), (live, steps) => {
      const [one, other] = [wide.composer(live), plainKernel.composer(live)]
      for (const { b, pass, round, take } of steps) expect(one.put(b, pass, round, take)).toBe(other.put(b, pass, round, take))
    }),
  )
})

test('larger sets than before make room, and a composer that was begun before another says so', () => {
  const wide = wideKernel() as BitKernel
  const large = new Int32Array(400_000).fill(-1)
  expect(wide.both(large, large)).toBe(12_800_000)
  expect(wide.pass(large, large, true, large, null)).toMatchObject({ stay: 0, unknown: 12_800_000, stayed: 0 })
  const first = wide.composer(large)
  expect(first.put(large, null, false, null)).toBe(12_800_000)
  wide.composer(large)
  expect(() => first.put(large, null, false, null)).toThrow(/another list was begun/)
})
