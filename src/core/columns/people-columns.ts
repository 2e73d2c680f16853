import type { CustomValues } from '../clean/custom'
import { Bitset } from './bitset'
import { NumberColumn } from './number-column'
import { NumberOf } from './number-of'
import { type Address, CHANNELS, type Contact, type ContactToCome, type PersonRecord, SCREENED, type ScreenedChannel, type Suppression, WAYS } from './person-record'
import { ShowOrder } from './show-order'
import { Slices } from './slices'
import { WordColumn } from './words'

/** Who was on a released round, and who of them was clear. */
export interface RoundMembers {
  listed: Bitset
  clear: Bitset
}

/** A missing instant in a column of instants. */
export const NEVER = Number.NEGATIVE_INFINITY

/**
 * People as columns over dense record numbers. A number is given out once and never reused; `live` masks every not.
 * Suppressions are few, so they stand as objects beside the columns, by record and by row of `addresses`.
 */
export class PeopleColumns {
  readonly live = new Bitset()
  readonly given = new WordColumn()
  readonly family = new WordColumn()
  readonly organisationName = new WordColumn()
  readonly role = new WordColumn()
  readonly industry = new WordColumn()
  readonly county = new WordColumn()
  readonly town = new WordColumn()
  readonly postcode = new WordColumn()
  readonly relation = new WordColumn()
  readonly organisation = new NumberColumn()
  readonly headCount = new NumberColumn()
  readonly usable: Record<ScreenedChannel, Bitset> = { email: new Bitset(), phone: new Bitset(), post: new Bitset() }
  readonly contacts = new Slices({ at: 'float64', channel: 'uint8', by: 'int32' })
  readonly addresses = new Slices({ id: 'int32', channel: 'uint8', usable: 'uint8', failed: 'float64' })
  /** Contacts to come of open rounds, by record number. */
  readonly toCome = new Map<number, PersonRecord['toCome']>()
  /** Suppressions of a person as such or of their organisation, by record number. */
  readonly suppressed = new Map<number, Suppression[]>()
  /** Suppressions of the addresses of a person, by record number, in the order of their rows. */
  readonly addressSuppressed = new Map<number, Suppression[][]>()
  readonly batches = new Map<number, Bitset>()
  readonly tags = new Map<string, Bitset>()
  /** Fields of the team's own, by their number. */
  readonly custom = new Map<number, WordColumn>()
  /** Released rounds by list and by number. */
  readonly rounds = new Map<number, Map<number, RoundMembers>>()
  /** Records that were merged, by id, and the id of the one that stayed. */
  readonly mergedInto = new Map<number, number>()
  readonly order = new ShowOrder()
  private readonly numberOf = new NumberOf()
  private ids = new Float64Array(0)
  private handedOut = 0
  /** Who made contacts, by the code that stands in `contacts`. */
  readonly actors: string[] = []
  private readonly actorCodes = new Map<string, number>()
  private ascending = true
  /** Grows with every change, so that whatever was computed from the columns can tell that it is old. */
  version = 0
  private suppressionsChanged = 0

  /** The same for suppressions and for where the rows of addresses stand that they are on. */
  get suppressionsVersion(): string {
    return `${this.suppressionsChanged}|${this.addresses.moves}`
  }

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

  actorCode(by: string): number {
    let code = this.actorCodes.get(by)
    if (code === undefined) {
      code = this.actors.length
      this.actors.push(by)
      this.actorCodes.set(by, code)
    }
    return code
  }

  /** Puts in a person or replaces all that is known about them, but for their rounds. */
  put(record: PersonRecord): void {
    const known = this.numberFor(record.id)
    const n = known ?? this.give(record.id)
    const before = this.suppressionsOf(n)
    this.order.set(n, record.sortKey)
    this.version++
    this.live.add(n)
    this.given.set(n, record.given)
    this.family.set(n, record.family)
    this.organisationName.set(n, record.organisationName)
    this.role.set(n, record.role)
    this.industry.set(n, record.industry)
    this.county.set(n, record.county)
    this.town.set(n, record.town)
    this.postcode.set(n, record.postcode)
    this.relation.set(n, record.relation)
    this.organisation.set(n, record.organisation)
    this.headCount.set(n, record.headCount)
    for (const channel of SCREENED) this.usable[channel].delete(n)
    for (const a of record.addresses) if (a.usable) this.usable[a.channel].add(n)
    this.contacts.replace(n, record.contacts, this.writeContact)
    this.addresses.replace(n, record.addresses, writeAddress)
    setOrDelete(this.toCome, n, record.toCome.length > 0 ? record.toCome : null)
    setOrDelete(this.suppressed, n, record.suppressions.length > 0 ? record.suppressions : null)
    setOrDelete(this.addressSuppressed, n, record.addresses.some((a) => a.suppressions.length > 0) ? record.addresses.map((a) => a.suppressions) : null)
    if (this.suppressionsOf(n) !== before) this.suppressionsChanged++
    if (known !== undefined) for (const members of [...this.batches.values(), ...this.tags.values()]) members.delete(n)
    for (const batch of record.batches) this.memberOf(this.batches, batch, n)
    for (const tag of record.tags) this.memberOf(this.tags, tag, n)
    for (const column of known === undefined ? [] : this.custom.values()) column.set(n, null)
    this.putCustom(n, record.custom)
  }

