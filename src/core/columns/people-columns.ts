import { LRUCache } from 'lru-cache'
import { type Result, resultCode } from '../records/results'
import { packTraits, placeOf } from '../records/address-state'
import { Bitset } from './bitset'
import { countryPlace } from './country-places'
import { NumberColumn } from './number-column'
import type { Address, Contact, ContactToCome, PersonRecord } from '../records/person-record'
import { Slices } from './slices'
import { SubjectColumns } from './subject-columns'
import { WordColumn } from './words'
import { CHANNELS, type Channel, type Way, WAYS } from '../records/channels'
import type { Suppression } from '../records/suppression'

/** Who was on a released round, and who of them was clear. */
export interface RoundMembers {
  listed: Bitset
  clear: Bitset
}

/** Of each record number: when its last contact was, NEVER where there was none, and how many there were. */
export interface ContactSums {
  last: Float64Array
  count: Int32Array
}

/** So many sums are kept: twelve bytes a record each. */
const MOST_SUMS = 6

/** A missing instant in a column of instants. */
export const NEVER = Number.NEGATIVE_INFINITY

/**
 * People as columns. Suppressions are few, so they stand as objects beside the columns, by record and by row of
 * `addresses`.
 */
export class PeopleColumns extends SubjectColumns {
  readonly given = new WordColumn()
  readonly family = new WordColumn()
  readonly role = new WordColumn()
  readonly relation = new WordColumn()
  /** Their country or their organisation’s, and who alone may approach their organisation, as they are recorded. */
  readonly country = new WordColumn()
  readonly offLimits = new WordColumn()
  /** Record number of the organisation they work at. */
  readonly employer = new NumberColumn()
  /** Record number of the premises at their address. */
  readonly at = new NumberColumn()
  readonly usable: Record<Channel, Bitset> = {
    email: new Bitset(),
    phone: new Bitset(),
    post: new Bitset(),
    direct: new Bitset(),
  }
  readonly contacts = new Slices({ at: 'float64', channel: 'uint8', by: 'int32', result: 'uint8' })
  readonly addresses = new Slices({
    id: 'int32',
    channel: 'uint8',
    usable: 'uint8',
    failed: 'float64',
    traits: 'uint8',
    checked: 'float64',
    key: 'float64',
    country: 'uint8',
  })
  /** Contacts to come of open rounds, by record number. */
  readonly toCome = new Map<number, PersonRecord['toCome']>()
  /** Suppressions of a person as such or of their organisation, by record number. */
  readonly suppressed = new Map<number, Suppression[]>()
  /** Suppressions of the addresses of a person, by record number, in the order of their rows. */
  readonly addressSuppressed = new Map<number, Suppression[][]>()
  /** When their addresses bounced for now since anything last arrived, by record number, in the order of their rows. */
  readonly softBounced = new Map<number, (readonly number[])[]>()
  readonly tags = new Map<string, Bitset>()
  /** Released rounds by list and by number. */
  readonly rounds = new Map<number, Map<number, RoundMembers>>()
  /** Who made contacts, by the code that stands in `contacts`. */
  readonly actors: string[] = []
  private readonly actorCodes = new Map<string, number>()
  /** Minutes since 1970 of the latest change of a fact about them. */
  readonly changed = new NumberColumn()
  private suppressionsChanged = 0
  private readonly sums = new LRUCache<string, KeptSums>({ max: MOST_SUMS })

  /** The same for suppressions and for where the rows of addresses stand that they are on. */
  get suppressionsVersion(): string {
    return `${this.suppressionsChanged}|${this.addresses.moves}`
  }

  /** The instant of the latest change of a fact, in UTC milliseconds to the minute; null where there was none. */
  changedAt(n: number): number | null {
    const minutes = this.changed.at(n)
    return minutes < 0 ? null : minutes * 60_000
  }

  /**
   * The last contact and the number of contacts of everybody, in some ways, by anyone or one of us, with one of some results or
   * with any. Worked out once, and kept up as records change.
   */
  contactSums(ways: readonly Way[], by: string | null, results: readonly Result[] | null = null): ContactSums {
    const key = JSON.stringify([WAYS.filter((way) => ways.includes(way)), by, results && [...results].sort()])
    const known = this.sums.get(key)
    if (known) {
      roomFor(known, this.size)
      return known
    }
    const sums: KeptSums = {
      last: new Float64Array(this.size).fill(NEVER),
      count: new Int32Array(this.size),
      actor: by === null ? -1 : this.actorCode(by),
      counts: Uint8Array.from(WAYS, (way) => (ways.includes(way) ? 1 : 0)),
      results: flags(results),
    }
    const { last, count, actor, counts, results: asked } = sums
    const { owner, rows, fields } = this.contacts
    const { at, channel, by: byCode, result } = fields
    for (let i = 0; i < rows; i++) {
      const n = owner[i]
      if (n < 0 || counts[channel[i]] === 0 || asked[result[i]] === 0 || (actor >= 0 && byCode[i] !== actor)) continue
      count[n]++
      if (at[i] > last[n]) last[n] = at[i]
    }
    this.sums.set(key, sums)
    return sums
  }

