import type { Channel, Way } from '../records/channels'
import type { Reason } from '../records/suppression'
import type { RegisterView } from './round-views'

/** What somebody who answers for screening looks at once a week. Instants are ISO 8601 strings in UTC, days are YYYY-MM-DD. */
export interface Audit {
  today: string
  /** How many there are of what is told in part: of contacts and opt-outs the first 500, of suppressions the first 100, of let-throughs the 200 largest rows. */
  found: { breaches: number; toCarry: number; ending: number; through: number }
  /** How many days back rounds, contacts and let-throughs are looked at. */
  days: number
  registers: (RegisterView & { age: number })[]
  ending: { id: number; who: string; personId: number | null; reason: Reason; until: string }[]
  /** Rules that held back nobody, or nearly everybody, in every round that used them. */
  rules: { rule: string; policy: string; rounds: number; heldBack: number; opening: number; is: 'nobody' | 'nearly everybody' }[]
  /** Opt-outs that came after a file with the person in it had left. */
  toCarry: {
    round: number
    roundName: string
    person: number
    name: string
    channel: Channel
    since: string
    /** The day by which it must be carried, and by which rule. */
    by: string
    rule: string
    late: boolean
    takenBy: string[]
  }[]
  /** Contacts made against a suppression that was known by then. */
  breaches: { person: number; name: string; at: string; channel: Way; by: string; reason: Reason; recordedAt: string; word: string }[]
  through: { by: string; reason: string; people: number; last: string }[]
}
