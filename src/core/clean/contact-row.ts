import { resultMeant } from '../records/results'
import type { Mapping } from '../match/columns'
import { cleanDate } from './date'
import { cleanEmail } from './email'
import { type CleanName, cleanName, squeeze } from './name'
import { cleanPhone } from './phone'
import { cleanWay } from './way'
import { badCell, cellsOf, RECORD, type Refusal, text } from './cells'
import { type Channel, CHANNELS, type Way } from '../records/channels'

export interface Who {
  /** The number of a record of ours. */
  record: number | null
  outsideId: string | null
  name: CleanName | null
  email: string | null
  phone: string | null
}

export interface ContactRow extends Who {
  date: string
  /** Null where the row tells the day alone. */
  time: string | null
  channel: Way
  result: string | null
  note: string | null
}

/** Returns whom a row of contacts is about (an email address or a phone number), or why that cannot be told. */
export function whoOf(cells: Record<string, string>, region: string): Who | Refusal {
  const email = cleanEmail(cells.email ?? '')
  const phone = cleanPhone(cells.phone ?? '', region)
  if (email && !email.usable) return { refused: `the email “${email.value}” cannot be right: ${email.why}` }
  if (phone && !phone.usable) return { refused: `the phone “${phone.value}” cannot be right: ${phone.why}` }
  const record = squeeze(cells.record ?? '')
  if (!RECORD.test(record)) return { refused: `“${record}” is not a record number of ours` }
  return {
    record: record === '' ? null : Number(record),
    outsideId: text(cells.outsideId),
    name: cleanName({ full: cells.name, given: cells.given, family: cells.family }),
    email: email?.normal ?? null,
    phone: phone?.normal ?? null,
  }
}

/** Whom a row is about and nothing else of it, or why that cannot be told. */
export function whoRow(row: string[], mapping: Mapping, region: string): Who | Refusal {
  const cells = cellsOf(row, mapping)
  const who = badCell('people', cells) ?? whoOf(cells, region)
  return 'refused' in who || who.record || who.outsideId || who.email || who.phone || who.name ? who : { refused: 'it does not say who' }
}

/** The channel a cell names, or null where it names none. */
export function cleanChannel(raw: string): Channel | null {
  const way = cleanWay(raw)
  return CHANNELS.find((channel) => channel === way) ?? null
}

/** Cleans a row of contacts, or says why it is refused. */
export function contactRow(row: string[], mapping: Mapping, region: string): ContactRow | Refusal {
  const cells = cellsOf(row, mapping)
  const long = badCell('contacts', cells)
  if (long) return long
  const who = whoOf(cells, region)
  if ('refused' in who) return who
  if (!who.record && !who.outsideId && !who.email && !who.phone && !who.name) return { refused: 'it does not say who was contacted' }
  const when = cleanDate(cells.date ?? '')
  if (!when) return { refused: text(cells.date) ? `“${cells.date.trim()}” is not a date` : 'the date is missing' }
  const channel = cleanWay(cells.channel ?? '')
  if (!channel) return { refused: text(cells.channel) ? `“${cells.channel.trim()}” is not a way of contact` : 'the channel is missing' }
  return { ...who, ...when, channel, result: resultMeant(text(cells.result)), note: text(cells.note) }
}
