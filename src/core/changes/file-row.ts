import { cleanDate } from '../clean/date'
import { fold } from '../clean/fold'
import { squeeze } from '../clean/name'
import type { About, FeedItem } from './feed'

/** What a column of a file of changes holds. */
export const CHANGE_COLUMNS = [
  'person',
  'email',
  'organisation',
  'street',
  'town',
  'postcode',
  'what',
  'before',
  'after',
  'day',
  'seen',
  'text',
  'link',
  'id',
] as const
export type ChangeColumn = (typeof CHANGE_COLUMNS)[number]

/** Headings that a column is known by (common practice, no source). */
const HEADINGS: Record<ChangeColumn, readonly string[]> = {
  person: ['person', 'name', 'full name', 'contact'],
  email: ['email', 'e mail', 'email address', 'mail'],
  organisation: ['organisation', 'organization', 'company', 'employer', 'account'],
  street: ['street', 'address'],
  town: ['town', 'city', 'place'],
  postcode: ['postcode', 'post code', 'zip', 'zip code', 'postal code'],
  what: ['what', 'change', 'kind', 'what happened', 'event', 'signal', 'type'],
  before: ['before', 'old', 'from', 'was', 'old value'],
  after: ['after', 'new', 'to', 'is', 'new value', 'new role', 'new organisation'],
  day: ['day', 'date', 'on', 'happened on', 'happened'],
  seen: ['seen', 'seen on', 'as of', 'noticed'],
  text: ['text', 'note', 'notes', 'details', 'description', 'headline', 'title'],
  link: ['link', 'url', 'source link', 'web'],
  id: ['id', 'number', 'reference', 'ref'],
}

/** What each column of a file holds, by its heading; null where it is not known. Each is taken once, the first. */
export function changeColumns(header: readonly string[]): (ChangeColumn | null)[] {
  const taken = new Set<ChangeColumn>()
  return header.map((title) => {
    const column = CHANGE_COLUMNS.find((own) => !taken.has(own) && HEADINGS[own].includes(fold(title))) ?? null
    if (column) taken.add(column)
    return column
  })
}

/** What is missing of a file of changes before any row of it can be read; null where nothing is. */
export function missingColumns(columns: readonly (ChangeColumn | null)[]): string | null {
  const has = (column: ChangeColumn) => columns.includes(column)
  if (!has('what')) return 'No column says what happened. Name one “What”.'
  if (!has('day') && !has('seen')) return 'No column says the day. Name one “Day”, or “Seen” where it was only seen by then.'
  if (!has('person') && !has('organisation') && !has('street'))
    return 'No column says whom it is about. Name one “Person” or “Organisation”.'
  return null
}

/** Words for what somebody did; every other is a kind of change by its name (common practice, no source). */
const LEFT = new Set(['left', 'has left', 'left the organisation', 'departure', 'departed', 'retired', 'resigned'])
const ROLE = new Set(['role', 'new role', 'another role', 'promotion', 'promoted', 'job change', 'new job title'])
const MOVED = new Set(['organisation', 'another organisation', 'new organisation', 'moved', 'joined', 'new employer', 'hired'])

/**
 * A row of a file of changes as an item of a feed. What it says that cannot be read stays as it is, so that the check of the item says
 * why. `contentKey` gives a number to a row that has none.
 */
export function changeRow(
  raw: readonly string[],
  columns: readonly (ChangeColumn | null)[],
  contentKey: (content: string) => string,
): FeedItem {
  const cell = (column: ChangeColumn): string | null => {
    const at = columns.indexOf(column)
    const text = at < 0 ? '' : squeeze(raw[at] ?? '')
    return text === '' ? null : text
  }
  const what = fold(cell('what') ?? '')
  const field = LEFT.has(what) || MOVED.has(what) ? ('organisation' as const) : ROLE.has(what) ? ('role' as const) : null
  const stated = cell('day') !== null
  const day = cell('day') ?? cell('seen') ?? ''
  const item: FeedItem = {
    id: cell('id') ?? '',
    about: aboutOf(cell),
    happening: field === null ? what : null,
    field,
    before: cell('before'),
    after: field === null || LEFT.has(what) ? null : cell('after'),
    day: cleanDate(day)?.date ?? day,
    stated,
    text: cell('text'),
    link: cell('link'),
  }
  return item.id === '' ? { ...item, id: contentKey(JSON.stringify(item)) } : item
}

function aboutOf(cell: (column: ChangeColumn) => string | null): About {
  const person = cell('person')
  if (person !== null) return { person, organisation: cell('organisation') ?? '', email: cell('email') }
  const [street, town, postcode] = [cell('street'), cell('town'), cell('postcode')]
  const organisation = cell('organisation')
  if (organisation === null && street !== null) return { premises: '', street, town: town ?? '', postcode: postcode ?? '' }
  return { organisation: organisation ?? '' }
}
