import { type Agreement, AGREEMENTS, COMPARED, type CompareField } from './compare'

/**
 * Fields that hang together are counted as one: colleagues share an organisation, its address and its number, a household
 * a family name and an address; taken singly each would count again what the other said already.
 */
export const GROUPS: readonly (readonly CompareField[])[] = [['family', 'given'], ['organisation', 'address', 'phone'], ['email']]
const PLACES = GROUPS.map((fields) => fields.map((field) => COMPARED.indexOf(field)))

/** How often each agreement was seen; pairs with the same agreement count together. */
export class AgreementCounts {
  private readonly known = new Map<number, number>()
  readonly agreements: Agreement[] = []
  readonly counts: number[] = []

  /** Counts a pair and gives the number of its agreement. */
  add(agreement: Agreement): number {
    let key = 0
    for (const level of agreement) key = key * 8 + level + 1
    let number = this.known.get(key)
    if (number === undefined) {
      number = this.agreements.length
      this.known.set(key, number)
      this.agreements.push(agreement)
      this.counts.push(0)
    }
    this.counts[number]++
    return number
  }
}

/** So many pairs' worth of *fields are independent* stand behind what was counted, so that nothing that was never seen is impossible. */
const BEHIND = 20
/** What no level is taken to be rarer than. */
const RAREST = 1e-7

/** How the levels of fields are spread among some pairs: for each group together, given which of its values are there. */
class Spread {
  private readonly single: number[][]
  private readonly sums: number[]
  private readonly joint: Map<number, number>[]
  private readonly present: Map<number, number>[]

  constructor(first: (levels: number, level: number) => number = () => 0) {
    this.single = COMPARED.map((field) => AGREEMENTS[field].map((_, level) => first(AGREEMENTS[field].length, level)))
    this.sums = this.single.map((levels) => levels.reduce((sum, n) => sum + n, 0))
    this.joint = GROUPS.map(() => new Map())
    this.present = GROUPS.map(() => new Map())
  }

  add(agreement: Agreement, count: number): void {
    agreement.forEach((level, f) => {
      if (level < 0) return
      this.single[f][level] += count
      this.sums[f] += count
    })
    PLACES.forEach((fields, g) => {
      const [key, mask] = keysOf(agreement, fields)
      this.joint[g].set(key, (this.joint[g].get(key) ?? 0) + count)
      this.present[g].set(mask, (this.present[g].get(mask) ?? 0) + count)
    })
  }

  /** The share of a group's levels among pairs of which the same values are there. */
  share(agreement: Agreement, g: number): number {
    const [key, mask] = keysOf(agreement, PLACES[g])
    let apart = 1
    for (const f of PLACES[g]) if (agreement[f] >= 0) apart *= (this.single[f][agreement[f]] + RAREST) / (this.sums[f] + RAREST)
    return Math.max(RAREST, ((this.joint[g].get(key) ?? 0) + BEHIND * apart) / ((this.present[g].get(mask) ?? 0) + BEHIND))
  }
}

function keysOf(agreement: Agreement, fields: readonly number[]): [key: number, mask: number] {
  let [key, mask] = [0, 0]
  for (const f of fields) {
    key = key * 8 + agreement[f] + 1
    mask = mask * 2 + (agreement[f] >= 0 ? 1 : 0)
  }
  return [key, mask]
}

const [FAMILY, GIVEN] = [COMPARED.indexOf('family'), COMPARED.indexOf('given')]
/** Whether a name tells two records apart. */
export const toldApart = (agreement: Agreement): boolean => agreement[FAMILY] === 0 || agreement[GIVEN] === 0

/** So many of those who are one have another given, or another family, name altogether (common practice, no source). */
const ONE_RENAMED = 0.01
const RENAMED = [Int8Array.of(2, 0, -1, -1, -1, -1), Int8Array.of(0, 4, -1, -1, -1, -1)]

