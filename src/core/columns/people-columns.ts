import { Bitset } from './bitset'
import { CHANNELS, SCREENED, type PersonRecord, type ScreenedChannel, type Suppression } from './person-record'
import { Slices } from './slices'
import { WordColumn } from './words'

/**
 * People as columns over dense record numbers. A number is given out once and never reused; `live` masks every not.
 * Suppressions are few, so they stand as objects beside the columns, by record and by row of `addresses`.
 */
export class PeopleColumns {
  readonly live = new Bitset()
  readonly role = new WordColumn()
  readonly town = new WordColumn()
  readonly postcode = new WordColumn()
  readonly relation = new WordColumn()
  readonly usable: Record<ScreenedChannel, Bitset> = { email: new Bitset(), phone: new Bitset(), post: new Bitset() }
  readonly contacts = new Slices({ at: 'float64', channel: 'uint8', by: 'int32' })
  readonly addresses = new Slices({ id: 'int32', channel: 'uint8', usable: 'uint8' })
  /** Contacts to come of open rounds, by record number. */
  readonly toCome = new Map<number, PersonRecord['toCome']>()
  /** Suppressions of a person as such, by record number. */
  readonly suppressed = new Map<number, Suppression[]>()
  /** Suppressions of the addresses of a person, by record number, in the order of their rows. */
  readonly addressSuppressed = new Map<number, Suppression[][]>()
  readonly batches = new Map<number, Bitset>()
  private readonly numberOf = new Map<number, number>()
  private readonly ids: number[] = []
  private readonly sortKeys: string[] = []
  private readonly actorCodes = new Map<string, number>()
  private ordered: Int32Array | null = null
  /** Grows with every change, so that whatever was computed from the columns can tell that it is old. */
  version = 0

  /** One past the highest record number given out. */
  get size(): number {
    return this.ids.length
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

  toIds(set: Bitset): number[] {
    const ids: number[] = []
    set.forEach((n) => ids.push(this.ids[n]))
    return ids
  }

  actorCode(by: string): number {
    let code = this.actorCodes.get(by)
    if (code === undefined) {
      code = this.actorCodes.size
      this.actorCodes.set(by, code)
    }
    return code
  }

  /** Puts in a person or replaces all that is known about them. */
  put(record: PersonRecord): void {
    let n = this.numberOf.get(record.id)
    if (n === undefined) {
      n = this.ids.length
      this.ids.push(record.id)
      this.sortKeys.push(record.sortKey)
      this.numberOf.set(record.id, n)
      this.ordered = null
    } else if (this.sortKeys[n] !== record.sortKey) {
      this.sortKeys[n] = record.sortKey
      this.ordered = null
    }
    this.version++
    this.live.add(n)
    this.role.set(n, record.role)
    this.town.set(n, record.town)
    this.postcode.set(n, record.postcode)
    this.relation.set(n, record.relation)
    for (const channel of SCREENED) {
      if (record.addresses.some((a) => a.channel === channel && a.usable)) this.usable[channel].add(n)
      else this.usable[channel].delete(n)
    }
    this.contacts.replace(
      n,
      record.contacts.map((c) => ({ at: c.at, channel: CHANNELS.indexOf(c.channel), by: this.actorCode(c.by) })),
    )
    this.addresses.replace(
      n,
      record.addresses.map((a) => ({ id: a.id, channel: CHANNELS.indexOf(a.channel), usable: a.usable ? 1 : 0 })),
    )
    setOrDelete(this.toCome, n, record.toCome.length > 0 ? record.toCome : null)
    setOrDelete(this.suppressed, n, record.suppressions.length > 0 ? record.suppressions : null)
    const byAddress = record.addresses.map((a) => a.suppressions)
    setOrDelete(this.addressSuppressed, n, byAddress.some((s) => s.length > 0) ? byAddress : null)
    for (const members of this.batches.values()) members.delete(n)
    for (const batch of record.batches) {
      let members = this.batches.get(batch)
      if (!members) this.batches.set(batch, (members = new Bitset()))
      members.add(n)
    }
  }

  /** Takes a person out of the directory: withdrawn, merged or erased. The number stays taken. */
  remove(id: number): void {
    const n = this.numberOf.get(id)
    if (n === undefined) return
    this.version++
    this.live.delete(n)
  }

  /** All record numbers in the order in which people are shown. */
  inOrder(): Int32Array {
    if (!this.ordered) {
      const keys = this.sortKeys
      this.ordered = Int32Array.from(keys.keys()).sort((a, b) => (keys[a] < keys[b] ? -1 : keys[a] > keys[b] ? 1 : a - b))
    }
    return this.ordered
  }

  /** A page of a set in the order in which people are shown: `limit` ids after the first `offset`. */
  page(set: Bitset, offset: number, limit: number): number[] {
    const ids: number[] = []
    if (limit <= 0) return ids
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

function setOrDelete<V>(map: Map<number, V>, n: number, value: V | null): void {
  if (value === null) map.delete(n)
  else map.set(n, value)
}
