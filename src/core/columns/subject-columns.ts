import type { CustomValues } from '../clean/custom'
import { houseAndStreet } from '../clean/street'
import { Bitset } from './bitset'
import type { Directory } from './directory'
import { ChangeWords, changeSlices, changeWriter } from './change-rows'
import { NumberColumn } from './number-column'
import { NumberOf } from './number-of'
import { ShowOrder } from './show-order'
import type { SubjectRecord } from '../records/subject-record'
import { WordColumn } from './words'

/**
 * Records of one subject as columns over dense record numbers. A number is given out once and never reused; `live` masks
 * every not. A number may be given to a record that another one points at before anything is known of it.
 */
export class SubjectColumns {
  readonly live = new Bitset()
  readonly county = new WordColumn()
  readonly town = new WordColumn()
  readonly postcode = new WordColumn()
  /** The street without its house number, and that number. */
  readonly street = new WordColumn()
  readonly house = new NumberColumn()
  /** Fields that every team has and the team's own, by their number. */
  readonly custom = new Map<number, WordColumn>()
  readonly batches = new Map<number, Bitset>()
  /** Changes of each record that count. */
  readonly changes = changeSlices()
  readonly changeWords = new ChangeWords()
  private readonly writeChange = changeWriter(this.changeWords)
  /** Records that were merged, by id, and the id of the one that stayed. */
  readonly mergedInto = new Map<number, number>()
  readonly order = new ShowOrder()
  private readonly numberOf = new NumberOf()
  private ids = new Float64Array(0)
  private handedOut = 0
  private ascending = true
  /** Grows with every change, so that whatever was computed from the columns can tell that it is old. */
  version = 0

  constructor(readonly directory: Directory) {}

  /** One past the highest record number given out. */
  get size(): number {
    return this.handedOut
  }

  /** Whether record numbers ascend with ids, which they do unless ids came in out of order. */
  get idsAscend(): boolean {
    return this.ascending
  }

  idAt(n: number): number {
    return this.ids[n]
  }

  numberFor(id: number): number | undefined {
    return this.numberOf.get(id)
  }

  /** The record numbers of those of the ids that were ever known. */
  numbers(ids: Iterable<number>): Bitset {
    const set = new Bitset(this.size)
    for (const id of ids) {
      const n = this.numberOf.get(id)
      if (n !== undefined) set.add(n)
    }
    return set
  }

  /** The same, where a record that was merged into another counts as that one. */
  numbersNow(ids: Iterable<number>): Bitset {
    const set = new Bitset(this.size)
    for (const id of ids) {
      const n = this.numberOf.get(this.mergedInto.get(id) ?? id)
      if (n !== undefined) set.add(n)
    }
    return set
  }

  toIds(set: Bitset): number[] {
    const ids: number[] = []
    set.forEach((n) => ids.push(this.ids[n]))
    return ids
  }

  /** The number of a record, which gets one where it has none; it is not live by that. */
  numberAt(id: number): number {
    const known = this.numberOf.get(id)
    if (known !== undefined) return known
    const n = this.handedOut++
    if (n >= this.ids.length) {
      const next = new Float64Array(Math.max(64, Math.ceil(this.ids.length * 1.5)))
      next.set(this.ids)
      this.ids = next
    }
    if (n > 0 && id < this.ids[n - 1]) this.ascending = false
    this.ids[n] = id
    this.numberOf.set(id, n)
    this.order.set(n, '')
    return n
  }

  /** The same of a record that is pointed at or is not; -1 where it is not. */
  numberOrNone(id: number | null): number {
    return id === null || id < 0 ? -1 : this.numberAt(id)
  }

  /** Gives a record its number; from then on it is live. */
  give(id: number): number {
    const n = this.numberAt(id)
    this.live.add(n)
    return n
  }

  /** Puts in what records of every subject have, and gives the number. Replaces all of it. */
  protected putCommon(record: SubjectRecord): number {
    const known = this.numberFor(record.id) !== undefined
    const n = this.give(record.id)
    this.version++
    this.order.set(n, record.sortKey)
    this.county.set(n, record.county)
    this.town.set(n, record.town)
    this.postcode.set(n, record.postcode)
    const { house, street } = houseAndStreet(record.street)
    this.street.set(n, street)
    this.house.set(n, house)
    if (known) for (const members of this.batches.values()) members.delete(n)
    for (const batch of record.batches) this.memberOf(this.batches, batch, n)
    if (known) for (const column of this.custom.values()) column.set(n, null)
    this.putCustom(n, record.custom)
    this.changes.replace(n, record.changes ?? [], this.writeChange)
    return n
  }

  /** Puts a record among the members of a tag or batch. */
  memberOf<K>(groups: Map<K, Bitset>, key: K, n: number): void {
    let members = groups.get(key)
    if (!members) groups.set(key, (members = new Bitset(this.size)))
    members.add(n)
  }

  /** Sets the fields that a record has a value of. */
  putCustom(n: number, values: CustomValues): void {
    for (const [field, value] of Object.entries(values)) {
      let column = this.custom.get(Number(field))
      if (!column) this.custom.set(Number(field), (column = new WordColumn()))
      column.set(n, value)
    }
  }

  /** Takes a record out of the directory: withdrawn, merged or erased. The number stays taken. */
  remove(id: number): void {
    const n = this.numberOf.get(id)
    if (n === undefined) return
    this.version++
    this.live.delete(n)
  }

  /** All record numbers in the order in which records are shown. */
  inOrder(): Int32Array {
    return this.order.all()
  }

  /** A page of a set in the order in which records are shown: `limit` ids after the first `offset`. */
  page(set: Bitset, offset: number, limit: number): number[] {
    const ids: number[] = []
    if (limit <= 0) return ids
    const few = set.count()
    // Of few, their places are put in order; of many, the order is gone through until the page is full.
    if (few < this.size / 64) {
      const place = this.order.placeOf()
      return Array.from(
        set
          .toInt32()
          .sort((a, b) => place[a] - place[b])
          .subarray(offset, offset + limit),
        (n) => this.ids[n],
      )
    }
    let skipped = 0
    for (const n of this.inOrder()) {
      if (!set.has(n)) continue
      if (skipped++ < offset) continue
      ids.push(this.ids[n])
      if (ids.length === limit) break
    }
    return ids
  }
}
