import { distance } from 'fastest-levenshtein'
import { type CustomField, customKey } from '../clean/custom'
import { cleanDate } from '../clean/date'
import { fold } from '../clean/fold'
import { cleanRelation } from '../clean/relation'
import { classifyRole } from '../clean/role'
import { cleanWay } from '../clean/way'

/** What the columns of a file can be, by the kind of batch: field, what it is called, and words a header may use. */
export const FIELDS = {
  people: [
    ['record', 'Our record number', ['record number', 'our record number']],
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'reference', 'contact id', 'outside id', 'external id']],
    ['name', 'Full name', ['name', 'full name', 'contact', 'contact name', 'person']],
    ['given', 'Given name', ['first name', 'given name', 'forename', 'first']],
    ['family', 'Family name', ['last name', 'surname', 'family name', 'last']],
    ['role', 'Role', ['role', 'job title', 'title', 'position', 'job', 'occupation', 'designation', 'role title']],
    [
      'organisation',
      'Organisation',
      [
        'organisation',
        'organization',
        'company',
        'employer',
        'account',
        'organisation name',
        'school',
        'company name',
        'account name',
        'organization name',
        'business',
        'business name',
        'firm',
        'employer name',
      ],
    ],
    ['industry', 'Organisation’s industry', ['industry', 'sector', 'type', 'organisation type', 'kind']],
    [
      'headCount',
      'Organisation’s head count',
      [
        'head count',
        'headcount',
        'employees',
        'staff',
        'number of employees',
        'size',
        'company size',
        'employee count',
        'number of staff',
        'company headcount',
      ],
    ],
    [
      'website',
      'Organisation’s website',
      ['website', 'web', 'url', 'web address', 'homepage', 'web site', 'domain', 'company domain', 'company website', 'company url'],
    ],
    ['email', 'Email', ['email', 'e mail', 'email address', 'mail', 'work email', 'business email']],
    ['email2', 'Second email', ['email 2', 'second email', 'other email', 'personal email']],
    [
      'phone',
      'Phone',
      ['phone', 'telephone', 'tel', 'phone number', 'work phone', 'direct line', 'business phone', 'office phone', 'landline'],
    ],
    ['phone2', 'Second phone', ['mobile', 'cell', 'phone 2', 'mobile phone', 'other phone', 'cell phone', 'mobile number']],
    [
      'direct',
      'Profile link or handle',
      [
        'profile link or handle',
        'profile link',
        'profile url',
        'handle',
        'direct message',
        'social profile',
        'social',
        'username',
        'member page',
      ],
    ],
    ['street', 'Street', ['street', 'address', 'address line 1', 'street address', 'address 1']],
    ['town', 'Town', ['town', 'city', 'town city', 'place', 'municipality', 'locality']],
    ['county', 'County', ['county', 'region', 'district', 'state', 'province']],
    ['postcode', 'Postcode', ['postcode', 'post code', 'zip', 'postal code', 'zip code', 'zipcode', 'eircode']],
    [
      'relation',
      'Relation to us',
      [
        'relation',
        'relationship',
        'status',
        'relation to us',
        'contact type',
        'lead status',
        'lifecycle stage',
        'customer status',
        'contact status',
        'relationship status',
      ],
    ],
    ['tags', 'Tags', ['tags', 'tag', 'labels', 'groups', 'keywords']],
  ],
  premises: [
    ['outsideId', 'Outside id', ['id', 'feature id', 'ref', 'reference', 'outside id', 'premises id', 'building id']],
    ['name', 'Name', ['name', 'premises', 'building', 'building name', 'site', 'site name']],
    ['kind', 'Kind', ['kind', 'kind of premises', 'type', 'building type', 'use']],
    ['street', 'Street', ['street', 'address', 'address line 1', 'street address', 'address 1']],
    ['town', 'Town', ['town', 'city', 'town city', 'place', 'district']],
    ['county', 'County', ['county', 'region', 'state']],
    ['postcode', 'Postcode', ['postcode', 'post code', 'zip', 'postal code', 'zip code']],
    ['latitude', 'Latitude', ['latitude', 'lat', 'y']],
    ['longitude', 'Longitude', ['longitude', 'lon', 'lng', 'long', 'x']],
    ['roofArea', 'Roof area in m²', ['roof area', 'roof', 'roof area m2', 'area']],
    ['yearBuilt', 'Year built', ['year built', 'built', 'year', 'built in']],
    ['owner', 'Owner', ['owner', 'owner name', 'proprietor']],
    ['ownerKind', 'Kind of owner', ['kind of owner', 'owner kind', 'owner type']],
  ],
  contacts: [
    ['record', 'Our record number', ['record number', 'our record number']],
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'contact id', 'outside id']],
    ['name', 'Full name', ['name', 'full name', 'contact name', 'person']],
    ['email', 'Email', ['email', 'e mail', 'email address']],
    ['phone', 'Phone', ['phone', 'telephone', 'number', 'phone number']],
    ['date', 'Date', ['date', 'when', 'contacted on', 'date of contact', 'at']],
    ['channel', 'Channel', ['channel', 'by', 'how', 'method']],
    ['result', 'Result', ['result', 'outcome', 'what came of it']],
    ['note', 'Note', ['note', 'notes', 'comment', 'comments', 'remarks']],
  ],
  suppressions: [
    ['record', 'Our record number', ['record number', 'our record number']],
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'contact id', 'outside id']],
    ['email', 'Email', ['email', 'e mail', 'email address']],
    ['phone', 'Phone', ['phone', 'telephone', 'number', 'phone number']],
    ['direct', 'Profile link or handle', ['profile link or handle', 'profile link', 'profile url', 'handle', 'direct message']],
    ['domain', 'Email domain', ['domain', 'email domain', 'e mail domain']],
    ['street', 'Street', ['street', 'address', 'address line 1', 'street address']],
    ['town', 'Town', ['town', 'city', 'town city']],
    ['postcode', 'Postcode', ['postcode', 'post code', 'zip', 'postal code']],
    ['organisation', 'Organisation', ['organisation', 'organization', 'company', 'organisation name']],
    ['channels', 'Channels', ['channel', 'channels', 'by']],
    ['reason', 'Reason', ['reason', 'why']],
    ['since', 'Since', ['since', 'date', 'from', 'registered']],
    ['until', 'Until', ['until', 'to', 'ends', 'expires']],
    ['word', 'Requested by', ['requested by', 'on whose word', 'word', 'source', 'asked by', 'who']],
    ['evidence', 'Evidence', ['evidence', 'proof', 'message', 'note']],
  ],
} as const satisfies Record<string, readonly (readonly [string, string, readonly string[]])[]>

