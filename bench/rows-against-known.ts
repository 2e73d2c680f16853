import { weightsOf } from '@/core/match/estimate'
import { KnownRecords } from '@/core/match/known-records'
import { scored } from '@/core/match/scored'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import { comparable, corrupted } from './corrupt'

/**
 * node --expose-gc --import tsx bench/rows-against-known.ts [KNOWN] [ROWS] [SEED]: rows of a file, half of them corrupted copies of somebody known and half new,
 * each compared with everybody known and scored; how long that takes, what the directory takes up at hand, and how well it tells them apart.
 */
const known = Number(process.argv[2] ?? 1_000_000)
const rows = Number(process.argv[3] ?? 100_000)
const { records, truth } = corrupted(known + rows, rows / 2, Number(process.argv[4] ?? 4711))
const people = records.map(comparable)
const copies = new Map(truth.map((t) => [t.copy, t.of]))
const originals = new Set(truth.map((t) => t.of))
const fresh = new Set<number>()
for (let n = 0; fresh.size < rows / 2; n += 3) if (!copies.has(n) && !originals.has(n)) fresh.add(n)

// Who shares an e-mail or phone exactly is found by its key in the database; here by a table.
const exact = new Map<string, number[]>()
people.forEach((p, n) => {
  if (copies.has(n) || fresh.has(n)) return
  for (const key of [...p.emails, ...p.phones]) exact.set(key, [...(exact.get(key) ?? []), n])
})
global.gc?.()
const before = process.memoryUsage()
let at = performance.now()
const all = new KnownRecords(weightsOf(USUAL_WEIGHTS), known)
people.forEach((p, n) => !copies.has(n) && !fresh.has(n) && all.add(n, p))
all.settle()
const built = (performance.now() - at) / 1000
global.gc?.()
const after = process.memoryUsage()
const held = (after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers) / 1e6

at = performance.now()
const tally = { same: 0, right: 0, doubt: 0, newSame: 0, newDoubt: 0 }
for (const n of [...copies.keys(), ...fresh]) {
  const ids = new Set([
    ...all.find(people[n]),
    ...[...people[n].emails, ...people[n].phones].flatMap((key) => (exact.get(key) ?? []).slice(0, 50)),
  ])
  const is = scored([...ids].map((id) => ({ id, ...all.likeness(people[n], people[id]) })))
  const of = copies.get(n)
  if (is.is === 'same') {
    tally.same++
    if (is.id === of) tally.right++
    if (of === undefined) tally.newSame++
  }
  if (is.is === 'in doubt') {
    tally.doubt++
    if (of === undefined) tally.newDoubt++
  }
}
const took = (performance.now() - at) / 1000
console.log(
  `${all.size.toLocaleString('en')} known at hand in ${built.toFixed(1)} s and ${held.toFixed(0)} MB; ${(copies.size + fresh.size).toLocaleString('en')} rows compared with them in ${took.toFixed(1)} s.`,
)
console.log(
  `Of ${copies.size.toLocaleString('en')} rows that are somebody known: taken as the same with precision ${(tally.right / tally.same).toFixed(3)} and recall ${(tally.right / copies.size).toFixed(3)}; of ${fresh.size.toLocaleString('en')} new, ${tally.newSame} taken as somebody known and ${tally.newDoubt} in doubt; in doubt altogether ${tally.doubt.toLocaleString('en')}.`,
)
