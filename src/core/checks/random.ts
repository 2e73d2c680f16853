/** A seeded source of numbers: the same seed gives the same ones on every machine. Mulberry32 (T. Ettinger, public domain). */
export class Random {
  constructor(private state: number) {}

  /** 0 ≤ n < 1 */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  below(n: number): number {
    return Math.floor(this.next() * n)
  }

  /** Items in an order drawn at random (Fisher and Yates). */
  shuffled<T>(items: readonly T[]): T[] {
    const all = [...items]
    for (let i = all.length - 1; i > 0; i--) {
      const j = this.below(i + 1)
      ;[all[i], all[j]] = [all[j], all[i]]
    }
    return all
  }

  chance(p: number): boolean {
    return this.next() < p
  }

  pick<T>(from: readonly T[]): T {
    return from[this.below(from.length)]
  }

  /** Picks by weight. */
  weigh<T>(from: readonly (readonly [T, number])[]): T {
    let at = this.next() * from.reduce((sum, [, w]) => sum + w, 0)
    for (const [value, weight] of from) {
      at -= weight
      if (at < 0) return value
    }
    return from[from.length - 1][0]
  }
}
