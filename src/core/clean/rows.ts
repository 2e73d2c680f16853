import { nameOfEmail } from './name-of-email'
import { resultMeant } from '../rounds/results'
import { CHANNELS, type Channel, REASONS, type Reason, type Relation, type Way } from '../columns/person-record'
import { type BatchKind, fieldLabel, type Mapping } from '../match/columns'
import { FIELD } from './standard-fields'
import { cleanCustom, type CustomField, customKey, type CustomValues } from './custom'
import { cleanDate } from './date'
import { cleanDomain } from './domain'
import { type CleanAddress, cleanEmail } from './email'
import { fold } from './fold'
import { type CleanName, cleanName, squeeze } from './name'
import { cleanOrganisation } from './organisation'
import { cleanPhone } from './phone'
import { cleanOwnerKind, cleanPosition, cleanWhole, type OwnerKind, type Position } from './premises'
import { cleanPostal, type PostalParts, postalKey } from './postal'
import { emailTraits } from './email-traits'
import { cleanWay } from './way'
import { cleanIndustry } from './industry'
import { type Note, whatWasDone } from './notes'
import { cleanWebsite } from './website'
import { whoseName } from './whose-name'
import { cleanRelation } from './relation'

export type Refusal = { refused: string }

/** A row of people as it will be stored. */
export interface PersonRow {
  /** The number of the record it is about, as an export of ours gave it out. */
  record: number | null
  outsideId: string | null
  name: CleanName
  role: string | null
  organisation: string | null
  industry: string | null
  headCount: number | null
  /** The organisation’s. */
  website: string | null
  county: string | null
  emails: (CleanAddress & { raw: string })[]
  phones: (CleanAddress & { raw: string })[]
  postal: PostalParts
  relation: Relation | null
  tags: string[]
  custom: CustomValues
  /** What was done to its values, and what is doubtful about them. */
  notes: Note[]
}

/** What somebody should look at in a row that came in, in words; null where there is nothing. */
export function doubtsOf({ notes }: PersonRow): string | null {
  return (
    notes
      .filter((note) => note.doubt)
      .map((note) => note.what)
      .join(', ') || null
  )
}

/** A row of premises as it will be stored. */
export interface PremisesRow {
  outsideId: string | null
  name: string
  /** Whether the name is its own, and not only that of the street. */
  named: boolean
  kind: string | null
  postal: PostalParts
  county: string | null
  position: Position | null
  roofArea: number | null
  yearBuilt: number | null
  owner: string | null
  ownerKind: OwnerKind | null
  /** Fields by number. */
  details: CustomValues
  /** What somebody should look at, in words. */
  doubts: string[]
}

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

export interface SuppressionRow extends Who {
  domain: string | null
  postal: PostalParts | null
  organisation: string | null
  channels: Channel[]
  reason: Reason | null
  since: string | null
  until: string | null
  word: string | null
}

/** Cells longer than this are refused rather than cut. */
const LONGEST_CELL = 4000

/** The cells of a row by the field they hold. */
export function cellsOf(row: string[], mapping: Mapping): Record<string, string> {
  const cells: Record<string, string> = {}
  mapping.forEach((field, i) => {
    if (field !== null) cells[field] = row[i] ?? ''
  })
  return cells
}

/** What no cell may be: too long, or with a character that the file's encoding could not be read by. */
function badCell(kind: BatchKind, cells: Record<string, string>): Refusal | null {
  for (const [field, cell] of Object.entries(cells)) {
    if (cell.length > LONGEST_CELL)
      return { refused: `${fieldLabel(kind, field)} is ${cell.length} characters long; at most ${LONGEST_CELL} are taken` }
    if (cell.includes('\uFFFD'))
      return { refused: `${fieldLabel(kind, field)} holds a character that could not be read: the file is not all in one encoding` }
  }
  return null
}

/** Numbers of records, or nothing. */
const RECORD = /^\d{0,15}$/

const text = (cell: string | undefined) => squeeze(cell ?? '') || null

