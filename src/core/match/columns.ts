import { fold } from '../clean/fold'

/** What the columns of a file can be, by the kind of batch: field, what it is called, and words a header may use. */
export const FIELDS = {
  people: [
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'reference', 'contact id', 'outside id', 'external id']],
    ['name', 'Full name', ['name', 'full name', 'contact', 'contact name', 'person']],
    ['given', 'Given name', ['first name', 'given name', 'forename', 'first']],
    ['family', 'Family name', ['last name', 'surname', 'family name', 'last']],
    ['role', 'Role', ['role', 'job title', 'title', 'position', 'job']],
    ['organisation', 'Organisation', ['organisation', 'organization', 'company', 'employer', 'account', 'organisation name', 'school']],
    ['industry', 'Organisation’s industry', ['industry', 'sector', 'type', 'organisation type', 'kind']],
    ['headCount', 'Organisation’s head count', ['head count', 'headcount', 'employees', 'staff', 'number of employees', 'size']],
    ['email', 'E-mail', ['email', 'e mail', 'email address', 'mail', 'work email']],
    ['email2', 'Second e-mail', ['email 2', 'second email', 'other email', 'personal email']],
    ['phone', 'Phone', ['phone', 'telephone', 'tel', 'phone number', 'work phone', 'direct line']],
    ['phone2', 'Second phone', ['mobile', 'cell', 'phone 2', 'mobile phone', 'other phone']],
    ['street', 'Street', ['street', 'address', 'address line 1', 'street address', 'address 1']],
    ['town', 'Town', ['town', 'city', 'town city', 'place']],
    ['county', 'County', ['county', 'region', 'district', 'state']],
    ['postcode', 'Postcode', ['postcode', 'post code', 'zip', 'postal code', 'zip code']],
    ['relation', 'Relation to us', ['relation', 'relationship', 'status', 'relation to us', 'contact type']],
    ['tags', 'Tags', ['tags', 'tag', 'labels', 'groups', 'keywords']],
  ],
  contacts: [
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'contact id', 'outside id']],
    ['name', 'Full name', ['name', 'full name', 'contact name', 'person']],
    ['email', 'E-mail', ['email', 'e mail', 'email address']],
    ['phone', 'Phone', ['phone', 'telephone', 'number', 'phone number']],
    ['date', 'Date', ['date', 'when', 'contacted on', 'date of contact', 'at']],
    ['channel', 'Channel', ['channel', 'by', 'how', 'method']],
    ['result', 'Result', ['result', 'outcome', 'what came of it']],
    ['note', 'Note', ['note', 'notes', 'comment', 'comments', 'remarks']],
  ],
  suppressions: [
    ['outsideId', 'Outside id', ['id', 'record id', 'ref', 'contact id', 'outside id']],
    ['email', 'E-mail', ['email', 'e mail', 'email address']],
    ['phone', 'Phone', ['phone', 'telephone', 'number', 'phone number']],
    ['domain', 'E-mail domain', ['domain', 'email domain', 'e mail domain']],
    ['street', 'Street', ['street', 'address', 'address line 1', 'street address']],
    ['town', 'Town', ['town', 'city', 'town city']],
    ['postcode', 'Postcode', ['postcode', 'post code', 'zip', 'postal code']],
    ['organisation', 'Organisation', ['organisation', 'organization', 'company', 'organisation name']],
    ['channels', 'Channels', ['channel', 'channels', 'by']],
    ['reason', 'Reason', ['reason', 'why']],
    ['since', 'Since', ['since', 'date', 'from', 'registered']],
    ['until', 'Until', ['until', 'to', 'ends', 'expires']],
    ['word', 'On whose word', ['on whose word', 'word', 'source', 'asked by', 'who']],
  ],
} as const satisfies Record<string, readonly (readonly [string, string, readonly string[]])[]>

export type BatchKind = keyof typeof FIELDS

/** For each column of a file the field it holds, or null where it is kept but not used. */
export type Mapping = (string | null)[]

export const fieldLabel = (kind: BatchKind, field: string): string => FIELDS[kind].find(([name]) => name === field)?.[1] ?? field

/** Guesses what each column holds, from its header and from the cells below it. Each field is given out once. */
export function guessMapping(kind: BatchKind, header: string[], rows: string[][]): Mapping {
  const free = new Set<string>(FIELDS[kind].map(([field]) => field))
  const take = (field: string) => (free.delete(field) ? field : null)
  const mapping: Mapping = header.map((title) => {
    const word = fold(title)
    const found = FIELDS[kind].find(([field, , words]) => free.has(field) && (words as readonly string[]).includes(word))
    return found ? take(found[0]) : null
  })
  return mapping.map((field, column) => {
    if (field !== null) return field
    const cells = rows.map((row) => row[column] ?? '').filter((cell) => cell.trim() !== '')
    if (cells.length === 0) return null
    const most = (test: (cell: string) => boolean) => cells.filter(test).length > cells.length * 0.7
    if (most((c) => /^\S+@\S+\.\S+$/.test(c.trim()))) return take('email')
    if (most((c) => /^[+(]?[\d\s()./-]{9,}$/.test(c.trim()))) return take('phone')
    return null
  })
}

/** What a mapping lacks before rows can be brought in, or null. */
export function mappingLacks(kind: BatchKind, mapping: Mapping): string | null {
  const has = (...fields: string[]) => fields.some((field) => mapping.includes(field))
  const twice = mapping.find((field, i) => field !== null && mapping.indexOf(field) !== i)
  if (twice) return `two columns are said to be ${fieldLabel(kind, twice)}`
  if (kind === 'people') return has('name', 'family') ? null : 'say which column holds the name'
  if (kind === 'suppressions') return has('email', 'phone', 'outsideId', 'domain', 'organisation', 'street') ? null : 'say which column tells who is suppressed: an e-mail, phone, domain, street, organisation or outside id'
  if (!has('email', 'phone', 'outsideId', 'name')) return 'say which column tells who was contacted'
  return has('date') ? (has('channel') ? null : 'say which column holds the channel') : 'say which column holds the date'
}