export type BatchKind = keyof typeof FIELDS

/** Fields of a person that hold one value, so that a row about somebody known may say another. */
export const RULED = ['name', 'role', 'organisation', 'relation', 'county', 'address', 'own fields'] as const
export type RuledField = (typeof RULED)[number]

/** What a row may do to a field that says otherwise: only fill it where it is blank, or ask. Without a rule what it says is newer and wins. An empty cell never changes anything. */
export const RULES = ['blanks', 'ask'] as const
export type FieldRules = Partial<Record<RuledField, (typeof RULES)[number]>>

/** For each column of a file the field it holds, or null where it is kept but not used. */
export type Mapping = (string | null)[]

/** Returns what a field is called in the mapping; its own name where it is not known. */
export const fieldLabel = (kind: BatchKind, field: string): string => FIELDS[kind].find(([name]) => name === field)?.[1] ?? field

/** What a column is taken to hold, and by what: its title, nearly its title, or what stands in it. */
export interface Guess {
  field: string
  by: 'title' | 'nearly its title' | 'values'
}

/** Of the cells that hold anything, at least so many must look like a field for a column to be taken for it. */
const MOST = 0.7

/** What cells of a field look like, where they can be told by themselves. In this order: an email is no street. */
const LOOKS: Record<BatchKind, [field: string, looks: (cell: string) => boolean][]> = {
  premises: [
    ['postcode', isPostcode],
    ['street', isStreet],
  ],
  people: [
    ['email', isEmail],
    ['website', (cell) => /^(https?:\/\/|www\.)\S+$/i.test(cell)],
    ['phone', isPhone],
    ['postcode', isPostcode],
    ['street', isStreet],
    ['relation', (cell) => Boolean(cleanRelation(cell))],
    ['role', (cell) => classifyRole(cell).level !== null],
  ],
  contacts: [
    ['email', isEmail],
    ['date', (cell) => /\d/.test(cell) && cleanDate(cell) !== null],
    ['channel', (cell) => cleanWay(cell) !== null],
    ['phone', isPhone],
  ],
  suppressions: [
    ['email', isEmail],
    ['domain', (cell) => /^@[\w.-]+\.\w+$/.test(cell)],
    ['since', (cell) => /\d/.test(cell) && cleanDate(cell) !== null],
    ['phone', isPhone],
  ],
}

