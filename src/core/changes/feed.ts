import { isDay } from '../calendar/local-day'

/** Whom an item of a feed is about, as its publisher knows them. */
export type About =
  | { person: string; organisation: string; email: string | null }
  | { organisation: string }
  | { premises: string; street: string; town: string; postcode: string }

/** One item of an outside feed of changes. `id` is the publisher's own; a later item of the same id is another report of the same. */
export interface FeedItem {
  id: string
  about: About
  /** What happened, by a word that kinds are known by; or null where it says what a field is. */
  happening: string | null
  field: 'role' | 'organisation' | null
  before: string | null
  after: string | null
  /** The day it happened, where `stated`; else the day it was seen. */
  day: string
  stated: boolean
  text: string | null
  link: string | null
}

/** A page of a feed. `next` is where to go on from; `more` whether there is something there now. */
export interface FeedPage {
  items: FeedItem[]
  next: string
  more: boolean
}

/** Somewhere changes are published: read from a cursor on, null from its beginning. */
export interface FeedSource {
  name: string
  read: (cursor: string | null) => Promise<FeedPage>
}

/** What became of an item that was read. */
export const FEED_OUTCOMES = ['reported', 'known', 'nobody here', 'in doubt', 'refused'] as const
export type FeedOutcome = (typeof FEED_OUTCOMES)[number]

/** Kinds that are read off fields and contacts, and that nobody tells by themselves. */
const FOUND_OTHERWISE = new Set([
  'left',
  'role',
  'organisation',
  'address failed',
  'disagree',
  'replied',
  'complained',
  'detail',
  'customer',
])

/** Why an item cannot be taken, or null. `today` is the day on which it is read; `kinds` has the words that kinds are known by. */
export function itemTrouble(item: FeedItem, today: string, kinds: ReadonlyMap<string, number>): string | null {
  if (typeof item.id !== 'string' || item.id === '' || item.id.length > 200) return 'it has no number'
  if (typeof item.day !== 'string' || !isDay(item.day)) return 'it has no day'
  if (item.day > today) return 'it is dated in the future'
  if (item.happening !== null && (!kinds.has(item.happening) || FOUND_OTHERWISE.has(item.happening)))
    return `we know no “${String(item.happening).slice(0, 40)}”`
  if (item.happening === null && item.field !== 'role' && item.field !== 'organisation')
    return 'it says neither what happened nor what changed'
  if (item.happening !== null && item.field !== null) return 'it says two things at once'
  if (item.field === 'role' && !item.after?.trim()) return 'it does not say the new role'
  if (item.field !== null && !('person' in item.about)) return 'only people have roles and employers'
  if (item.link !== null && !(typeof item.link === 'string' && /^https?:\/\//.test(item.link) && item.link.length <= 1000))
    return 'its link is none'
  return null
}
