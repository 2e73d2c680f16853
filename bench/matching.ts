import { fold } from '@/core/clean/fold'
import { nameKey } from '@/core/clean/name'
import { comparablePostal, postalKey } from '@/core/clean/postal'
import { AGREEMENTS, COMPARED } from '@/core/match/compare'
import { GROUPS, tabled, weightsOf } from '@/core/match/estimate'
import { KnownRecords } from '@/core/match/known-records'
import { DOUBT, findPairs, SAME } from '@/core/match/pairs'
import { isGivenName } from '@/core/match/given-names'
import type { Own } from '@/core/match/against'
import { whoIs } from '@/core/match/who-is'
import { match } from '@/core/match/same'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import { comparable, corrupted, KINDS_OF_ERROR, type Typed } from './corrupt'
import { lookAlikes } from './look-alikes'

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
  const kinds = KINDS_OF_ERROR.map((kind) =>
    rate(
      [...known].filter(([pair, k]) => k === kind && pairs.has(pair)).length,
      [...known.values()].filter((k) => k === kind).length,
    ).toFixed(3),
  )
  return `| ${name} | ${rate(right, pairs.size).toFixed(3)} | ${rate(right, known.size).toFixed(3)} | ${kinds.join(' | ')} | ${seconds.toFixed(1)} s |`
}

