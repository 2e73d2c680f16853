import type { Overlap } from '../contact/shared-past'
import type { OwnTie, Tie } from '../contact/ties'

/** Plain shapes that what is said of who knows somebody is drawn from. Days are YYYY-MM-DD. */

export interface IntroductionView {
  id: number
  person: { id: number; name: string }
  by: string
  of: string
  through: string | null
  note: string | null
  at: string
  state: 'asked' | 'accepted' | 'declined' | 'taken back'
  answer: string | null
  /** Whether whoever looks is the one who is asked, or the one who asks. */
  mine: 'to answer' | 'asked' | null
}

export interface WhoKnows {
  person: number
  /** Colleagues, the closest first, each with all that shows it. */
  colleagues: { user: string; name: string; ties: Tie[] }[]
  /** People outside who know them, and which colleague knows those. */
  outside: { id: number; name: string; how: OwnTie; colleagues: { user: string; name: string; last: string }[] }[]
  /** Former employers that colleagues share with them. */
  employers: { user: string; name: string; organisation: string; from: string; to: string | null; overlap: Overlap }[]
  introductions: IntroductionView[]
  /** How whoever looks says that they know them. */
  own: OwnTie | null
  me: string
}
