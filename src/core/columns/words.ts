const decoder = new TextDecoder('utf-8', { ignoreBOM: true })

/** Words that are stored once each and known by their code. */
export class Words {
  private readonly codeOf = new Map<string, number>()
  readonly words: string[] = []
  private readonly byBytes = new ByteTable()

  /** The code of a word, which gets one where it has none. */
  code(word: string): number {
    let code = this.codeOf.get(word)
    if (code === undefined) {
      code = this.words.length
      this.words.push(word)
      this.codeOf.set(word, code)
    }
    return code
  }

  /** The same from UTF-8 bytes: a word that is known already is found by its bytes, and no string is made of it. */
  codeOfBytes(bytes: Uint8Array, from: number, length: number): number {
    let code = this.byBytes.find(bytes, from, length)
    if (code < 0) this.byBytes.add((code = this.code(decoder.decode(bytes.subarray(from, from + length)))))
    return code
  }
}

/** A column of words over record numbers: each distinct word is stored once and known by its code; -1 is missing. */
export class WordColumn extends Words {
  private codes = new Int32Array(0)
  private readonly derivedOf = new Map<unknown, unknown[]>()

  set(n: number, word: string | null): void {
    if (n >= this.codes.length) this.grow(n + 1)
    this.codes[n] = word === null ? -1 : this.code(word)
  }

  /** The same from UTF-8 bytes. */
  setBytes(n: number, bytes: Uint8Array, from: number, length: number): void {
    if (n >= this.codes.length) this.grow(n + 1)
    this.codes[n] = this.codeOfBytes(bytes, from, length)
  }

  get(n: number): string | null {
    const code = n < this.codes.length ? this.codes[n] : -1
    return code < 0 ? null : this.words[code]
  }

  /** The code of every record number, −1 where there is no word; those beyond its end have none. Only to be read. */
  get all(): Int32Array {
    return this.codes
  }

  codeAt(n: number): number {
    return n < this.codes.length ? this.codes[n] : -1
  }

  /** What a function makes of each distinct word, by code. Worked out once a word and kept. */
  derived<T>(of: (word: string) => T): T[] {
    let known = this.derivedOf.get(of) as T[] | undefined
    if (!known) this.derivedOf.set(of, (known = []))
    for (let code = known.length; code < this.words.length; code++) known.push(of(this.words[code]))
    return known
  }

  private grow(size: number): void {
    const next = new Int32Array(Math.max(size, Math.ceil(this.codes.length * 1.5), 64)).fill(-1)
    next.set(this.codes)
    this.codes = next
  }
}

/** Codes by the UTF-8 bytes of their word: an open-addressed table over one pool of bytes. */
class ByteTable {
  private slots = new Int32Array(256).fill(-1)
  private count = 0
  private hashes = new Int32Array(64)
  private starts = new Int32Array(65)
  private codes = new Int32Array(64)
  private pool = new Uint8Array(1024)
  private asked: { bytes: Uint8Array; from: number; length: number; hash: number; slot: number } = {
    bytes: this.pool,
    from: 0,
    length: 0,
    hash: 0,
    slot: 0,
  }

  /** The code of some bytes, or −1; `add` then takes in the bytes that were asked for. */
  find(bytes: Uint8Array, from: number, length: number): number {
    // FNV-1a, 32 bits (G. Fowler, L. C. Noll, K.-P. Vo; RFC 9923).
    let hash = 0x811c9dc5 | 0
    for (let i = from; i < from + length; i++) hash = Math.imul(hash ^ bytes[i], 0x01000193)
    const mask = this.slots.length - 1
    let slot = hash & mask
    for (let entry = this.slots[slot]; entry >= 0; entry = this.slots[(slot = (slot + 1) & mask)]) {
      if (this.hashes[entry] === hash && this.isAt(entry, bytes, from, length)) return this.codes[entry]
    }
    const { asked } = this
    asked.bytes = bytes
    asked.from = from
    asked.length = length
    asked.hash = hash
    asked.slot = slot
    return -1
  }

  add(code: number): void {
    const { bytes, from, length, hash, slot } = this.asked
    if (this.count === this.codes.length) {
      this.hashes = grown(this.hashes, this.count * 2)
      this.codes = grown(this.codes, this.count * 2)
      this.starts = grown(this.starts, this.count * 2 + 1)
    }
    const start = this.starts[this.count]
    if (start + length > this.pool.length) {
      const next = new Uint8Array(Math.max(start + length, this.pool.length * 2))
      next.set(this.pool)
      this.pool = next
    }
    for (let i = 0; i < length; i++) this.pool[start + i] = bytes[from + i]
    this.starts[this.count + 1] = start + length
    this.hashes[this.count] = hash
    this.codes[this.count] = code
    this.slots[slot] = this.count++
    if (this.count * 2 > this.slots.length) this.spread()
  }

  private isAt(entry: number, bytes: Uint8Array, from: number, length: number): boolean {
    const start = this.starts[entry]
    if (this.starts[entry + 1] - start !== length) return false
    for (let i = 0; i < length; i++) if (this.pool[start + i] !== bytes[from + i]) return false
    return true
  }

  private spread(): void {
    this.slots = new Int32Array(this.slots.length * 2).fill(-1)
    const mask = this.slots.length - 1
    for (let entry = 0; entry < this.count; entry++) {
      let slot = this.hashes[entry] & mask
      while (this.slots[slot] >= 0) slot = (slot + 1) & mask
      this.slots[slot] = entry
    }
  }
}

function grown(array: Int32Array, size: number): Int32Array<ArrayBuffer> {
  const next = new Int32Array(size)
  next.set(array)
  return next
}
