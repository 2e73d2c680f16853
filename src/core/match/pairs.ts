import { blockKeys } from './blocks'
import { type Agreement, type Comparable, compare } from './compare'
import { AgreementCounts, estimate, probability, weight, type Weights } from './estimate'

/** Two records, by their places in what was handed in, and what speaks for their being one. */
export interface Pair {
  a: number
  b: number
  agreement: Agreement
  /** Evidence in bits, the rarity of a shared name included. */
  bits: number
  chance: number
}

/** From here up two records are the same; from DOUBT up somebody should look. */
export const SAME = 0.97
export const DOUBT = 0.2

/** A key that more records share than this tells nothing; they are found by their other keys or not at all. */
export const LARGEST_BLOCK = 400

/** After so many comparisons others get their turn. */
const TURN = 20_000

/**
 * Finds records that may be one among many, estimates the weights from them, and gives the pairs from `least` up, the
 * surest first. `turn` is awaited now and then with how much is done, from 0 to 1; what it throws ends the search.
 */
export async function findPairs(
  records: readonly Comparable[],
  least = DOUBT,
  turn: (done: number) => Promise<void> = async () => {},
): Promise<{ pairs: Pair[]; weights: Weights; compared: number }> {
  const counts = new AgreementCounts()
  const found: [a: number, b: number, agreement: number][] = []
  for (const [a, b, done] of candidates(records)) {
    found.push([a, b, counts.add(compare(records[a], records[b]))])
    if (found.length % TURN === 0) await turn(done * 0.6)
  }
  const weights = estimate(await blindly(records, (done) => turn(0.6 + done * 0.35)), counts, (records.length * (records.length - 1)) / 2)
  const bits = counts.agreements.map((agreement) => weight(agreement, weights))
  const rare = rarity(records)
  const pairs: Pair[] = []
  for (const [a, b, number] of found) {
    // A rare name adds at most eight bits.
    if (probability(bits[number] + 8) < least) continue
    const agreement = counts.agreements[number]
    const all = bits[number] + rare(records[a], agreement)
    if (probability(all) >= least) pairs.push({ a, b, agreement, bits: all, chance: probability(all) })
  }
  return { pairs: pairs.sort((x, y) => y.bits - x.bits || x.a - y.a || x.b - y.b), weights, compared: found.length }
}

/** How many pairs are taken blindly, to see how often two records agree by accident: so many a record, and no more in all. */
const BLIND = { each: 80, all: 1_000_000 }

/** Pairs at random, by a sequence of its own: the same records give the same weights. */
async function blindly(records: readonly Comparable[], turn: (done: number) => Promise<void>): Promise<AgreementCounts> {
  const counts = new AgreementCounts()
  const all = records.length
  if (all < 2) return counts
  let state = 4711
  const below = (n: number) => {
    // Numerical Recipes' quick generator (W. Press and others, 7.1): 32 bits, the high ones used.
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor((state / 4294967296) * n)
  }
  const wanted = Math.min(BLIND.all, BLIND.each * all, all * all)
  for (let i = 0; i < wanted; i++) {
    if (i % TURN === TURN - 1) await turn(i / wanted)
    const [a, b] = [below(all), below(all)]
    if (a !== b) counts.add(compare(records[a], records[b]))
  }
  return counts
}

/** Every two records that share a key, once, with how much of the keys is done. */
function* candidates(records: readonly Comparable[]): Generator<[a: number, b: number, done: number]> {
  const blocks = new Map<string, number[]>()
  const keys = records.map(blockKeys)
  keys.forEach((own, n) => {
    for (const key of new Set(own)) {
      const block = blocks.get(key)
      if (block) block.push(n)
      else blocks.set(key, [n])
    }
  })
  const seen = new Set<number>()
  let at = 0
  for (const block of blocks.values()) {
    at++
    if (block.length < 2 || block.length > LARGEST_BLOCK) continue
    for (let i = 0; i < block.length; i++) {
      for (let j = i + 1; j < block.length; j++) {
        const key = block[i] * records.length + block[j]
        if (seen.has(key)) continue
        seen.add(key)
        yield [block[i], block[j], at / blocks.size]
      }
    }
  }
}

/**
 * What a shared name that is rarer or commoner than most speaks for or against, in bits: two people of a rare name are
 * more likely one (Fellegi and Sunter 1969, their method I; bounded, since a name can be rare by a slip of the pen).
 */
export function rarity(records: Iterable<Comparable>): (record: Comparable, agreement: Agreement) => number {
  const counts = { given: new Map<string, number>(), family: new Map<string, number>() }
  let all = 0
  for (const record of records) {
    all++
    for (const field of ['given', 'family'] as const)
      if (record[field]) counts[field].set(record[field], (counts[field].get(record[field]) ?? 0) + 1)
  }
  return rarityOf(counts, all)
}

/** The same from how often each name was seen among so many records. */
export function rarityOf(
  counts: Record<'given' | 'family', ReadonlyMap<string, number>>,
  all: number,
): (record: Comparable, agreement: Agreement) => number {
  const usual = { given: 0, family: 0 }
  for (const field of ['given', 'family'] as const) for (const n of counts[field].values()) usual[field] += (n / all) ** 2
  const bits = (field: 'given' | 'family', name: string) =>
    Math.min(4, Math.max(-3, Math.log2(usual[field] / ((counts[field].get(name) ?? 1) / all))))
  // Of a household all have its name, be it rare or common; so nothing is made of it where a given name tells them apart.
  return (record, agreement) =>
    agreement[0] === 2 && agreement[1] > 0 ? bits('family', record.family) + (agreement[1] === 4 ? bits('given', record.given) : 0) : 0
}