  /** Counts one record's contacts anew in what is kept. */
  private countContacts(n: number): void {
    const { at, channel, by, result } = this.contacts.fields
    const first = this.contacts.first(n)
    const end = first + this.contacts.count(n)
    for (const sums of this.sums.values()) {
      roomFor(sums, n + 1)
      let last = NEVER
      let count = 0
      for (let i = first; i < end; i++) {
        if (sums.counts[channel[i]] === 0 || sums.results[result[i]] === 0 || (sums.actor >= 0 && by[i] !== sums.actor)) continue
        count++
        if (at[i] > last) last = at[i]
      }
      sums.last[n] = last
      sums.count[n] = count
    }
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

  /** Puts in a person or replaces all that is known about them, but for their rounds, and for their contacts where these are kept. */
  put(record: PersonRecord, contactsKept = false): void {
    const before = this.suppressionsOf(this.numberFor(record.id) ?? this.size)
    const n = this.putCommon(record)
    this.given.set(n, record.given)
    this.family.set(n, record.family)
    this.role.set(n, record.role)
    this.relation.set(n, record.relation)
    this.country.set(n, record.country ?? null)
    this.offLimits.set(n, record.offLimits ?? null)
    this.employer.set(n, this.directory.organisations.numberOrNone(record.organisation))
    this.at.set(n, this.directory.premises.numberOrNone(record.premises))
    this.changed.set(n, record.changedAt == null ? null : Math.floor(record.changedAt / 60_000))
    for (const channel of CHANNELS) this.usable[channel].delete(n)
    for (const a of record.addresses) if (a.usable) this.usable[a.channel].add(n)
    if (!contactsKept) {
      this.contacts.replace(n, record.contacts, this.writeContact)
      this.countContacts(n)
    }
    this.addresses.replace(n, record.addresses, writeAddress)
    setOrDelete(this.toCome, n, record.toCome.length > 0 ? record.toCome : null)
    setOrDelete(this.suppressed, n, record.suppressions.length > 0 ? record.suppressions : null)
    setOrDelete(
      this.addressSuppressed,
      n,
      record.addresses.some((a) => a.suppressions.length > 0) ? record.addresses.map((a) => a.suppressions) : null,
    )
    setOrDelete(this.softBounced, n, record.addresses.some((a) => a.softAt?.length) ? record.addresses.map((a) => a.softAt ?? []) : null)
    if (this.suppressionsOf(n) !== before) this.suppressionsChanged++
    for (const members of this.tags.values()) members.delete(n)
    for (const tag of record.tags) this.memberOf(this.tags, tag, n)
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
    fields.result[at] = resultCode(c.result)
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
      const n = this.numberFor(person)
      if (n !== undefined) this.toCome.set(n, [...(this.toCome.get(n) ?? []), ...toCome].sort(byRound))
    }
    this.version++
  }
}

/** By the code of each result, whether it is one of some; all are where none is named. */
export const flags = (results: readonly Result[] | null): Uint8Array => {
  const asked = new Uint8Array(256).fill(results === null ? 1 : 0)
  for (const result of results ?? []) asked[resultCode(result)] = 1
  return asked
}

/** Sums with what they are of: which ways and results count, and whose contacts alone (−1: anybody's). */
interface KeptSums extends ContactSums {
  counts: Uint8Array
  results: Uint8Array
  actor: number
}

/** Sums for at least so many records; those that were not there yet were never contacted. */
function roomFor(sums: ContactSums, size: number): void {
  if (sums.count.length >= size) return
  const room = Math.ceil(size * 1.1)
  const [last, count] = [new Float64Array(room).fill(NEVER), new Int32Array(room)]
  last.set(sums.last)
  count.set(sums.count)
  sums.last = last
  sums.count = count
}

function writeAddress(fields: PeopleColumns['addresses']['fields'], at: number, a: Address): void {
  fields.id[at] = a.id
  fields.channel[at] = CHANNELS.indexOf(a.channel)
  fields.usable[at] = a.usable ? 1 : 0
  fields.failed[at] = a.failedAt ?? NEVER
  fields.traits[at] = packTraits(a.traits?.shared ?? false, placeOf(a.traits?.state ?? null))
  fields.checked[at] = a.checkedAt ?? NEVER
  fields.key[at] = a.key ?? 0
  fields.country[at] = countryPlace(a.country)
}

const byRound = (a: ContactToCome, b: ContactToCome) => a.round - b.round || CHANNELS.indexOf(a.channel) - CHANNELS.indexOf(b.channel)

function setOrDelete<V>(map: Map<number, V>, n: number, value: V | null): void {
  if (value === null) map.delete(n)
  else map.set(n, value)
}