function isPostcode(cell: string): boolean {
  return /^([A-Z]{1,2}\d[A-Z\d]?\s*\d[A-Z]{2}|\d{5}(-\d{4})?)$/i.test(cell)
}

function isStreet(cell: string): boolean {
  return /^\d+[a-z]?(\s*[-–/]\s*\d+)?,?\s+\p{L}{2,}/iu.test(cell)
}

function isEmail(cell: string): boolean {
  return /^\S+@\S+\.\S+$/.test(cell)
}

function isPhone(cell: string): boolean {
  return /^[+(]?[\d\s()./-]{9,}$/.test(cell)
}

/** Guesses what each column holds, from its title and from the cells below it; null where nothing tells. Each field is given out once. */
export function guessColumns(
  kind: BatchKind,
  header: readonly string[],
  rows: string[][],
  customs: readonly CustomField[] = [],
): (Guess | null)[] {
  const free = new Set<string>(FIELDS[kind].map(([field]) => field))
  const take = (field: string | undefined, by: Guess['by']): Guess | null =>
    field !== undefined && free.delete(field) ? { field, by } : null
  const titled = (fits: (word: string, title: string) => boolean) => (title: string) =>
    FIELDS[kind].find(([field, , words]) => free.has(field) && words.some((word) => fits(word, fold(title))))?.[0]
  // A title beside a job title is what stands before a name.
  const folded = header.map(fold)
  const isTitle = (own: string) => own === 'title' && folded.some((other) => ['job title', 'role', 'position', 'job'].includes(other))
  const guesses = header.map((title) => (isTitle(fold(title)) ? null : take(titled((word, own) => word === own)(title), 'title')))
  if (kind === 'people' || kind === 'premises') {
    header.forEach((title, i) => {
      const field = customs.find(({ id, name }) => fold(name) === fold(title) && !guesses.some((guess) => guess?.field === customKey(id)))
      if (field) guesses[i] ??= { field: customKey(field.id), by: 'title' }
    })
  }
  const nearly = titled((word, own) => word.length > 4 && own.length > 4 && distance(word, own) <= (word.length > 8 ? 2 : 1))
  header.forEach((title, i) => {
    if (!isTitle(fold(title))) guesses[i] ??= take(nearly(title), 'nearly its title')
  })
  for (const [field, looks] of LOOKS[kind]) {
    if (!free.has(field)) continue
    const column = guesses.findIndex((guess, i) => {
      if (guess) return false
      const cells = rows.map((row) => (row[i] ?? '').trim()).filter(Boolean)
      return cells.length > 0 && cells.filter(looks).length > cells.length * MOST
    })
    if (column >= 0) guesses[column] = take(field, 'values')
  }
  return guesses
}

/** The same as a mapping. */
export function guessMapping(kind: BatchKind, header: readonly string[], rows: string[][], customs: readonly CustomField[] = []): Mapping {
  return guessColumns(kind, header, rows, customs).map((guess) => guess?.field ?? null)
}

/** What a mapping lacks before rows can be brought in, or null. */
export function mappingLacks(kind: BatchKind, mapping: Mapping): string | null {
  const has = (...fields: string[]) => fields.some((field) => mapping.includes(field))
  const twice = mapping.find((field, i) => field !== null && mapping.indexOf(field) !== i)
  if (twice) return `two columns are said to be ${fieldLabel(kind, twice)}`
  // Without a column for names there must be none left that could be it.
  if (kind === 'people')
    return has('name', 'family') || (has('email') && !mapping.includes(null)) ? null : 'say which column holds the name'
  if (kind === 'premises')
    return has('street', 'latitude')
      ? has('latitude') === has('longitude')
        ? null
        : 'say which columns hold the latitude and the longitude, both of them'
      : 'say which column holds the street, or the latitude and longitude'
  if (kind === 'suppressions')
    return has('record', 'email', 'phone', 'direct', 'outsideId', 'domain', 'organisation', 'street')
      ? null
      : 'say which column tells who is suppressed: an email, phone, profile, domain, street, organisation or outside id'
  if (!has('record', 'email', 'phone', 'outsideId', 'name')) return 'say which column tells who was contacted'
  return has('date') ? (has('channel') ? null : 'say which column holds the channel') : 'say which column holds the date'
}
