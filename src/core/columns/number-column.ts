/** A column of whole numbers over record numbers; -1 is missing. */
export class NumberColumn {
  private values = new Int32Array(0)

  set(n: number, value: number | null): void {
    if (n >= this.values.length) {
      const next = new Int32Array(Math.max(n + 1, Math.ceil(this.values.length * 1.5), 64)).fill(-1)
      next.set(this.values)
      this.values = next
    }
    this.values[n] = value ?? -1
  }

  /** The value of every record number; those beyond its end have none. Only to be read. */
  get all(): Int32Array {
    return this.values
  }

  /** The value, or -1 where it is missing. */
  at(n: number): number {
    return n < this.values.length ? this.values[n] : -1
  }
}
