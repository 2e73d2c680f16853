/** Ids below this have their record number in an array, at the place of the id; others, which are rare, in a map. */
const DENSE = 1 << 26

/** Record numbers by id. Ids are given out one after the other, so an array holds them in a tenth of a map's room and time. */
export class NumberOf {
  /** Record number + 1, or 0 where there is none. */
  private dense = new Int32Array(0)
  private readonly sparse = new Map<number, number>()

  get(id: number): number | undefined {
    if (id >= this.dense.length || id < 0) return this.sparse.get(id)
    const next = this.dense[id]
    return next > 0 ? next - 1 : undefined
  }

  set(id: number, n: number): void {
    if (id >= DENSE || id < 0) {
      this.sparse.set(id, n)
      return
    }
    if (id >= this.dense.length) {
      const grown = new Int32Array(Math.min(DENSE, Math.max(id + 1, Math.ceil(this.dense.length * 1.5), 64)))
      grown.set(this.dense)
      this.dense = grown
    }
    this.dense[id] = n + 1
  }
}