/** Cleans a row of people, or says why it is refused. `region` is for phone numbers without a country code. */
export function personRow(row: string[], mapping: Mapping, region: string, customs: readonly CustomField[] = []): PersonRow | Refusal {
  const cells = cellsOf(row, mapping)
  if (row.every((cell) => cell.trim() === '')) return { refused: 'the row is empty' }
  const long = badCell('people', cells)
  if (long) return long
  // A file that has no column for names has them in its addresses, or not at all.
  const named = mapping.some((field) => field === 'name' || field === 'given' || field === 'family')
  const told = named ? null : nameOfEmail(cells.email ?? '')
  if (!named && !told) return { refused: 'no name in the row, and none in the email address; fill the gaps of the file first' }
  const whose = whoseName(
    { full: cells.name ?? '', given: cells.given ?? told?.given ?? '', family: cells.family ?? told?.family ?? '' },
    cells.organisation ?? '',
  )
  if ('refused' in whose) return whose
  const name = cleanName(whose.cells)
  if (!name) return { refused: 'the name is missing' }
  const relation = cleanRelation(cells.relation ?? '')
  if (relation === undefined) return { refused: `“${cells.relation.trim()}” is not a relation we know` }
  const record = squeeze(cells.record ?? '')
  if (!RECORD.test(record)) return { refused: `“${record}” is not a record number of ours` }
  const headCount = cleanCount(cells.headCount ?? '')
  const industry = cleanIndustry(cells.industry ?? '')
  const website = cleanWebsite(cells.website ?? '')
  const addresses = (fields: string[], clean: (raw: string) => CleanAddress | null) =>
    fields.flatMap((field) => {
      const cleaned = clean(cells[field] ?? '')
      return cleaned ? [{ ...cleaned, raw: cells[field] }] : []
    })
  const person: PersonRow = {
    record: record === '' ? null : Number(record),
    outsideId: text(cells.outsideId),
    name,
    role: text(cells.role) ?? whose.role,
    organisation: cleanOrganisation(cells.organisation ?? ''),
    industry: industry?.value ?? null,
    headCount: headCount ?? null,
    website: website ?? null,
    county: text(cells.county),
    emails: addresses(['email', 'email2'], cleanEmail),
    phones: addresses(['phone', 'phone2'], (raw) => cleanPhone(raw, region)),
    postal: cleanPostal(cells),
    relation,
    custom: {},
    tags: [...new Set((cells.tags ?? '').split(/[;,|]/).map(squeeze).filter(Boolean))],
    notes: [],
  }
  person.notes = notesOn(person, cells, headCount === undefined)
  if (told) person.notes.push({ field: 'name', raw: cells.email, value: name.name, what: 'name taken from the email address', doubt: true })
  if (whose.role)
    person.notes.push({
      field: 'name',
      raw: cells.name,
      value: name.name,
      what: text(cells.role)
        ? `“${whose.role}” behind the name was left out: the row has a role`
        : `“${whose.role}” behind the name was taken as the role`,
      doubt: false,
    })
  if (industry?.done || industry?.doubt)
    person.notes.push({
      field: 'industry',
      raw: cells.industry,
      value: industry.value,
      what: industry.done ?? industry.doubt ?? '',
      doubt: industry.doubt !== null,
    })
  if (industry?.code && customs.some(({ id }) => id === FIELD.industryCode)) person.custom[FIELD.industryCode] = industry.code
  if (website === undefined)
    person.notes.push({
      field: 'website',
      raw: cells.website,
      value: '',
      what: `“${squeeze(cells.website)}” is no web address and was left out`,
      doubt: true,
    })
  for (const field of customs) {
    const raw = cells[customKey(field.id)] ?? ''
    const value = cleanCustom(field, raw)
    if (value) person.custom[field.id] = value
    const what =
      value === undefined
        ? `“${squeeze(raw)}” is ${NOT_OF_KIND[field.kind]} of ${field.name} and was left out`
        : value && field.kind !== 'text'
          ? whatWasDone(raw, value)
          : null
    if (what) person.notes.push({ field: field.name, raw, value: value ?? '', what, doubt: value === undefined })
  }
  return person
}

const NOT_OF_KIND = {
  text: 'no text',
  number: 'no number',
  date: 'no date',
  choice: 'none of the choices',
  'yes or no': 'neither yes nor no',
} as const