const began = performance.now()
const people = records.map(comparable)
const { pairs, weights, compared } = await findPairs(people)
const seconds = (performance.now() - began) / 1000
const named = (least: number) =>
  new Set(pairs.filter((pair) => pair.chance >= least).map(({ a, b }) => `${Math.min(a, b)} ${Math.max(a, b)}`))
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
    return {
      outsideId: null,
      emails: [...p.emails],
      phones: [...p.phones],
      name: p.given.length > 1 && p.family ? `${p.given}|${p.family}` : null,
      family: p.family,
      organisation: p.organisation || null,
      address: postalKey({ street: r.street || null, town: r.town || null, postcode: r.postcode || null }),
    }
  })
  keys.forEach((row, n) => {
    const near = new Set([...row.emails, ...row.phones, row.name ?? ''].filter(Boolean).flatMap((key) => index.get(key) ?? []))
    const is = match(
      row,
      [...near].map((id) => ({ id, ...keys[id] })),
    )
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
    for (const word of [p.given, p.family, p.organisation, p.postcode || p.town, ...p.emails, ...p.phones]
      .join(' ')
      .split(/[^\p{L}\p{N}]+/u)) {
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

console.log(
  `${size.toLocaleString('en')} records, ${truth.length.toLocaleString('en')} of them copies; ${compared.toLocaleString('en')} pairs compared.\n`,
)
console.log(
  `| | precision | recall | ${KINDS_OF_ERROR.join(' | ')} | time |\n|---|--:|--:|${KINDS_OF_ERROR.map(() => '--:').join('|')}|--:|`,
)
for (const outcome of outcomes) console.log(told(outcome))
console.log(
  `\nAs estimated, one of ${Math.round(1 / weights.prior).toLocaleString('en')} pairs is one. Evidence in bits, where all else is missing:`,
)
GROUPS.forEach((fields, g) =>
  fields.forEach((field) => {
    const f = COMPARED.indexOf(field)
    console.log(
      `  ${field}: ${AGREEMENTS[field]
        .map(
          (level, l) =>
            `${level} ${weights
              .bits(
                Int8Array.from(COMPARED, (_, at) => (at === f ? l : -1)),
                g,
              )
              .toFixed(1)}`,
        )
        .join(', ')}`,
    )
  }),
)
rowsAgainstKnown()

/** What a record is matched by, as a row of a file or as somebody known. */
function keysOf(n: number, r: Typed) {
  const p = comparable(r)
  const own: Own = { ...p, ownEmails: p.emails, mobiles: p.phones.filter((phone) => phone.startsWith('07')) }
  const address = comparablePostal({ street: r.street || null, town: r.town || null, postcode: r.postcode || null })
  return {
    id: n,
    outsideId: null,
    emails: [...p.emails],
    phones: [...p.phones],
    name: nameKey(r.given, r.family),
    family: fold(r.family),
    organisation: p.organisation || null,
    address,
    own,
  }
}

/** The copies, as many who are new, and look-alikes, as rows of a file against all others: what each is taken for, as an intake decides it. */
function rowsAgainstKnown(): void {
  const copies = new Map(truth.map((t) => [t.copy, t]))
  const originals = new Set(truth.map((t) => t.of))
  const fresh = new Set(
    records
      .map((_, n) => n)
      .filter((n) => !copies.has(n) && !originals.has(n))
      .slice(0, copies.size),
  )
  const pairs = lookAlikes(Math.max(30, Math.round(size / 250)))
  const rows: { row: Typed; of: number | null; kind: string }[] = []
  const base: Typed[] = records.filter((_, n) => !copies.has(n) && !fresh.has(n))
  const placeOf = new Map(records.map((r, n) => [n, base.indexOf(r)]).filter(([n]) => originals.has(n as number)) as [number, number][])
  for (const [n, { of, kind }] of copies) rows.push({ row: records[n], of: placeOf.get(of) ?? null, kind })
  for (const n of fresh) rows.push({ row: records[n], of: null, kind: 'new' })
  for (const { row, known: one, kind, one: isOne } of pairs) {
    base.push(one)
    rows.push({ row, of: isOne ? base.length - 1 : null, kind })
  }
  const everybody = base.map((r, n) => keysOf(n, r))
  const index = new Map<string, number[]>()
  everybody.forEach((k, n) => {
    for (const key of [...k.emails, ...k.phones, k.name ?? ''].filter(Boolean)) index.set(key, [...(index.get(key) ?? []), n])
  })
  for (const [name, used] of [
    ['weights of this set', weights],
    ['usual weights', weightsOf(USUAL_WEIGHTS)],
  ] as const) {
    const at = performance.now()
    const known = new KnownRecords(used, base.length)
    everybody.forEach(({ own }, n) => known.add(n, own))
    known.settle()
    const tally = new Map<string, { rows: number; right: number; doubt: number; doubtRight: number; wrong: number; one: number }>()
    for (const { row, of, kind } of rows) {
      const keys = keysOf(-1, row)
      const near = [
        ...new Set([...keys.emails, ...keys.phones, keys.name ?? ''].filter(Boolean).flatMap((key) => index.get(key) ?? [])),
      ].map((n) => everybody[n])
      const likeness = { like: () => known.find(keys.own).map((n) => everybody[n]), of: (a: Own, b: Own) => known.likeness(a, b) }
      const is = whoIs(keys, near, likeness, (word) => isGivenName(word) || known.isGiven(word))
      const t = tally.get(kind) ?? { rows: 0, right: 0, doubt: 0, doubtRight: 0, wrong: 0, one: 0 }
      tally.set(kind, t)
      t.rows++
      if (of !== null) t.one++
      if (is.is === 'same') {
        if (is.id === of) t.right++
        else {
          t.wrong++
          if (process.env.WRONG) console.log('wrong', kind, is.by, JSON.stringify(row), JSON.stringify(base[is.id]))
        }
      }
      if (is.is === 'in doubt') {
        t.doubt++
        if (of !== null && is.ids.includes(of)) t.doubtRight++
      } else if (of !== null && is.is === 'new' && process.env.MISSED && Math.random() < 0.02)
        console.log('missed', kind, JSON.stringify(row), JSON.stringify(base[of]))
    }
    const sum = (of: 'rows' | 'right' | 'doubt' | 'doubtRight' | 'wrong' | 'one', kinds: readonly string[] = [...tally.keys()]) =>
      kinds.reduce((all, kind) => all + (tally.get(kind)?.[of] ?? 0), 0)
    console.log(
      `\nRows against known, ${name}: ${rows.length.toLocaleString('en')} rows against ${base.length.toLocaleString('en')}, in ${((performance.now() - at) / 1000).toFixed(1)} s. Taken as the same: precision ${rate(sum('right'), sum('right') + sum('wrong')).toFixed(4)}; of the copies (${KINDS_OF_ERROR.length} kinds) recall ${rate(sum('right', KINDS_OF_ERROR), sum('one', KINDS_OF_ERROR)).toFixed(3)}, with those in doubt ${rate(sum('right', KINDS_OF_ERROR) + sum('doubtRight', KINDS_OF_ERROR), sum('one', KINDS_OF_ERROR)).toFixed(3)}.`,
    )
    console.log(
      '\n| kind | rows | the same, rightly | in doubt | the right one among them | the same, wrongly |\n|---|--:|--:|--:|--:|--:|',
    )
    for (const [kind, t] of tally)
      console.log(`| ${kind} | ${t.rows} | ${t.one ? t.right : '—'} | ${t.doubt} | ${t.one ? t.doubtRight : '—'} | ${t.wrong} |`)
  }
}
if (process.env.WEIGHTS) console.log(JSON.stringify(tabled(weights)))
if (process.env.WRONG) {
  const wrong = pairs.filter(({ a, b, chance }) => chance >= SAME && !known.has(`${Math.min(a, b)} ${Math.max(a, b)}`))
  for (const pair of wrong.filter((_, i) => i % Math.ceil(wrong.length / 12) === 0))
    console.log(pair.chance.toFixed(3), JSON.stringify(records[pair.a]), JSON.stringify(records[pair.b]))
  const sure = named(SAME)
  for (const [pair, kind] of [...known].filter(([pair]) => !sure.has(pair)).slice(0, 14)) {
    const [a, b] = pair.split(' ').map(Number)
    console.log(
      kind,
      pairs.find((p) => p.a === a && p.b === b)?.chance.toFixed(3) ?? 'not found',
      JSON.stringify(records[a]),
      JSON.stringify(records[b]),
    )
  }
}
