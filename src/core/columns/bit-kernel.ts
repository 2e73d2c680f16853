import { popcount } from './popcount'

/** What one pass over who is on does: who stays on, and how many of whom. */
export interface Passed {
  next: Int32Array
  /** Of those before: who stays; who goes and is unknown; who stays though unknown. */
  stay: number
  unknown: number
  stayed: number
}

export interface Taken {
  next: Int32Array
  /** Who is taken in that was not on, and who of those was seen before. */
  fresh: number
  back: number
}

/** Words that may be missing have nobody; words beyond the end of a set are empty. */
type Words = Int32Array | null

/** Steps put before each other from the last one on, and how many each leaves. */
export interface Composer {
  /** How many of `b` the steps so far leave, with whom they take in; then puts a step before them: who stays by `pass` (or, turned round, without it) and whom it takes in. */
  put(b: Int32Array, pass: Words, round: boolean, take: Words): number
}

/**
 * The passes over bits that an account is made of. Two do the same: one in plain words of 32 bits, and one of 128 bits at a
 * time, some ten times as fast, where the machine has it. A property test holds them against each other.
 */
export interface BitKernel {
  /** Who of `b` stays: those in `pass`, or, turned round, those not in it. */
  pass(b: Int32Array, pass: Int32Array, round: boolean, unknown: Words, stays: Words): Passed
  /** `b` with whom `take` has, counted apart where `seen` has them. */
  take(b: Int32Array, take: Int32Array, seen: Int32Array): Taken
  /** Begins with the step that keeps everybody of `live` and takes in nobody. */
  composer(live: Int32Array): Composer
  /** How many are in both. */
  both(a: Int32Array, b: Int32Array): number
}

export const plainKernel: BitKernel = {
  pass(b, pass, round, unknown, stays) {
    const next = new Int32Array(b.length)
    const counts = { stay: 0, unknown: 0, stayed: 0 }
    for (let i = 0; i < b.length; i++) {
      const asked = i < pass.length ? pass[i] : 0
      const stay = b[i] & (round ? ~asked : asked)
      next[i] = stay
      counts.stay += popcount(stay)
      if (unknown && i < unknown.length) counts.unknown += popcount(b[i] & ~stay & unknown[i])
      if (stays && i < stays.length) counts.stayed += popcount(stay & stays[i])
    }
    return { next, ...counts }
  },
  take(b, take, seen) {
    const next = new Int32Array(Math.max(b.length, take.length))
    next.set(b)
    let [fresh, back] = [0, 0]
    for (let i = 0; i < take.length; i++) {
      const taken = take[i] & ~next[i]
      fresh += popcount(taken)
      if (i < seen.length) back += popcount(taken & seen[i])
      next[i] |= taken
    }
    return { next, fresh, back }
  },
  composer(live) {
    const keep = live.slice()
    const takes = new Int32Array(live.length)
    return {
      put(b, pass, round, take) {
        let left = 0
        for (let i = 0; i < keep.length; i++) {
          const k = keep[i]
          left += popcount(((i < b.length ? b[i] : 0) & k) | takes[i])
          if (take && i < take.length) takes[i] |= take[i] & k
          const asked = pass && i < pass.length ? pass[i] : 0
          if (pass) keep[i] = k & (round ? ~asked : asked)
        }
        return left
      },
    }
  },
  both(a, b) {
    let count = 0
    for (let i = Math.min(a.length, b.length) - 1; i >= 0; i--) count += popcount(a[i] & b[i])
    return count
  },
}

interface Exports {
  memory: WebAssembly.Memory
  pass(b: number, p: number, u: number, s: number, next: number, length: number, turn: number): void
  take(b: number, t: number, w: number, next: number, length: number): void
  compose(b: number, keep: number, take: number, p: number, t: number, length: number, turn: number): void
  both(a: number, b: number, length: number): void
}

/** Bytes at the beginning of the memory for counts. */
const HEAD = 64
/** Places in the memory, each of as many words as the longest set: what a pass reads and writes, and what composing goes on with. */
const [A, B, C, D, NEXT, KEEP, TAKE] = [0, 1, 2, 3, 4, 5, 6]
const PLACES = 7

/** The passes as `bit-kernel.wat` says them. Sets are copied in and out, which costs little beside counting them by words. */
class WideKernel implements BitKernel {
  private words = new Int32Array(0)
  /** How many words a place has, a multiple of four. */
  private room = 0
  /** Whose steps are in the memory; another composer's are gone. */
  private composing: object | null = null

  constructor(private readonly kernel: Exports) {
    this.hold(1024)
  }

  private hold(words: number): void {
    if (words <= this.room) return
    this.room = (Math.ceil(words * 1.2) + 3) & ~3
    const bytes = HEAD + PLACES * this.room * 4
    const { memory } = this.kernel
    if (memory.buffer.byteLength < bytes) memory.grow(Math.ceil((bytes - memory.buffer.byteLength) / 65_536))
    this.words = new Int32Array(memory.buffer)
    this.composing = null
  }

  private at = (place: number): number => HEAD + place * this.room * 4

  /** Copies a set to a place, with nobody beyond its end. */
  private put(place: number, words: Words, length: number): void {
    const start = this.at(place) >> 2
    const own = words ? Math.min(words.length, length) : 0
    if (words) this.words.set(own < words.length ? words.subarray(0, own) : words, start)
    this.words.fill(0, start + own, start + length)
  }