function notesOn(row: PersonRow, cells: Record<string, string>, noHeadCount: boolean): Note[] {
  const notes: Note[] = []
  const note = (field: string, raw: string, value: string, what: string | null, doubt = false) =>
    what && notes.push({ field, raw, value, what, doubt })
  const rawName = cells.name ?? [cells.given, cells.family].filter(Boolean).join(' ')
  note('name', rawName, row.name.name, row.name.done.join(', '))
  note('name', rawName, row.name.name, row.name.incomplete, true)
  for (const field of ['role', 'organisation', 'county'] as const)
    note(field, cells[field] ?? '', row[field] ?? '', row[field] && whatWasDone(cells[field], row[field]))
  for (const field of ['street', 'town', 'postcode'] as const)
    note(field, cells[field] ?? '', row.postal[field] ?? '', row.postal[field] && whatWasDone(cells[field], row.postal[field]))
  for (const email of row.emails) {
    note('email', email.raw, email.value, email.done?.join(', ') ?? whatWasDone(email.raw, email.value))
    if (!email.usable) {
      note('email', email.raw, email.value, `“${email.value}” is no email address: ${email.why}`, true)
      continue
    }
    const traits = emailTraits(email.normal)
    note('email', email.raw, email.value, traits.likely && `${email.value} may be meant as ${traits.likely}`, true)
    note(
      'email',
      email.raw,
      email.value,
      traits.disposable && !traits.likely ? `${email.value} is at a provider of throw-away addresses` : null,
      true,
    )
    note(
      'email',
      email.raw,
      email.value,
      traits.roleAccount ? 'an address of a post, not of one person' : traits.kind === 'personal' ? 'a personal address' : null,
    )
  }
  for (const phone of row.phones) {
    if (phone.usable)
      note(
        'phone',
        phone.raw,
        phone.value,
        phone.raw.trim().startsWith('+')
          ? whatWasDone(phone.raw, phone.value) && 'written internationally'
          : 'written with its country code',
      )
    else note('phone', phone.raw, phone.value, `“${phone.value}” is no phone number: ${phone.why}`, true)
  }
  if (noHeadCount) note('headCount', cells.headCount, '', `“${squeeze(cells.headCount)}” is not a number of people and was left out`, true)
  return notes
}

