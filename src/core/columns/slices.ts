type Numbers = Int32Array | Float64Array | Uint8Array
const NOTHING = new Int32Array(0)

/**
 * Rows that belong to records: a contact, an address. Rows of one record stand together. As many new ones or fewer take
 * the place of the old; more are appended and leave the old as waste, which is taken out once it outweighs the rest.
 * `owner` tells whose a row is.
 */
export class Slices<Fields extends string> {
  private start = new Int32Array(0)
  private counts = new Int32Array(0)
  private used = 0
  private wasted = 0
  /** Grows whenever rows of records that were not replaced get other places. */
  moves = 0
  owner = new Int32Array(0)
  readonly fields: Record<Fields, Numbers>
  private readonly names: Fields[]

  constructor(private readonly shape: Record<Fields, 'int32' | 'float64' | 'uint8'>) {
    this.names = Object.keys(shape) as Fields[]
    this.fields = Object.fromEntries(this.names.map((name) => [name, numbers(shape[name], 0)])) as Record<Fields, Numbers>
  }

  /** One past the highest row in use. */
  get rows(): number {
    return this.used
  }

  /** First row of a record. Its rows are `first .. first + count - 1`. */
  first(n: number): number {
    return n < this.start.length ? this.start[n] : 0
  }

  count(n: number): number {
    return n < this.counts.length ? this.counts[n] : 0
  }

  replace<R>(n: number, rows: readonly R[], write: (fields: Record<Fields, Numbers>, at: number, row: R) => void): void {
    if (n >= this.start.length) {
      this.start = extend(this.start, n + 1)
      this.counts = extend(this.counts, n + 1)
    }
    if (rows.length <= this.counts[n]) {
      for (let i = 0; i < rows.length; i++) write(this.fields, this.start[n] + i, rows[i])
      this.waste(this.start[n] + rows.length, this.start[n] + this.counts[n])
      this.counts[n] = rows.length
      return
    }
    this.waste(this.start[n], this.start[n] + this.counts[n])
    if (this.wasted > 1024 && this.wasted > this.used / 2) this.compact(n)
    const end = this.used + rows.length
    if (end > this.owner.length) {
      this.owner = extend(this.owner, end)
      for (const name of this.names) this.fields[name] = extend(this.fields[name], end)
    }
    for (let i = 0; i < rows.length; i++) {
      this.owner[this.used + i] = n
      write(this.fields, this.used + i, rows[i])
    }
    this.start[n] = this.used
    this.counts[n] = rows.length
    this.used = end
  }

  /**
   * Takes in the rows of many records at once, in any order: `add` a row of a record with its place among the record's
   * rows and its values in the order of the fields, at most eight, then `done`. Rows of one record stand by their place,
   * and those of one place by their first field. Only for slices that hold nothing yet.
   */
  loader(): {
    add: (n: number, place: number, ...values: [number, number?, number?, number?, number?, number?, number?, number?]) => void
    done: () => void
  } {
    let owners = new Int32Array(1024)
    // Nothing is held of places while all are 0.
    let places: Int32Array | null = null
    // Each field in a variable of its own: a row costs a third of what it does through an array of fields.
    let [fieldA, fieldB, fieldC, fieldD, fieldE, fieldF, fieldG, fieldH] = [0, 1, 2, 3, 4, 5, 6, 7].map((f) =>
      numbers(f < this.names.length ? this.shape[this.names[f]] : 'uint8', 1024),
    )
    let rows = 0
    return {
      add: (n, place, a, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0) => {
        if (rows === owners.length) {
          owners = extend(owners, rows + 1)
          if (places) places = extend(places, rows + 1)
          fieldA = extend(fieldA, rows + 1)
          fieldB = extend(fieldB, rows + 1)
          fieldC = extend(fieldC, rows + 1)
          fieldD = extend(fieldD, rows + 1)
          fieldE = extend(fieldE, rows + 1)
          fieldF = extend(fieldF, rows + 1)
          fieldG = extend(fieldG, rows + 1)
          fieldH = extend(fieldH, rows + 1)
        }
        owners[rows] = n
        if (place !== 0) places ??= new Int32Array(owners.length)
        if (places) places[rows] = place
        fieldA[rows] = a
        fieldB[rows] = b
        fieldC[rows] = c
        fieldD[rows] = d
        fieldE[rows] = e
        fieldF[rows] = f
        fieldG[rows] = g
        fieldH[rows] = h
        rows++
      },
      done: () => {
        const held = [fieldA, fieldB, fieldC, fieldD, fieldE, fieldF, fieldG, fieldH]
        // What is held is let go of as it is put in its place, or all of it would be there twice.
        fieldA = fieldB = fieldC = fieldD = fieldE = fieldF = fieldG = fieldH = NOTHING
        this.fill(owners, places, held, rows)
        owners = NOTHING
        places = null
      },
    }
  }

