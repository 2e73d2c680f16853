/**
 * How alike two texts are, from 0 to 1. Jaro 1989 with the common prefix of Winkler 1990: half of the transpositions rounded
 * down, a prefix of at most four letters, scaled by 0.1, where Jaro alone is above 0.7. Two empty texts are alike.
 */
export function jaroWinkler(a: string, b: string): number {
  if (a === b) return 1
  const jaro = jaroOf(a, b)
  if (jaro <= 0.7) return jaro
  let prefix = 0
  while (prefix < 4 && prefix < a.length && a[prefix] === b[prefix]) prefix++
  return jaro + prefix * 0.1 * (1 - jaro)
}

function jaroOf(a: string, b: string): number {
  if (a.length === 0 || b.length === 0) return 0
  const range = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1)
  const taken = new Uint8Array(b.length)
  let of = ''
  for (let i = 0; i < a.length; i++) {
    const end = Math.min(b.length, i + range + 1)
    for (let j = Math.max(0, i - range); j < end; j++) {
      if (taken[j] || a[i] !== b[j]) continue
      taken[j] = 1
      of += a[i]
      break
    }
  }
  if (of.length === 0) return 0
  let moved = 0
  for (let j = 0, k = 0; j < b.length; j++) if (taken[j] && b[j] !== of[k++]) moved++
  const common = of.length
  return (common / a.length + common / b.length + (common - Math.floor(moved / 2)) / common) / 3
}

/** The letters of a text as a set of bits, so that two which have too few in common are told apart at once. */
export function lettersOf(text: string): number {
  let known = letters.get(text)
  if (known === undefined) {
    if (letters.size > 500_000) letters.clear()
    known = 0
    for (let i = 0; i < text.length; i++) known |= 1 << (text.charCodeAt(i) & 31)
    letters.set(text, known)
  }
  return known
}
const letters = new Map<string, number>()

/** How many letters are in one of two texts and not in the other. */
export function lettersApart(a: string, b: string): number {
  let bits = lettersOf(a) ^ lettersOf(b)
  let n = 0
  for (; bits !== 0; bits &= bits - 1) n++
  return n
}

/** The share of words that two texts have in common, of all words in either (Jaccard 1901). */
export function sharedWords(a: string, b: string): number {
  const [left, right] = [new Set(a.split(' ')), new Set(b.split(' '))]
  let both = 0
  for (const word of left) if (right.has(word)) both++
  return both / (left.size + right.size - both)
}

/** One slip of the pen. A number behind a name tells two mailboxes apart and is none. */
export const slipped = (a: string, b: string): boolean =>
  a.includes('@') ? oneSlip(a.replace(/\d/g, '0'), b.replace(/\d/g, '0')) : oneSlip(a, b)

/** Whether two texts of one length differ in one place, or in two that changed places. */
export function oneSlip(a: string, b: string): boolean {
  if (a.length !== b.length || a === b) return false
  let i = 0
  while (a[i] === b[i]) i++
  return a.slice(i + 1) === b.slice(i + 1) || (a[i] === b[i + 1] && a[i + 1] === b[i] && a.slice(i + 2) === b.slice(i + 2))
}