/** A whole number of people, thousands set apart or not; null where empty, `undefined` where it is none. A range counts by its lower end. */
function cleanCount(raw: string): number | null | undefined {
  const digits = squeeze(raw).replace(/[\s,.'](?=\d{3}(\D|$))/g, '')
  if (digits === '') return null
  const found = /^(\d{1,7})(\s*(\+|[-–—]\s*\d{1,7}))?$/.exec(digits)
  return found ? Number(found[1]) : undefined
}

/** Why premises that nobody could find are refused. */
export const NOWHERE = 'it says neither a whole address nor where it lies'

/** Cleans a row of premises, or says why it is refused. */
export function premisesRow(row: string[], mapping: Mapping, fields: readonly CustomField[] = []): PremisesRow | Refusal {
  const cells = cellsOf(row, mapping)
  if (row.every((cell) => cell.trim() === '')) return { refused: 'the row is empty' }
  const long = badCell('premises', cells)
  if (long) return long
  const doubts: string[] = []
  const orDoubt = <T>(value: T | undefined, cell: string | undefined, what: string): T | null => {
    if (value === undefined) doubts.push(`“${squeeze(cell ?? '')}” is ${what} and was left out`)
    return value ?? null
  }
  const found = cleanPosition(cells.latitude ?? '', cells.longitude ?? '')
  if (found && 'wrong' in found) doubts.push(`${found.wrong}; the position was left out`)
  const position = found && !('wrong' in found) ? found : null
  const postal = cleanPostal(cells)
  // An outside id may be that of premises we know.
  if (!postalKey(postal) && !position && !text(cells.outsideId)) return { refused: [NOWHERE, ...doubts].join('; ') }
  const name = text(cells.name)
  return {
    outsideId: text(cells.outsideId),
    name: name ?? postal.street ?? 'Without a name',
    named: name !== null && fold(name) !== fold(postal.street ?? ''),
    kind: text(cells.kind),
    postal,
    county: text(cells.county),
    position,
    roofArea: orDoubt(cleanWhole(cells.roofArea ?? '', 10_000_000), cells.roofArea, 'no area in square metres'),
    yearBuilt: orDoubt(cleanWhole(cells.yearBuilt ?? '', 2200), cells.yearBuilt, 'no year'),
    owner: text(cells.owner),
    ownerKind: orDoubt(cleanOwnerKind(cells.ownerKind ?? ''), cells.ownerKind, 'no kind of owner we know'),
    details: Object.fromEntries(
      fields.flatMap((field) => {
        const cell = cells[customKey(field.id)]
        const value = cell === undefined ? null : orDoubt(cleanCustom(field, cell), cell, `no value of ${field.name}`)
        return value === null ? [] : [[field.id, value]]
      }),
    ),
    doubts,
  }
}

function whoOf(cells: Record<string, string>, region: string): Who | Refusal {
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

const REASON_WORDS: Record<string, Reason> = {
  unsubscribed: 'opt-out',
  unsubscribe: 'opt-out',
  'opted out': 'opt-out',
  'asked us to stop': 'opt-out',
  stop: 'opt-out',
  complained: 'complaint',
  'do not call': 'register',
  'do not call register': 'register',
  dnc: 'register',
}

/** Cleans a row of suppressions, or says why it is refused. */
export function suppressionRow(row: string[], mapping: Mapping, region: string): SuppressionRow | Refusal {
  const cells = cellsOf(row, mapping)
  const long = badCell('suppressions', cells)
  if (long) return long
  const who = whoOf(cells, region)
  if ('refused' in who) return who
  const domain = cleanDomain(cells.domain ?? '')
  if (text(cells.domain) && !domain) return { refused: `“${cells.domain.trim()}” is not an email domain` }
  const postal = text(cells.street) ? cleanPostal(cells) : null
  if (postal && !postalKey(postal)) return { refused: 'the postal address has no town or postcode' }
  const organisation = cleanOrganisation(cells.organisation ?? '')
  if (!who.record && !who.outsideId && !who.email && !who.phone && !domain && !postal && !organisation)
    return { refused: 'it names no email, phone, domain, street, organisation or outside id' }
  const words = (cells.channels ?? '')
    .split(/[;,|+]/)
    .map((word) => word.trim())
    .filter(Boolean)
  const every = words.some((word) => /^(all|any|every.*)$/i.test(word))
  const channels = every ? [...CHANNELS] : words.map(cleanChannel)
  const unknown = channels.indexOf(null)
  if (unknown >= 0) return { refused: `“${words[unknown]}” is not a channel` }
  const reasonWord = fold(cells.reason ?? '')
  const reason = REASONS.find((r) => fold(r) === reasonWord) ?? REASON_WORDS[reasonWord] ?? null
  if (reasonWord !== '' && reason === null) return { refused: `“${cells.reason.trim()}” is not a reason we know` }
  const dates = { since: cleanDate(cells.since ?? ''), until: cleanDate(cells.until ?? '') }
  for (const side of ['since', 'until'] as const)
    if (text(cells[side]) && !dates[side]) return { refused: `${side}: “${cells[side].trim()}” is not a date` }
  return {
    ...who,
    domain,
    postal,
    organisation,
    channels: channels as Channel[],
    reason,
    since: dates.since?.date ?? null,
    until: dates.until?.date ?? null,
    word: text(cells.word),
  }
}

/** Cleans a row of any kind of batch. */
export function cleanRow(
  kind: BatchKind,
  row: string[],
  mapping: Mapping,
  region: string,
  customs: readonly CustomField[] = [],
): PersonRow | ContactRow | SuppressionRow | PremisesRow | Refusal {
  if (kind === 'premises') return premisesRow(row, mapping, customs)
  return kind === 'people'
    ? personRow(row, mapping, region, customs)
    : kind === 'contacts'
      ? contactRow(row, mapping, region)
      : suppressionRow(row, mapping, region)
}
