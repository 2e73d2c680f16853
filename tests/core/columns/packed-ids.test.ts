import fc from 'fast-check'
import { expect, test } from 'vitest'
import { packIds, unpackIds } from '@/engine/packed-ids'

test('packed ids come back as they were, sorted, from 0 to 2^53', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.oneof(fc.integer({ min: 0, max: 300_000 }), fc.maxSafeNat()), { maxLength: 200 }), (ids) => {
      expect(unpackIds(packIds(ids))).toEqual([...ids].sort((a, b) => a - b))
    }),
  )
})

test('200,000 neighbouring ids take less than two bytes each', () => {
  expect(packIds(Array.from({ length: 200_000 }, (_, i) => i * 5 + (i % 3))).length).toBeLessThan(400_000)
})

test('bytes that are no packed ids are an error', () => expect(() => unpackIds(Buffer.from('nothing packed'))).toThrow())
