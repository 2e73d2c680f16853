type Numbers = Int32Array | Float64Array | Uint8Array

/**
 * Rows that belong to records: a contact, an address. Rows of one record stand together; replacing them appends the
 * new ones and leaves the old as waste, which `compact` takes out once it outweighs the rest.
 */
export class Slices<Fields extends string> {
  private start = new Int32Array(0)
  private counts = new Int32Array(0)
  private used = 0
  private wasted = 0
  readonly fields: Record<Fields, Numbers>

  constructor(private readonly shape: Record<Fields, 'int32' | 'float64' | 'uint8'>) {
    this.fields = Object.fromEntries(
      Object.entries(shape).map(([name, kind]) => [name, numbers(kind as 'int32', 0)]),
    ) as Record<Fields, Numbers>
  }

  /** First row of a record. Its rows are `first .. first + count - 1`. */
  first(n: number): number {
    return n < this.start.length ? this.start[n] : 0
  }

  count(n: number): number {
    return n < this.counts.length ? this.counts[n] : 0
  }

  replace(n: number, rows: Record<Fields, number>[]): void {
    if (n >= this.start.length) {
      this.start = extend(this.start, n + 1)
      this.counts = extend(this.counts, n + 1)
    }
    this.wasted += this.counts[n]
    if (this.wasted > 1024 && this.wasted > this.used / 2) this.compact(n)
    const end = this.used + rows.length
    for (const name of Object.keys(this.shape) as Fields[]) {
      if (end > this.fields[name].length) this.fields[name] = extend(this.fields[name], end)
      for (let i = 0; i < rows.length; i++) this.fields[name][this.used + i] = rows[i][name]
    }
    this.start[n] = this.used
    this.counts[n] = rows.length
    this.used = end
  }

  /** Rewrites all rows but those of the record that is about to be replaced. */
  private compact(except: number): void {
    this.counts[except] = 0
    const names = Object.keys(this.shape) as Fields[]
    const kept = Object.fromEntries(names.map((name) => [name, numbers(this.shape[name], this.used)])) as Record<Fields, Numbers>
    let to = 0
    for (let n = 0; n < this.start.length; n++) {
      for (const name of names) {
        kept[name].set(this.fields[name].subarray(this.start[n], this.start[n] + this.counts[n]) as never, to)
      }
      this.start[n] = to
      to += this.counts[n]
    }
    for (const name of names) this.fields[name] = kept[name]
    this.used = to
    this.wasted = 0
  }
}

function numbers(kind: 'int32' | 'float64' | 'uint8', size: number): Numbers {
  return kind === 'int32' ? new Int32Array(size) : kind === 'float64' ? new Float64Array(size) : new Uint8Array(size)
}

function extend<T extends Numbers>(array: T, size: number): T {
  const next = new (array.constructor as new (length: number) => T)(Math.max(size, array.length * 2, 64))
  next.set(array as never)
  return next
}
