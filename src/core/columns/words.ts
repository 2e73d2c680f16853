/** A column of words over record numbers: each distinct word is stored once and known by its code; -1 is missing. */
export class WordColumn {
  private codes = new Int32Array(0)
  private readonly codeOf = new Map<string, number>()
  readonly words: string[] = []
  private readonly byBytes = new Map<number, { bytes: Uint8Array; code: number }[]>()
  private readonly derivedOf = new Map<unknown, unknown[]>()

  set(n: number, word: string | null): void {
    if (n >= this.codes.length) this.grow(n + 1)
    this.codes[n] = word === null ? -1 : this.code(word)
  }

  /** The same from UTF-8 bytes: a word that is known already is found by its bytes, and no string is made of it. */
  setBytes(n: number, bytes: Uint8Array, from: number, length: number): void {
    if (n >= this.codes.length) this.grow(n + 1)
    let hash = 0x811c9dc5
    // FNV-1a, 32 bits (G. Fowler, L. C. Noll, K.-P. Vo; RFC 9923).
    for (let i = from; i < from + length; i++) hash = Math.imul(hash ^ bytes[i], 0x01000193)
    const slot = this.byBytes.get(hash)
    const known = slot?.find((s) => s.bytes.length === length && s.bytes.every((byte, i) => byte === bytes[from + i]))
    if (known) {
      this.codes[n] = known.code
      return
    }
    const own = bytes.slice(from, from + length)
    const entry = { bytes: own, code: this.code(new TextDecoder().decode(own)) }
    if (slot) slot.push(entry)
    else this.byBytes.set(hash, [entry])
    this.codes[n] = entry.code
  }

  get(n: number): string | null {
    const code = n < this.codes.length ? this.codes[n] : -1
    return code < 0 ? null : this.words[code]
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

  private code(word: string): number {
    let code = this.codeOf.get(word)
    if (code === undefined) {
      code = this.words.length
      this.words.push(word)
      this.codeOf.set(word, code)
    }
    return code
  }

  private grow(size: number): void {
    const next = new Int32Array(Math.max(size, Math.ceil(this.codes.length * 1.5), 64)).fill(-1)
    next.set(this.codes)
    this.codes = next
  }
}
