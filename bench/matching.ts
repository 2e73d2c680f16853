import { postalKey } from '@/core/clean/postal'
import { AGREEMENTS, type Comparable, COMPARED } from '@/core/match/compare'
import { GROUPS, tabled, weightsOf } from '@/core/match/estimate'
import { KnownRecords } from '@/core/match/known-records'
import { DOUBT, findPairs, SAME } from '@/core/match/pairs'
import { scored } from '@/core/match/scored'
import { match } from '@/core/match/same'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import { comparable, corrupted, KINDS_OF_ERROR } from './corrupt'

/**
 * node --import tsx bench/matching.ts [SIZE] [SEED]: how well doubles are found in a seeded set of known truth, a tenth of it corrupted copies; beside it the
 * same with exact keys alone and with trigrams alone.
 */
const size = Number(process.argv[2] ?? 50_000)
const { records, truth } = corrupted(size, size / 10, Number(process.argv[3] ?? 4711))
const known = new Map(truth.map(({ copy, of, kind }) => [`${of} ${copy}`, kind]))

interface Outcome {
  name: string
  seconds: number
  pairs: Set<string>
}
const rate = (part: number, whole: number) => (whole === 0 ? 0 : part / whole)
function told({ name, seconds, pairs }: Outcome): string {
  const right = [...pairs].filter((pair) => known.has(pair)).length
  const kinds = KINDS_OF_ERROR.map((kind) => rate([...known].filter(([pair, k]) => k === kind && pairs.has(pair)).length, [...known.values()].filter((k) => k === kind).length).toFixed(3))
  return `| ${name} | ${rate(right, pairs.size).toFixed(3)} | ${rate(right, known.size).toFixed(3)} | ${kinds.join(' | ')} | ${seconds.toFixed(1)} s |`
}

const began = performance.now()
const people = records.map(comparable)
const { pairs, weights, compared } = await findPairs(people)
const seconds = (performance.now() - began) / 1000
const named = (least: number) => new Set(pairs.filter((pair) => pair.chance >= least).map(({ a, b }) => `${Math.min(a, b)} ${Math.max(a, b)}`))
const outcomes: Outcome[] = [
  { name: 'scored, taken as the same', seconds, pairs: named(SAME) },
  { name: 'scored, those in doubt too', seconds, pairs: named(DOUBT) },
  exact(),
  ...(process.env.QUICK ? [] : [trigrams()]),
]

function exact(): Outcome {
  const at = performance.now()
  const found = new Set<string>()
  const index = new Map<string, number[]>()
  const keys = records.map((r, n) => {
    const p = people[n]
    return { outsideId: null, emails: [...p.emails], phones: [...p.phones], name: p.given.length > 1 && p.family ? `${p.given}|${p.family}` : null, family: p.family, organisation: p.organisation || null, address: postalKey({ street: r.street || null, town: r.town || null, postcode: r.postcode || null }) }
  })
  keys.forEach((row, n) => {
    const near = new Set([...row.emails, ...row.phones, row.name ?? ''].filter(Boolean).flatMap((key) => index.get(key) ?? []))
    const is = match(row, [...near].map((id) => ({ id, ...keys[id] })))
    if (is.is === 'same') found.add(`${is.id} ${n}`)
    for (const key of [...row.emails, ...row.phones, row.name ?? ''].filter(Boolean)) index.set(key, [...(index.get(key) ?? []), n])
  })
  return { name: 'exact keys alone', seconds: (performance.now() - at) / 1000, pairs: found }
}

/** Trigrams of name, organisation, town, e-mail and phone as one text, as pg_trgm counts them, at the limit that does best on this very set. */
function trigrams(): Outcome {
  const at = performance.now()
  const codes = new Map<string, number>()
  const of = people.map((p) => {
    const grams = new Set<number>()
    for (const word of [p.given, p.family, p.organisation, p.postcode || p.town, ...p.emails, ...p.phones].join(' ').split(/[^\p{L}\p{N}]+/u)) {
      if (!word) continue
      const padded = `  ${word} `
      for (let i = 0; i + 3 <= padded.length; i++) {
        const gram = padded.slice(i, i + 3)
        let code = codes.get(gram)
        if (code === undefined) codes.set(gram, (code = codes.size))
        grams.add(code)
      }
    }
    return grams
  })
  // Two records that share none of their six rarest trigrams are not compared.
  const counts = new Int32Array(codes.size)
  for (const grams of of) for (const gram of grams) counts[gram]++
  const index = new Map<number, number[]>()
  of.forEach((grams, n) => {
    for (const gram of [...grams].sort((a, b) => counts[a] - counts[b]).slice(0, 6)) index.set(gram, [...(index.get(gram) ?? []), n])
  })
  const scored = new Map<string, number>()
  for (const block of index.values()) {
    if (block.length > 400) continue
    for (let i = 0; i < block.length; i++)
      for (let j = i + 1; j < block.length; j++) {
        const key = `${block[i]} ${block[j]}`
        if (scored.has(key)) continue
        let both = 0
        for (const gram of of[block[i]]) if (of[block[j]].has(gram)) both++
        scored.set(key, both / (of[block[i]].size + of[block[j]].size - both))
      }
  }
  let best = { f1: 0, pairs: new Set<string>() }
  for (let limit = 0.4; limit < 0.96; limit += 0.02) {
    const pairs = new Set([...scored].filter(([, s]) => s >= limit).map(([key]) => key))
    const right = [...pairs].filter((pair) => known.has(pair)).length
    const [precision, recall] = [rate(right, pairs.size), rate(right, known.size)]
    const f1 = rate(2 * precision * recall, precision + recall)
    if (f1 > best.f1) best = { f1, pairs }
  }
  return { name: 'trigrams alone, at their best limit', seconds: (performance.now() - at) / 1000, pairs: best.pairs }
}

