import fc from 'fast-check'
import jaroWinklerOf from 'talisman/metrics/jaro-winkler'
import { describe, expect, test } from 'vitest'
import { AGREEMENTS, type Comparable, COMPARED, compare } from '@/core/match/compare'
import { AgreementCounts, estimate, probability, weight } from '@/core/match/estimate'
import { standsFor } from '@/core/match/nicknames'
import { DOUBT, findPairs, SAME } from '@/core/match/pairs'
import { jaroWinkler, oneSlip } from '@/core/match/similar'
import { comparable, corrupted } from '../../../bench/corrupt'

// W. E. Winkler, String Comparator Metrics, 1990, table of examples (from memory).
test.each([
  ['MARTHA', 'MARHTA', 0.9611],
  ['DIXON', 'DICKSONX', 0.8133],
  ['DWAYNE', 'DUANE', 0.84],
])('%s and %s are alike by %d', (a, b, alike) => expect(jaroWinkler(a, b)).toBeCloseTo(alike, 4))

test('alike as another library has it, where both define it alike', () => {
  const word = fc.string({ unit: fc.constantFrom(...'abcdmnor'), minLength: 1, maxLength: 12 })
  fc.assert(
    fc.property(word, word, (a, b) => {
      const ours = jaroWinkler(a, b)
      // The other adds the prefix always, ours from 0.7 up as Winkler has it; they differ in half-transpositions too.
      if (ours > 0.7) expect(Math.abs(ours - jaroWinklerOf(a, b))).toBeLessThan(0.06)
      expect(ours).toBeCloseTo(jaroWinkler(a, b), 12)
      expect(ours).toBeGreaterThanOrEqual(0)
      expect(ours).toBeLessThanOrEqual(1)
    }),
  )
})

test.each([
  ['abcd', 'abxd', true],
  ['abcd', 'acbd', true],
  ['abcd', 'abcd', false],
  ['abcd', 'axyd', false],
  ['abc', 'abcd', false],
])('%s and %s are one slip apart: %s', (a, b, slip) => expect(oneSlip(a, b)).toBe(slip))

test('short forms stand for each other, either way', () => {
  for (const [a, b] of [
    ['elizabeth', 'liz'],
    ['ted', 'edward'],
    ['bob', 'robert'],
    ['peggy', 'margaret'],
  ])
    expect([standsFor(a, b), standsFor(b, a)]).toEqual([true, true])
  expect(standsFor('robert', 'richard')).toBe(false)
  expect(standsFor('bob', 'maud')).toBe(false)
})

const record = (r: Partial<Comparable>): Comparable => ({
  given: 'maud',
  family: 'ellery',
  organisation: '',
  street: '',
  postcode: '',
  town: '',
  emails: [],
  phones: [],
  ...r,
})
const said = (a: Partial<Comparable>, b: Partial<Comparable>) =>
  Object.fromEntries(
    Array.from(compare(record(a), record(b)), (level, f) => [
      COMPARED[f],
      level < 0 ? null : (AGREEMENTS[COMPARED[f]] as readonly string[])[level],
    ]),
  )

describe('how far two records agree', () => {
  test.each([
    [{ family: 'ellery' }, { family: 'elery' }, { family: 'close', given: 'same' }],
    [{ family: 'marlmere' }, { family: 'rnarlmere' }, { family: 'close' }],
    [{ given: 'm' }, {}, { given: 'initial' }],
    [{ given: 'robert' }, { given: 'bob' }, { given: 'short form' }],
    [{ given: 'ellery', family: 'maud' }, {}, { family: 'changed places', given: 'same' }],
    [{ given: 'e', family: 'maud' }, {}, { family: 'changed places' }],
    [{ given: 'joss' }, {}, { given: 'different', family: 'same' }],
    [{ organisation: 'sedge school' }, { organisation: 'sedge primary school' }, { organisation: 'alike' }],
    [{ street: '4 mill lane', postcode: 'pw1 2ab' }, { street: '4 mill lane', postcode: 'pw1 2ab' }, { address: 'same' }],
    [{ street: '4 mill lane', postcode: 'pw1 2ab' }, { street: '90 quay street', postcode: 'pw1 2ab' }, { address: 'same postcode' }],
    // Where one has no postcode, the towns are compared and no town with a postcode.
    [{ street: '4 mill lane', postcode: 'pw1 2ab', town: 'thornmouth' }, { town: 'thornmouth' }, { address: 'same town' }],
    [{ postcode: 'pw1 2ab', town: 'thornmouth' }, { town: 'kettlehythe' }, { address: 'different' }],
    [{ street: '4 mill lane', town: 'thornmouth' }, { street: '90 quay street', town: 'thornmouth' }, { address: 'same town' }],
    [{ street: '4 mill lane', town: 'thornmouth' }, { street: '4 mill lane', postcode: 'pw1 2ab' }, { address: 'same street' }],
    [{ emails: ['m@example.org'] }, { emails: ['m@example.ogr'] }, { email: 'one slip' }],
    // A number behind a name is how providers tell namesakes apart.
    [{ emails: ['maud1@example.org'] }, { emails: ['maud2@example.org'] }, { email: 'different' }],
    [{ phones: ['0113'] }, {}, { phone: null, email: null, address: null, organisation: null }],
  ] as [Partial<Comparable>, Partial<Comparable>, Record<string, string | null>][])('%o and %o: %o', (a, b, agreement) =>
    expect(said(a, b)).toMatchObject(agreement),
  )

  test('it does not matter which of the two comes first', () => {
    const name = fc.constantFrom('maud', 'm', 'bob', 'robert', 'ellery', 'elery', 'marlmere', 'rnarlmere', '')
    const any = fc.record({
      given: name,
      family: name,
      organisation: fc.constantFrom('', 'sedge school', 'sedge primary school'),
      street: fc.constantFrom('', '4 mill lane', '4 mil lane'),
      postcode: fc.constantFrom('', 'pw1', 'pw2'),
      town: fc.constantFrom('', 'thornmouth', 'kettlehythe'),
      emails: fc.subarray(['a@x', 'b@x']),
      phones: fc.subarray(['1', '2']),
    })
    fc.assert(
      fc.property(any, any, (a, b) => {
        expect(compare(a, b)).toEqual(compare(b, a))
      }),
    )
  })
})

