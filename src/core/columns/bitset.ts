/**
 * A growable set of dense record numbers (0 ≤ n < size), one bit each in 32-bit words.
 * Operations that combine two sets treat the missing words of the shorter one as empty.
 */
export class Bitset {
  words: Uint32Array

  constructor(size = 0) {
    this.words = new Uint32Array((size + 31) >>> 5)
  }

  static from(numbers: Iterable<number>): Bitset {
    const set = new Bitset()
    for (const n of numbers) set.add(n)
    return set
  }

  has(n: number): boolean {
    const word = n >>> 5
    return word < this.words.length && (this.words[word] & (1 << (n & 31))) !== 0
  }

  add(n: number): void {
    const word = n >>> 5
    if (word >= this.words.length) this.grow(word + 1)
    this.words[word] |= 1 << (n & 31)
  }

  delete(n: number): void {
    const word = n >>> 5
    if (word < this.words.length) this.words[word] &= ~(1 << (n & 31))
  }

  private grow(words: number): void {
    const next = new Uint32Array(Math.max(words, this.words.length * 2, 8))
    next.set(this.words)
    this.words = next
  }

  clone(): Bitset {
    const copy = new Bitset()
    copy.words = this.words.slice()
    return copy
  }

  and(other: Bitset): Bitset {
    const length = Math.min(this.words.length, other.words.length)
    const result = new Bitset(length * 32)
    for (let i = 0; i < length; i++) result.words[i] = this.words[i] & other.words[i]
    return result
  }

  or(other: Bitset): Bitset {
    const [long, short] = this.words.length >= other.words.length ? [this, other] : [other, this]
    const result = long.clone()
    for (let i = 0; i < short.words.length; i++) result.words[i] |= short.words[i]
    return result
  }

  /** Everything in this set and not in the other. There is no bare `not`: a complement needs the live records. */
  andNot(other: Bitset): Bitset {
    const result = this.clone()
    const length = Math.min(this.words.length, other.words.length)
    for (let i = 0; i < length; i++) result.words[i] &= ~other.words[i]
    return result
  }

  count(): number {
    let total = 0
    for (let i = 0; i < this.words.length; i++) total += popcount(this.words[i])
    return total
  }

  /** How many of this set are in the other as well, without building the intersection. */
  countAnd(other: Bitset): number {
    const length = Math.min(this.words.length, other.words.length)
    let total = 0
    for (let i = 0; i < length; i++) total += popcount(this.words[i] & other.words[i])
    return total
  }

  isEmpty(): boolean {
    return this.words.every((word) => word === 0)
  }

  equals(other: Bitset): boolean {
    const length = Math.max(this.words.length, other.words.length)
    for (let i = 0; i < length; i++) if ((this.words[i] ?? 0) !== (other.words[i] ?? 0)) return false
    return true
  }

  /** Visits the members in ascending order. */
  forEach(visit: (n: number) => void): void {
    for (let i = 0; i < this.words.length; i++) {
      let word = this.words[i]
      while (word !== 0) {
        const low = word & -word
        visit((i << 5) + 31 - Math.clz32(low))
        word ^= low
      }
    }
  }

  /** The members as numbers, ascending. */
  toInt32(): Int32Array {
    const out = new Int32Array(this.count())
    let i = 0
    this.forEach((n) => {
      out[i++] = n
    })
    return out
  }

  toArray(): number[] {
    const out: number[] = []
    this.forEach((n) => out.push(n))
    return out
  }
}

/** Bits set in a 32-bit word. Source: H. S. Warren, Hacker's Delight, section 5-1. */
function popcount(word: number): number {
  let v = word - ((word >>> 1) & 0x55555555)
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333)
  return (((v + (v >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24
}
