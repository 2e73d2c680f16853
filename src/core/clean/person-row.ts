import { nameOfEmail } from './name-of-email'
import type { Mapping } from '../match/columns'
import { FIELD } from './standard-fields'
import { cleanCustom, type CustomField, customKey, type CustomValues } from './custom'
import { type CleanAddress, cleanEmail } from './email'
import { type CleanName, cleanName, squeeze } from './name'
import { cleanOrganisation } from './organisation'
import { cleanDirect } from './direct'
import { cleanPhone } from './phone'
import { cleanPostal, type PostalParts } from './postal'
import { emailTraits } from './email-traits'
import { cleanIndustry } from './industry'
import { type Note, whatWasDone } from './notes'
import { cleanWebsite } from './website'
import { whoseName } from './whose-name'
import { cleanRelation } from './relation'
import { badCell, cellsOf, RECORD, type Refusal, text } from './cells'
import type { Relation } from '../records/relations'

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
  /** Where direct messages go. */
  directs: (CleanAddress & { raw: string })[]
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
    directs: addresses(['direct'], cleanDirect),
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
  for (const direct of row.directs)
    note(
      'direct',
      direct.raw,
      direct.value,
      direct.usable ? whatWasDone(direct.raw, direct.value) : `“${direct.value}” cannot be written to: ${direct.why}`,
      !direct.usable,
    )
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