test('the weights found are those that made the pairs', () => {
  // 2,000 ones among 400,000 pairs: family, given, organisation, email agree with known chances.
  let state = 99
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296
  const m = { family: 0.9, given: 0.85, organisation: 0.6, email: 0.8 }
  const u = { family: 0.01, given: 0.02, organisation: 0.001, email: 0.0001 }
  const pair = (chances: typeof m) =>
    Int8Array.of(
      random() < chances.family ? 2 : 1,
      random() < chances.given ? 4 : 2,
      random() < chances.organisation ? 2 : 0,
      -1,
      random() < chances.email ? 2 : 0,
      -1,
    )
  const [compared, blind] = [new AgreementCounts(), new AgreementCounts()]
  for (let i = 0; i < 400_000; i++) compared.add(pair(i < 2000 ? m : u))
  for (let i = 0; i < 400_000; i++) blind.add(pair(u))
  const weights = estimate(blind, compared, 400_000)
  expect(weights.prior).toBeGreaterThan(0.0045)
  expect(weights.prior).toBeLessThan(0.0055)
  const of = (...levels: number[]) => weight(Int8Array.from(levels), weights) - Math.log2(weights.prior / (1 - weights.prior))
  expect(of(2, 4, -1, -1, -1, -1)).toBeCloseTo(Math.log2((0.9 * 0.85) / (0.01 * 0.02)), 0)
  expect(of(-1, -1, 2, -1, -1, -1)).toBeCloseTo(Math.log2(0.6 / 0.001), 0)
  expect(of(-1, -1, -1, -1, 0, -1)).toBeCloseTo(Math.log2(0.2 / 0.9999), 0)
  expect(probability(0)).toBe(0.5)
})

describe('finding doubles', () => {
  test('among made-up records of known truth: hardly one wrong, hardly one missed', async () => {
    const { records, truth } = corrupted(5000, 500, 5)
    const { pairs } = await findPairs(records.map(comparable))
    const known = new Set(truth.map(({ copy, of }) => `${of} ${copy}`))
    const taken = pairs.filter((pair) => pair.chance >= SAME).map(({ a, b }) => `${Math.min(a, b)} ${Math.max(a, b)}`)
    const right = taken.filter((pair) => known.has(pair)).length
    expect(right / taken.length).toBeGreaterThanOrEqual(0.98)
    expect(right / known.size).toBeGreaterThanOrEqual(0.93)
    for (const pair of pairs) expect(pair.chance).toBeGreaterThanOrEqual(DOUBT)
    // The same records, the same answer.
    const few = records.slice(4000).map(comparable)
    expect((await findPairs(few)).pairs).toEqual((await findPairs(few)).pairs)
  })

  test('a household and colleagues who share everything but a given name are not one', async () => {
    const { records } = corrupted(3000, 300, 6)
    const home = { organisation: '', street: '4 mill lane', postcode: 'pw1 2ab', emails: [], phones: ['0113'] }
    const office = { organisation: 'sedge school', street: '1 quay street', postcode: 'pw2 1zz', emails: [], phones: ['0114'] }
    const more = [
      record({ ...home, given: 'ottoline' }),
      record({ ...home, given: 'bram' }),
      record({ ...office, given: 'idris', family: 'pike' }),
      record({ ...office, given: 'idris', family: 'solheim' }),
    ]
    const { pairs } = await findPairs([...records.map(comparable), ...more])
    const found = (a: number, b: number) => pairs.find((p) => p.a === 3000 + a && p.b === 3000 + b)?.chance ?? 0
    expect(found(0, 1)).toBeLessThan(SAME)
    expect(found(2, 3)).toBeLessThan(SAME)
  })

  test('none and one record hold no doubles', async () => {
    expect((await findPairs([])).pairs).toEqual([])
    expect((await findPairs([record({})])).pairs).toEqual([])
  })
})
