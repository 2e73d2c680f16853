import { NO_WAY } from './no-way-to-reach'
import { EMAIL_STATES, isShared, PHONE_STATES, placeOfState } from '../records/address-state'
import { type Address, type Contact, type ContactAround, GROUPS } from '../records/person-record'
import type { CustomValues } from '../clean/custom'
import { FIELD } from '../clean/standard-fields'
import { countryOfPlace } from '../columns/country-places'
import { customAt } from './custom-at'
import { groupsOf } from './groups'
import { ALL_RESULTS } from '../records/results'
import { NEVER, type PeopleColumns } from '../columns/people-columns'
import { type Evidence, isFinal, type ScreenedRecord, type ScreeningMoment } from './kind'
import type { Waits } from './account'
import { closedBy, isOff, type Rule } from './rules'
import { CHANNELS, type Channel, WAYS } from '../records/channels'
import type { Reach } from '../views/record-views'

/** One channel of one person after screening: the address it goes to, or the id of the rule that closed the last one, and why. */
export type ChannelVerdict = { open: true; address: number } | { open: false; rule: string; evidence: Evidence }

export interface RecordVerdict {
  channels: Record<Channel, ChannelVerdict>
  /** Id of the rule that closed the last open channel, or null when the person is clear. */
  heldBackBy: string | null
  evidence: Evidence | null
}

/** The reference screening of one record, with the evidence. Addresses are taken in the record's own order. */
export function screenRecord(record: ScreenedRecord, rules: Rule[], moment: ScreeningMoment): RecordVerdict {
  const channels = Object.fromEntries(CHANNELS.map((c) => [c, channelVerdict(record, c, rules, moment)])) as RecordVerdict['channels']
  const closed = CHANNELS.map((c) => channels[c])
  if (closed.some((v) => v.open)) return { channels, heldBackBy: null, evidence: null }
  const place = (id: string) => rules.findIndex((rule) => rule.id === id)
  const last = closed.reduce((a, b) => (!a.open && !b.open && place(b.rule) > place(a.rule) ? b : a)) as Extract<
    ChannelVerdict,
    { open: false }
  >
  return { channels, heldBackBy: last.rule, evidence: last.evidence }
}

function channelVerdict(record: ScreenedRecord, channel: Channel, rules: Rule[], moment: ScreeningMoment): ChannelVerdict {
  const all = record.addresses.filter((a) => a.channel === channel)
  let open = all.filter((a) => a.usable)
  if (open.length === 0) return { open: false, rule: NO_WAY, evidence: { kind: 'no-address', channel, unusable: all.length > 0 } }
  const spared = moment.letThrough.some((l) => l.person === record.id && l.channel === channel)
  for (const rule of rules) {
    if (isOff(rule)) continue
    let evidence: Evidence | null = null
    open = open.filter((address) => {
      const reason = closedBy(rule, record, address, moment)
      const closes = reason && (!spared || isFinal(reason)) ? reason : null
      evidence ??= closes
      return closes === null
    })
    if (open.length === 0) return { open: false, rule: rule.id, evidence: evidence as unknown as Evidence }
  }
  return { open: true, address: open[0].id }
}

/** Which channels a verdict leaves open: closed where a rule closes them, none where there is nothing usable. */
export const reachOf = ({ channels }: RecordVerdict): Reach =>
  Object.fromEntries(
    CHANNELS.map((c) => {
      const of = channels[c]
      return [c, of.open ? 'open' : of.rule === NO_WAY ? 'none' : 'closed']
    }),
  ) as Reach

/**
 * A verdict with what rules about a set add: the channels somebody waits on are closed where they were open, but for those on which somebody
 * was let through.
 */
export function withWaiting(verdict: RecordVerdict, waiting: readonly Waits[] | undefined, through: readonly Channel[]): RecordVerdict {
  let { channels } = verdict
  let held = verdict
  for (const waits of waiting ?? []) {
    const { rule, evidence } = waits
    const closes = (channel: Channel) => waits.channels.includes(channel) && !through.includes(channel)
    channels = Object.fromEntries(
      CHANNELS.map((c) => [c, channels[c].open && closes(c) ? { open: false, rule, evidence } : channels[c]]),
    ) as RecordVerdict['channels']
    if (held.heldBackBy !== null) continue
    held = CHANNELS.some((c) => channels[c].open)
      ? { channels, heldBackBy: null, evidence: null }
      : { channels, heldBackBy: waits.rule, evidence: waits.evidence }
  }
  return { ...held, channels }
}