  /** All that decides which rows of a record's addresses are suppressed; empty where nothing is. */
  private suppressionsOf(n: number): string {
    const [own, byAddress] = [this.suppressed.get(n), this.addressSuppressed.get(n)]
    if (!own && !byAddress) return ''
    const { first, count, fields } = { first: this.addresses.first(n), count: this.addresses.count(n), fields: this.addresses.fields }
    return JSON.stringify([own, byAddress, first, Array.from(fields.channel.subarray(first, first + count))])
  }

  private readonly writeContact = (fields: PeopleColumns['contacts']['fields'], at: number, c: Contact): void => {
    fields.at[at] = c.at
    fields.channel[at] = WAYS.indexOf(c.channel)
    fields.by[at] = this.actorCode(c.by)
  }

  /** Gives a record its number; from then on it is live. For whoever fills columns from nothing; `put` does it by itself. */
  give(id: number): number {
    const n = this.handedOut++
    this.live.add(n)
    if (n >= this.ids.length) {
      const next = new Float64Array(Math.max(64, Math.ceil(this.ids.length * 1.5)))
      next.set(this.ids)
      this.ids = next
    }
    if (n > 0 && id < this.ids[n - 1]) this.ascending = false
    this.ids[n] = id
    this.numberOf.set(id, n)
    return n
  }

  /** Puts a record among the members of a tag or batch. */
  memberOf<K>(groups: Map<K, Bitset>, key: K, n: number): void {
    let members = groups.get(key)
    if (!members) groups.set(key, (members = new Bitset(this.size)))
    members.add(n)
  }

  /** Sets the fields of the team's own that a record has a value of. */
  putCustom(n: number, values: CustomValues): void {
    for (const [field, value] of Object.entries(values)) {
      let column = this.custom.get(Number(field))
      if (!column) this.custom.set(Number(field), (column = new WordColumn()))
      column.set(n, value)
    }
  }

  /** Takes a person out of the directory: withdrawn, merged or erased. The number stays taken. */
  remove(id: number): void {
    const n = this.numberOf.get(id)
    if (n === undefined) return
    this.version++
    this.live.delete(n)
  }

  /** Puts in a released round, or replaces who was on it. */
  putRound(list: number, number: number, members: RoundMembers): void {
    let rounds = this.rounds.get(list)
    if (!rounds) this.rounds.set(list, (rounds = new Map()))
    rounds.set(number, members)
    this.version++
  }

  /** Replaces the contacts to come of some rounds, by person, and leaves those of other rounds. */
  putToCome(rounds: number[], fresh: ReadonlyMap<number, PersonRecord['toCome']>): void {
    for (const [n, toCome] of this.toCome) {
      const others = toCome.filter((t) => !rounds.includes(t.round))
      if (others.length < toCome.length) setOrDelete(this.toCome, n, others.length > 0 ? others : null)
    }
    for (const [person, toCome] of fresh) {
      const n = this.numberOf.get(person)
      if (n !== undefined) this.toCome.set(n, [...(this.toCome.get(n) ?? []), ...toCome].sort(byRound))
    }
    this.version++
  }

  /** All record numbers in the order in which people are shown. */
  inOrder(): Int32Array {
    return this.order.all()
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

function writeAddress(fields: PeopleColumns['addresses']['fields'], at: number, a: Address): void {
  fields.id[at] = a.id
  fields.channel[at] = CHANNELS.indexOf(a.channel)
  fields.usable[at] = a.usable ? 1 : 0
  fields.failed[at] = a.failedAt ?? NEVER
}

const byRound = (a: ContactToCome, b: ContactToCome) => a.round - b.round || CHANNELS.indexOf(a.channel) - CHANNELS.indexOf(b.channel)

function setOrDelete<V>(map: Map<number, V>, n: number, value: V | null): void {
  if (value === null) map.delete(n)
  else map.set(n, value)
}