  private read = (words: number): Int32Array => this.words.slice(this.at(NEXT) >> 2, (this.at(NEXT) >> 2) + words)

  pass(b: Int32Array, pass: Int32Array, round: boolean, unknown: Words, stays: Words): Passed {
    const length = (b.length + 3) & ~3
    this.hold(length)
    this.put(A, b, length)
    this.put(B, pass, length)
    this.put(C, unknown, length)
    this.put(D, stays, length)
    this.kernel.pass(this.at(A), this.at(B), this.at(C), this.at(D), this.at(NEXT), length * 4, round ? -1 : 0)
    const [stay, open, stayed] = this.words
    return { next: this.read(b.length), stay, unknown: open, stayed }
  }

  take(b: Int32Array, take: Int32Array, seen: Int32Array): Taken {
    const size = Math.max(b.length, take.length)
    const length = (size + 3) & ~3
    this.hold(length)
    this.put(A, b, length)
    this.put(B, take, length)
    this.put(C, seen, length)
    this.kernel.take(this.at(A), this.at(B), this.at(C), this.at(NEXT), length * 4)
    const [fresh, back] = this.words
    return { next: this.read(size), fresh, back }
  }

  composer(live: Int32Array): Composer {
    const length = (live.length + 3) & ~3
    this.hold(length)
    this.put(KEEP, live, length)
    this.put(TAKE, null, length)
    const own = {
      put: (b: Int32Array, pass: Words, round: boolean, take: Words): number => {
        if (this.composing !== own) throw new Error('another list was begun while one was composed')
        this.put(A, b, length)
        this.put(B, pass, length)
        this.put(C, take, length)
        this.kernel.compose(this.at(A), this.at(KEEP), this.at(TAKE), this.at(B), this.at(C), length * 4, pass === null || round ? -1 : 0)
        return this.words[0]
      },
    }
    this.composing = own
    return own
  }

  both(a: Int32Array, b: Int32Array): number {
    const size = Math.min(a.length, b.length)
    if (size < FEW) return plainKernel.both(a, b)
    const length = (size + 3) & ~3
    this.hold(length)
    this.put(A, size < a.length ? a.subarray(0, size) : a, length)
    if (b !== a) this.put(B, size < b.length ? b.subarray(0, size) : b, length)
    this.kernel.both(this.at(A), this.at(b === a ? A : B), length * 4)
    return this.words[0]
  }
}

/** Below so many words copying a set costs more than counting it. */
const FEW = 64

/** The wide passes, or null where WebAssembly has no vectors or may not be run, as in a page that forbids it. */
export function wideKernel(): BitKernel | null {
  if (typeof WebAssembly === 'undefined') return null
  const bytes = Uint8Array.from(atob(WIDE), (letter) => letter.charCodeAt(0))
  try {
    return new WideKernel(new WebAssembly.Instance(new WebAssembly.Module(bytes)).exports as unknown as Exports)
  } catch {
    return null
  }
}

/** `bit-kernel.wat` assembled; a test holds it against its source and says how to make it anew. */
export const WIDE =
  'AGFzbQEAAAABHgRgAXsBf2AHf39/f39/fwBgBX9/f39/AGADf39/AAMGBQABAgEDBQMBAAEHKQUGbWVtb3J5AgAEcGFzcwABBHRha2UAAgdjb21wb3NlAAMEYm90aAAECqgEBRkAIAD9' +
  'GwAgAP0bAWogAP0bAiAA/RsDamoLrQECAX8GeyAG/REhCgJAA0AgByAFTw0BIAAgB2r9AAQAIQggCCABIAdq/QAEACAK/VH9TiEJIAQgB2ogCf0LBAAgCyAJ/WL9ff1//a4BIQsgDCAI' +
  'IAn9TyACIAdq/QAEAP1O/WL9ff1//a4BIQwgDSAJIAMgB2r9AAQA/U79Yv19/X/9rgEhDSAHQRBqIQcMAAsLQQAgCxAANgIAQQQgDBAANgIAQQggDRAANgIAC4ABAgF/BHsCQANAIAUg' +
  'BE8NASAAIAVq/QAEACEGIAEgBWr9AAQAIAb9TyEHIAMgBWogBiAH/VD9CwQAIAggB/1i/X39f/2uASEIIAkgByACIAVq/QAEAP1O/WL9ff1//a4BIQkgBUEQaiEFDAALC0EAIAgQADYC' +
  'AEEEIAkQADYCAAuTAQIBfwR7IAb9ESEKAkADQCAHIAVPDQEgASAHav0ABAAhCCACIAdq/QAEACEJIAsgACAHav0ABAAgCP1OIAn9UP1i/X39f/2uASELIAIgB2ogCSAEIAdq/QAEACAI' +
  '/U79UP0LBAAgASAHaiAIIAMgB2r9AAQAIAr9Uf1O/QsEACAHQRBqIQcMAAsLQQAgCxAANgIAC0YCAX8BewJAA0AgAyACTw0BIAQgACADav0ABAAgASADav0ABAD9Tv1i/X39f/2uASEE' +
  'IANBEGohAwwACwtBACAEEAA2AgAL'

let kernel: BitKernel | null = null
/** The passes this machine does fastest. */
export const bits = (): BitKernel => (kernel ??= wideKernel() ?? plainKernel)
