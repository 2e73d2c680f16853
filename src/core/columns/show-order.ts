/**
 * The order in which records are shown: by their sort keys, ties by number. New and renamed ones are merged in when the
 * order is next asked for, so that some of them cost a pass and not a sort.
 */
export class ShowOrder {
  private readonly keys: string[] = []
  private ordered = new Int32Array(0)
  /** Those whose place is not known any more; everybody, until there is an order. */
  private moved: Set<number> | 'all' = 'all'

  /** Sets the key of a record number. Numbers come in without gaps. */
  set(n: number, key: string): void {
    if (this.keys[n] === key) return
    this.keys[n] = key
    if (this.moved !== 'all') this.moved.add(n)
  }

  keyOf(n: number): string {
    return this.keys[n]
  }

  private places: { of: Int32Array; place: Int32Array } | null = null

  /** The place of every record number in the order. Worked out once until the order changes. */
  placeOf(): Int32Array {
    const of = this.all()
    if (this.places?.of !== of) {
      const place = new Int32Array(of.length)
      for (let i = 0; i < of.length; i++) place[of[i]] = i
      this.places = { of, place }
    }
    return this.places.place
  }

  /** All record numbers, in order. */
  all(): Int32Array {
    const { keys, moved } = this
    if (moved !== 'all' && moved.size === 0) return this.ordered
    const before = (a: number, b: number) => (keys[a] < keys[b] ? -1 : keys[a] > keys[b] ? 1 : a - b)
    if (moved === 'all') {
      this.moved = new Set()
      this.ordered = Int32Array.from(keys, (_, n) => n).sort(before)
      return this.ordered
    }
    const fresh = Int32Array.from(moved).sort(before)
    const next = new Int32Array(keys.length)
    let at = 0
    let i = 0
    for (const n of this.ordered) {
      if (moved.has(n)) continue
      while (i < fresh.length && before(fresh[i], n) < 0) next[at++] = fresh[i++]
      next[at++] = n
    }
    while (i < fresh.length) next[at++] = fresh[i++]
    this.ordered = next
    this.moved = new Set()
    return next
  }
}
