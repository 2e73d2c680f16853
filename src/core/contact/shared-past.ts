import { datePlusDays } from '../calendar/local-day'
import { fold } from '../clean/fold'
import type { Day, Interval } from '../changes/sighting'

/** That somebody went from one organisation to another, or from or to none, and when that must have been. */
export interface Move {
  from: string | null
  to: string | null
  when: Interval
}

/** Somebody's time at an organisation, as far as it is known. */
export interface Stay {
  organisation: string
  /** When it must have begun; null where they were there when we first knew of them. */
  began: Interval | null
  /** When it must have ended; null where they are there still. */
  ended: Interval | null
  /** The first and the last day on which they were there for certain; null where no day is certain. */
  certain: { since: Day; through: Day } | null
}

/** Where somebody was, from the moves on record. `first` is the day their record came in, `now` where they are on `today`. */
export function staysOf(moves: readonly Move[], first: Day, now: string | null, today: Day): Stay[] {
  const sorted = [...moves].sort((a, b) => (a.when.by < b.when.by ? -1 : a.when.by > b.when.by ? 1 : 0))
  const stay = (organisation: string | null, began: Interval | null, ended: Interval | null): Stay[] => {
    if (organisation === null || organisation === '') return []
    const since = began?.by ?? first
    const through = ended === null ? today : ended.after
    return [{ organisation, began, ended, certain: through !== null && since <= through ? { since, through } : null }]
  }
  if (sorted.length === 0) return stay(now, null, null)
  return [
    ...stay(sorted[0].from, null, sorted[0].when),
    ...sorted.flatMap((move, i) => stay(move.to, move.when, sorted[i + 1]?.when ?? null)),
  ]
}

/** Where somebody says that they were before their record came in: some day until then, which day is not known. */
export const earlierStays = (said: string | null, first: Day): Stay[] =>
  (said ?? '')
    .split(';')
    .map((own) => own.trim())
    .filter(Boolean)
    .map((organisation) => ({ organisation, began: null, ended: { after: null, by: first }, certain: null }))

/** What a colleague says of a post of their own: the days it began and ended, both included; no end where it goes on. */
export interface OwnPost {
  organisation: string
  from: Day
  to: Day | null
}

export type Overlap = 'yes' | 'no' | 'unknown'

/** Whether somebody was at an organisation while a colleague was: yes where a day is certain, no where none is possible. */
export function overlapOf(stay: Stay, post: OwnPost, today: Day): Overlap {
  const to = post.to ?? today
  if (stay.certain && stay.certain.since <= to && stay.certain.through >= post.from) return 'yes'
  const earliest = stay.began?.after ? datePlusDays(stay.began.after, 1) : null
  const latest = stay.ended?.by ?? null
  return (latest !== null && latest < post.from) || (earliest !== null && earliest > to) ? 'no' : 'unknown'
}

/** Posts of a colleague's at an organisation where somebody was, and whether both were there at once: the surest first. */
export function sharedPosts(
  stays: readonly Stay[],
  posts: readonly OwnPost[],
  today: Day,
): { organisation: string; post: OwnPost; overlap: Overlap }[] {
  const order: Overlap[] = ['yes', 'unknown', 'no']
  return stays
    .flatMap((stay) =>
      posts
        .filter((post) => fold(post.organisation) === fold(stay.organisation))
        .map((post) => ({ organisation: stay.organisation, post, overlap: overlapOf(stay, post, today) })),
    )
    .sort((a, b) => order.indexOf(a.overlap) - order.indexOf(b.overlap))
}