  /** Puts rows in the order of their records by counting them. */
  private fill(owners: Int32Array, places: Int32Array | null, held: Numbers[], rows: number): void {
    let size = 0
    for (let i = 0; i < rows; i++) if (owners[i] >= size) size = owners[i] + 1
    this.start = new Int32Array(size)
    this.counts = new Int32Array(size)
    for (let i = 0; i < rows; i++) this.counts[owners[i]]++
    for (let n = 1; n < size; n++) this.start[n] = this.start[n - 1] + this.counts[n - 1]
    const next = this.start.slice()
    const to = new Int32Array(rows)
    for (let i = 0; i < rows; i++) to[i] = next[owners[i]]++
    this.owner = scattered(owners, to, new Int32Array(rows))
    const place = places && scattered(places, to, new Int32Array(rows))
    const fields = this.names.map((name, f) => {
      const field = scattered(held[f], to, numbers(this.shape[name], rows))
      held[f] = NOTHING
      return field
    })
    // The rows of one record are few and stand side by side now: they are put in order where they are.
    const all = place ? [place, ...fields] : fields
    const [first] = fields
    const after = (at: number) => (place && place[at - 1] !== place[at] ? place[at - 1] > place[at] : first[at - 1] > first[at])
    for (let n = 0; n < size; n++) {
      for (let i = this.start[n] + 1; i < this.start[n] + this.counts[n]; i++) {
        for (let at = i; at > this.start[n] && after(at); at--) for (const field of all) swapWithNext(field, at - 1)
      }
    }
    this.names.forEach((name, f) => {
      this.fields[name] = fields[f]
    })
    this.used = rows
  }

  /** Rows that belong to nobody any more. */
  private waste(from: number, to: number): void {
    this.owner.fill(-1, from, to)
    this.wasted += to - from
  }

  /** Rewrites all rows but those of the record that is about to be replaced. */
  private compact(except: number): void {
    this.counts[except] = 0
    this.moves++
    const kept = Object.fromEntries(this.names.map((name) => [name, numbers(this.shape[name], this.used)])) as Record<Fields, Numbers>
    const owner = new Int32Array(this.used)
    let to = 0
    for (let n = 0; n < this.start.length; n++) {
      const [from, end] = [this.start[n], this.start[n] + this.counts[n]]
      for (const name of this.names) kept[name].set(this.fields[name].subarray(from, end) as never, to)
      owner.fill(n, to, to + end - from)
      this.start[n] = to
      to += end - from
    }
    for (const name of this.names) this.fields[name] = kept[name]
    this.owner = owner
    this.used = to
    this.wasted = 0
  }
}

function numbers(kind: 'int32' | 'float64' | 'uint8', size: number): Numbers {
  return kind === 'int32' ? new Int32Array(size) : kind === 'float64' ? new Float64Array(size) : new Uint8Array(size)
}

/** Each value at its place. */
function scattered<T extends Numbers>(from: Numbers, to: Int32Array, into: T): T {
  for (let i = 0; i < to.length; i++) into[to[i]] = from[i]
  return into
}

function swapWithNext(field: Numbers, at: number): void {
  const value = field[at]
  field[at] = field[at + 1]
  field[at + 1] = value
}

function extend<T extends Numbers>(array: T, size: number): T {
  const next = new (array.constructor as new (length: number) => T)(Math.max(size, Math.ceil(array.length * 1.5), 64))
  next.set(array as never)
  return next
}