/** What each agreement speaks for: the model of Fellegi and Sunter (1969) with its weights found. */
export interface Weights {
  /** The chance that two records taken blindly are one. */
  prior: number
  /** The evidence of one group of fields in bits: positive for *one*, negative against it, 0 where nothing can be compared. */
  bits(agreement: Agreement, group: number): number
}

/**
 * Finds the weights from pairs of which nobody has said whether they are one (Fellegi and Sunter 1969; Winkler 1988).
 * `blind` are pairs taken at random, which are hardly ever one, and give the chances of agreeing by accident; `compared`
 * are those that share a key, out of `all` pairs there are. How ones agree, and how many there are, is found by
 * expectation and maximisation until the number stands still, at most 60 rounds; how often somebody has another name
 * altogether is not found but set, since whoever shares a home or an office would look like one person renamed.
 */
export function estimate(blind: AgreementCounts, compared: AgreementCounts, all: number): Weights {
  const u = new Spread()
  blind.agreements.forEach((agreement, n) => u.add(agreement, blind.counts[n]))
  const accident = compared.agreements.map((agreement) => GROUPS.map((_, g) => u.share(agreement, g)))
  // To begin with, ones mostly agree.
  let m = new Spread((levels, level) => (level === 0 ? 0.1 : level === levels - 1 ? 0.7 : 0.2 / Math.max(1, levels - 2)))
  let prior = 1 / Math.max(2, all)
  for (let round = 0; round < 60; round++) {
    const next = new Spread()
    let ones = 0
    compared.agreements.forEach((agreement, i) => {
      let bits = Math.log2(prior / (1 - prior))
      for (let g = 0; g < GROUPS.length; g++) bits += Math.log2(m.share(agreement, g) / accident[i][g])
      // Households and colleagues share all but a name: nothing is learned from pairs that a name tells apart.
      if (toldApart(agreement)) return
      const chance = probability(bits) * compared.counts[i]
      ones += chance
      next.add(agreement, chance)
    })
    for (const agreement of RENAMED) next.add(agreement, ones * ONE_RENAMED)
    const found = Math.min(0.5, Math.max(1e-12, ones / Math.max(2, all)))
    const moved = Math.abs(found - prior) / prior
    m = next
    prior = found
    if (moved < 1e-4) break
  }
  return {
    prior,
    bits: (agreement, group) =>
      PLACES[group].every((f) => agreement[f] < 0) ? 0 : Math.log2(m.share(agreement, group) / u.share(agreement, group)),
  }
}

/** All evidence of an agreement in bits, how rare ones are included. */
export function weight(agreement: Agreement, weights: Weights): number {
  return GROUPS.reduce((bits, _, g) => bits + weights.bits(agreement, g), Math.log2(weights.prior / (1 - weights.prior)))
}

/** The chance that a pair of such a weight is one, from 0 to 1. */
export const probability = (bits: number): number => 1 / (1 + 2 ** -bits)

/** Weights as plain data: the chance, and the bits of every combination of levels a group can have. */
export interface WeightTable {
  prior: number
  bits: Record<string, number>[]
}

/** Weights as a table, so that they can be kept. */
export function tabled(weights: Weights): WeightTable {
  return {
    prior: weights.prior,
    bits: PLACES.map((fields, g) =>
      Object.fromEntries(
        combinations(fields).map((agreement) => [keysOf(agreement, fields)[0], Math.round(weights.bits(agreement, g) * 1000) / 1000]),
      ),
    ),
  }
}

function combinations(fields: readonly number[]): Agreement[] {
  return fields.reduce<Agreement[]>(
    (all, f) => all.flatMap((agreement) => [-1, ...AGREEMENTS[COMPARED[f]].keys()].map((level) => agreement.with(f, level))),
    [new Int8Array(COMPARED.length).fill(-1)],
  )
}

/** Weights from a table. A combination that it does not have tells nothing. */
export function weightsOf({ prior, bits }: WeightTable): Weights {
  const of = bits.map((group) => new Map(Object.entries(group).map(([key, value]) => [Number(key), value])))
  return { prior, bits: (agreement, g) => of[g].get(keysOf(agreement, PLACES[g])[0]) ?? 0 }
}
