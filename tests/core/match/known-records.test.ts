import { describe, expect, test } from 'vitest'
import { estimate, AgreementCounts, tabled, weight, weightsOf } from '@/core/match/estimate'
import { KnownRecords } from '@/core/match/known-records'
import { DOUBT, findPairs, SAME } from '@/core/match/pairs'
import { type Likely, scored } from '@/core/match/scored'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import { comparable, corrupted } from '../../../bench/corrupt'

const { records, truth } = corrupted(4000, 400, 31)
const people = records.map(comparable)
const copies = new Map(truth.map(({ copy, of }) => [copy, of]))

const filled = (): KnownRecords => {
  const known = new KnownRecords(weightsOf(USUAL_WEIGHTS))
  people.forEach((person, n) => !copies.has(n) && known.add(1000 + n, person))
  return known
}

describe('everybody known, to find for a row who it may be', () => {
  test('nearly every corrupted copy finds the one it was made of, first', () => {
    const known = filled()
    const first = [...copies].filter(([copy, of]) => known.find(people[copy])[0] === 1000 + of).length
    expect(first / copies.size).toBeGreaterThan(0.93)
  })

  test('whoever is added is found at once and after being sorted in, the same people', () => {
    const [one, other] = [filled(), filled()]
    other.settle()
    const rows = [...copies.keys()].slice(0, 100)
    expect(rows.map((n) => one.find(people[n]))).toEqual(rows.map((n) => other.find(people[n])))
    const size = other.size
    other.add(7, people[rows[0]])
    expect(other.find(people[rows[0]])[0]).toBe(7)
    expect(other.find(people[rows[0]], 6, size)).toEqual([7])
    expect(other.find(people[rows[0]], 6, size + 1)).toEqual([])
  })

  test('rows are told apart: the copies are the same as known or in doubt, of the new hardly any', () => {
    const known = new KnownRecords(weightsOf(USUAL_WEIGHTS))
    const originals = new Set(copies.values())
    const fresh = people
      .map((_, n) => n)
      .filter((n) => !copies.has(n) && !originals.has(n))
      .slice(0, 400)
    people.forEach((person, n) => !copies.has(n) && !fresh.includes(n) && known.add(n, person))
    const became = (n: number) => scored(known.find(people[n]).map((id) => ({ id, ...known.likeness(people[n], people[id]) })))
    const ofCopies = [...copies].map(([copy, of]) => ({ of, is: became(copy) }))
    const same = ofCopies.filter(({ is }) => is.is === 'same')
    expect(same.length).toBeGreaterThan(copies.size * 0.88)
    expect(same.filter(({ of, is }) => is.is === 'same' && is.id === of).length / same.length).toBeGreaterThan(0.99)
    expect(fresh.filter((n) => became(n).is !== 'new').length).toBeLessThan(fresh.length * 0.02)
  })

  test('in a larger directory the same agreement is worth less', () => {
    const small = filled()
    const large = filled()
    for (let i = 0; i < 30_000; i++) large.add(100_000 + i, { ...people[0], given: `given${i}`, family: `family${i}` })
    const [copy, of] = [...copies][0]
    expect(large.likeness(people[copy], people[of]).chance).toBeLessThan(small.likeness(people[copy], people[of]).chance)
  })
})

test('weights kept as a table say what the weights say', async () => {
  const { weights } = await findPairs(people.slice(0, 1500))
  const again = weightsOf(JSON.parse(JSON.stringify(tabled(weights))))
  const counts = new AgreementCounts()
  for (const levels of [
    [2, 4, -1, -1, -1, -1],
    [0, 4, 2, 4, -1, 2],
    [3, 4, 2, -1, 2, -1],
    [2, 0, -1, 0, 0, 1],
  ])
    counts.add(Int8Array.from(levels))
  for (const agreement of counts.agreements) expect(weight(agreement, again)).toBeCloseTo(weight(agreement, weights), 2)
  // A table that lacks a combination takes it to tell nothing.
  expect(weightsOf({ prior: 0.5, bits: [{}, {}, {}] }).bits(counts.agreements[0], 0)).toBe(0)
  expect(estimate(counts, counts, 10).prior).toBeGreaterThan(0)
})

describe('what a row is by likeness', () => {
  const likely = (id: number, chance: number, more: Partial<Likely> = {}): Likely => ({
    id,
    chance,
    agreement: Int8Array.of(2, 4, 2, 4, 2, 2),
    ...more,
  })
  const differs = Int8Array.of(2, 0, 2, 4, 2, 2)
  test.each<[string, Likely[], object]>([
    ['one alone as good as sure', [likely(1, SAME), likely(2, DOUBT)], { is: 'same', id: 1 }],
    ['two as good as sure', [likely(1, 0.99), likely(2, 0.98)], { is: 'in doubt', ids: [1, 2] }],
    ['likely but not sure', [likely(1, 0.5)], { is: 'in doubt', ids: [1], why: 'it is 50 % likely this record' }],
    ['sure but for another given name', [likely(1, 0.99, { agreement: differs })], { is: 'in doubt', ids: [1] }],
    ['sure but for another outside id', [likely(1, 0.99, { otherId: true })], { is: 'in doubt', ids: [1] }],
    ['likely, and with another outside id', [likely(1, 0.9, { otherId: true })], { is: 'new' }],
    ['hardly likely', [likely(1, DOUBT - 0.01)], { is: 'new' }],
    ['nobody', [], { is: 'new' }],
  ])('%s', (_, candidates, is) => expect(scored(candidates)).toMatchObject(is))
})
