import type { Bitset } from '../columns/bitset'
import type { Directory } from '../columns/directory'
import type { Subject } from '../records/subject'
import type { Moment } from '../criteria/kind'
import { countBy } from './group'
import type { FacetValues } from './facet'
import { FACETS } from './registry'

/** Facets by which likeness is told: what somebody is, and not what we did with them or happen to know. */
export const TELLING: Record<Subject, readonly string[]> = {
  person: [
    'role',
    'level',
    'function',
    'industry',
    'head-count',
    'legal-kind',
    'seat',
    'town',
    'county',
    'premises-kind',
    'roof',
    'part',
    'in-role',
  ],
  organisation: ['industry', 'head-count', 'legal-kind', 'seat', 'town', 'county'],
  premises: ['premises-kind', 'roof', 'built', 'owner-kind', 'owner-lives', 'worth', 'equity', 'town'],
}

/** What one value of a facet says for likeness. */
export interface Weight {
  key: string
  label: string
  /** Natural logarithm of how many times as common it is among the examples as among everybody. */
  weight: number
  examples: number
  everybody: number
}

/** What is learnt from examples, facet by facet, by the place of each label. */
export interface Likeness {
  facets: { key: string; title: string; values: FacetValues; weights: Float64Array; examples: Int32Array; everybody: Int32Array }[]
}

/** Examples that are as good as added to each value, in the proportions of everybody, so that a rare value does not decide. */
const PRIOR = 10

/**
 * Learns from examples what sets them apart: for each value of each telling facet the smoothed log-odds
 * ln((k + a·q) / (K + a)) − ln q, where k of K examples whose value is known have it, q is its share among everybody and a the
 * prior. A missing value says nothing. Source: B. Monroe, M. Colaresi and K. Quinn, Fightin' Words, Political Analysis 16(4),
 * 2008, section 3.3 (log-odds with an informative prior); summed over facets as in naive Bayes (D. Hand and K. Yu, Idiot's
 * Bayes, International Statistical Review 69(3), 2001).
 */
export function learnt(examples: Bitset, everybody: Bitset, subject: Subject, directory: Directory, moment: Moment): Likeness {
  return { facets: TELLING[subject].map((key) => learntBy(key, examples, everybody, subject, directory, moment)) }
}

/** The same by one facet. */
export function learntBy(
  key: string,
  examples: Bitset,
  everybody: Bitset,
  subject: Subject,
  directory: Directory,
  moment: Moment,
): Likeness['facets'][number] {
  const { title, values } = FACETS[subject][key]
  const found = values(directory, moment)
  const [own, all] = [countBy(examples, found).counts, countBy(everybody, found).counts]
  const [known, total] = [sum(own), sum(all)]
  const weights = Float64Array.from(found.labels, (_, i) =>
    all[i] === 0 || known === 0 ? 0 : Math.log((own[i] + (PRIOR * all[i]) / total) / (known + PRIOR)) - Math.log(all[i] / total),
  )
  return { key, title, values: found, weights, examples: own, everybody: all }
}

const sum = (counts: Int32Array) => counts.reduce((total, n) => total + n, 0)

/** How like the examples a record is: the sum of its weights. */
export function scoreOf({ facets }: Likeness, n: number): number {
  let score = 0
  for (const { values, weights } of facets) {
    const at = values.at(n)
    if (at >= 0) score += weights[at]
  }
  return score
}

/** Why a record scores as it does: what says most, for or against. */
export function reasonsOf({ facets }: Likeness, n: number, most = 4): Weight[] {
  return facets
    .flatMap(({ key, values, weights, examples, everybody }): Weight[] => {
      const at = values.at(n)
      return at < 0 ? [] : [{ key, label: values.labels[at], weight: weights[at], examples: examples[at], everybody: everybody[at] }]
    })
    .sort((a, b) => Math.abs(b.weight) - Math.abs(a.weight))
    .slice(0, most)
}

/** Adds what one facet says to the scores of all records of a set, by record number. */
export function addScores({ values, weights }: Likeness['facets'][number], among: Bitset, scores: Float64Array): void {
  among.forEach((n) => {
    const at = values.at(n)
    if (at >= 0) scores[n] += weights[at]
  })
}

/** Of the records of a set those with the highest scores, ties by record number: so many at most. */
export function highest(among: Bitset, scores: Float64Array, most: number): { n: number; score: number }[] {
  const numbers = among.toInt32()
  if (most <= 0 || numbers.length === 0) return []
  // The lowest score that is among them, by a sort of plain numbers; only who has it or more is put in order.
  const all = Float64Array.from(numbers, (n) => scores[n]).sort()
  const least = all[Math.max(0, all.length - most)]
  const found: { n: number; score: number }[] = []
  for (const n of numbers) if (scores[n] >= least) found.push({ n, score: scores[n] })
  return found.sort((a, b) => b.score - a.score || a.n - b.n).slice(0, most)
}

/** The records of a set that are most like the examples, the originals left out; ties by record number. */
export function mostAlike(likeness: Likeness, among: Bitset, originals: Bitset, most: number): { n: number; score: number }[] {
  const others = among.andNot(originals)
  const scores = new Float64Array(among.words.length * 32)
  for (const facet of likeness.facets) addScores(facet, others, scores)
  return highest(others, scores, most)
}

/**
 * Area under the ROC curve: how often one of the first scores higher than one of the second, ties as half. By ranks, as the
 * Mann–Whitney statistic (J. Hanley and B. McNeil, Radiology 143(1), 1982). Not a number where either is empty.
 */
export function areaUnderCurve(positive: readonly number[], negative: readonly number[]): number {
  const all = [...positive.map((score) => ({ score, is: 1 })), ...negative.map((score) => ({ score, is: 0 }))].sort(
    (a, b) => a.score - b.score,
  )
  let rankSum = 0
  for (let i = 0; i < all.length; ) {
    let end = i
    while (end < all.length && all[end].score === all[i].score) end++
    const rank = (i + 1 + end) / 2
    for (let j = i; j < end; j++) rankSum += all[j].is * rank
    i = end
  }
  const [p, q] = [positive.length, negative.length]
  return p === 0 || q === 0 ? Number.NaN : (rankSum - (p * (p + 1)) / 2) / (p * q)
}