/**
 * One channel of a record as it would be if somebody were let through on it: still closed by what nobody can let through, whichever
 * rule of the policy comes first.
 */
export function letThroughVerdict(record: ScreenedRecord, channel: Channel, rules: Rule[], moment: ScreeningMoment): ChannelVerdict {
  return channelVerdict(record, channel, rules, { ...moment, letThrough: [...moment.letThrough, { person: record.id, channel }] })
}

/** What rules can ask about a record, out of the columns. */
export function screenedAt(columns: PeopleColumns, n: number): ScreenedRecord {
  const { addresses } = columns
  const suppressions = columns.addressSuppressed.get(n)
  const soft = columns.softBounced.get(n)
  const first = addresses.first(n)
  return {
    id: columns.idAt(n),
    relation: columns.relation.get(n) as ScreenedRecord['relation'],
    suppressions: columns.suppressed.get(n) ?? [],
    toCome: columns.toCome.get(n) ?? [],
    country: columns.country.get(n),
    offLimits: columns.offLimits.get(n),
    get custom() {
      return screenedFields(columns, n)
    },
    get around() {
      return aroundAt(columns, n)
    },
    contacts: contactsAt(columns, n),
    addresses: rowsOf(addresses, n, (row) => ({
      id: addresses.fields.id[row],
      channel: CHANNELS[addresses.fields.channel[row]] as Channel,
      usable: addresses.fields.usable[row] === 1,
      failedAt: addresses.fields.failed[row] === NEVER ? null : addresses.fields.failed[row],
      ...(soft ? { softAt: soft[row - first] } : {}),
      key: addresses.fields.key[row],
      country: countryOfPlace(addresses.fields.country[row]),
      ...traitsAt(columns, row),
      suppressions: suppressions?.[row - first] ?? [],
    })),
  }
}

/** The fields that rules ask about. */
export const SCREENED_FIELDS = [FIELD.lastPurchase, FIELD.lastInquiry, FIELD.basis, FIELD.basisUntil, FIELD.direct]

const screenedFields = (columns: PeopleColumns, n: number): CustomValues =>
  Object.fromEntries(
    SCREENED_FIELDS.flatMap((field) => {
      const value = customAt(columns, n, field)
      return value === null ? [] : [[field, value]]
    }),
  )

const contactsAt = ({ contacts, actors }: PeopleColumns, n: number): Contact[] =>
  rowsOf(contacts, n, (row) => ({
    at: contacts.fields.at[row],
    channel: WAYS[contacts.fields.channel[row]],
    by: actors[contacts.fields.by[row]],
    result: ALL_RESULTS[contacts.fields.result[row]] ?? null,
  }))

/** The contacts of others of their organisation and household. */
const aroundAt = (columns: PeopleColumns, n: number): ContactAround[] =>
  GROUPS.flatMap((of) => {
    const { of: group, members } = groupsOf(columns, of)
    const others = group[n] < 0 ? [] : (members().get(group[n]) ?? []).filter((other) => other !== n)
    return others.flatMap((other) => contactsAt(columns, other).map((contact) => ({ ...contact, person: columns.idAt(other), of })))
  })

/** What is known of an address: its state by its channel, and when an email was last checked. */
function traitsAt({ addresses }: PeopleColumns, row: number): Pick<Address, 'traits' | 'checkedAt'> {
  const { channel, traits, checked } = addresses.fields
  const states = CHANNELS[channel[row]] === 'email' ? EMAIL_STATES : CHANNELS[channel[row]] === 'phone' ? PHONE_STATES : null
  if (states === null) return {}
  return {
    traits: { shared: isShared(traits[row]), state: states[placeOfState(traits[row])] ?? null },
    ...(states === EMAIL_STATES ? { checkedAt: checked[row] === NEVER ? null : checked[row] } : {}),
  }
}

function rowsOf<T>(slices: { first(n: number): number; count(n: number): number }, n: number, at: (row: number) => T): T[] {
  return Array.from({ length: slices.count(n) }, (_, i) => at(slices.first(n) + i))
}