console.log(`${size.toLocaleString('en')} records, ${truth.length.toLocaleString('en')} of them copies; ${compared.toLocaleString('en')} pairs compared.\n`)
console.log(`| | precision | recall | ${KINDS_OF_ERROR.join(' | ')} | time |\n|---|--:|--:|${KINDS_OF_ERROR.map(() => '--:').join('|')}|--:|`)
for (const outcome of outcomes) console.log(told(outcome))
console.log(`\nAs estimated, one of ${Math.round(1 / weights.prior).toLocaleString('en')} pairs is one. Evidence in bits, where all else is missing:`)
GROUPS.forEach((fields, g) =>
  fields.forEach((field) => {
    const f = COMPARED.indexOf(field)
    console.log(`  ${field}: ${AGREEMENTS[field].map((level, l) => `${level} ${weights.bits(Int8Array.from(COMPARED, (_, at) => (at === f ? l : -1)), g).toFixed(1)}`).join(', ')}`)
  }),
)
rowsAgainstKnown()

/** The copies and as many who are new, as rows of a file against all others: what each is taken for by itself. */
function rowsAgainstKnown(): void {
  const copies = new Map(truth.map((t) => [t.copy, t]))
  const originals = new Set(truth.map((t) => t.of))
  const fresh = new Set(people.map((_, n) => n).filter((n) => !copies.has(n) && !originals.has(n)).slice(0, copies.size))
  for (const [name, weightsUsed] of [['weights of this set', weights], ['usual weights', weightsOf(USUAL_WEIGHTS)]] as const) {
    const at = performance.now()
    const known = new KnownRecords(weightsUsed, people.length)
    people.forEach((person, n) => !copies.has(n) && !fresh.has(n) && known.add(n, person))
    known.settle()
    const built = (performance.now() - at) / 1000
    const tally = { same: 0, right: 0, doubt: 0, doubtRight: 0, newSame: 0, newDoubt: 0 }
    for (const n of [...copies.keys(), ...fresh]) {
      const ids = new Set([...known.find(people[n]), ...people.flatMap((p, k) => (!copies.has(k) && !fresh.has(k) && sharesExactly(p, people[n]) ? [k] : []))])
      const is = scored([...ids].map((id) => ({ id, ...known.likeness(people[n], people[id]) })))
      const of = copies.get(n)?.of
      if (is.is === 'same') {
        tally.same++
        if (is.id === of) tally.right++
        if (of === undefined) tally.newSame++
      }
      if (is.is === 'in doubt') {
        tally.doubt++
        if (of === undefined) tally.newDoubt++
        else if (is.ids.includes(of)) tally.doubtRight++
      }
    }
    console.log(`\nRows against known, ${name}: ${copies.size} known and ${fresh.size} new rows. Taken as the same: precision ${rate(tally.right, tally.same).toFixed(3)}, recall ${rate(tally.right, copies.size).toFixed(3)}; in doubt ${tally.doubt}, the right one among them for ${tally.doubtRight}; of the new, ${tally.newSame} taken as somebody known, ${tally.newDoubt} in doubt. Index built in ${built.toFixed(1)} s.`)
  }
}
function sharesExactly(a: Comparable, b: Comparable): boolean {
  return b.emails.some((e) => a.emails.includes(e)) || b.phones.some((p) => a.phones.includes(p))
}
if (process.env.WEIGHTS) console.log(JSON.stringify(tabled(weights)))
if (process.env.WRONG) {
  const wrong = pairs.filter(({ a, b, chance }) => chance >= SAME && !known.has(`${Math.min(a, b)} ${Math.max(a, b)}`))
  for (const pair of wrong.filter((_, i) => i % Math.ceil(wrong.length / 12) === 0)) console.log(pair.chance.toFixed(3), JSON.stringify(records[pair.a]), JSON.stringify(records[pair.b]))
  const sure = named(SAME)
  for (const [pair, kind] of [...known].filter(([pair]) => !sure.has(pair)).slice(0, 14)) {
    const [a, b] = pair.split(' ').map(Number)
    console.log(kind, pairs.find((p) => p.a === a && p.b === b)?.chance.toFixed(3) ?? 'not found', JSON.stringify(records[a]), JSON.stringify(records[b]))
  }
}
