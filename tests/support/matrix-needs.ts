import type { ListRole } from '@/core/records/list-roles'

/** What one of the application's routes, actions and pages needs of who asks. */
export interface Needs {
  /** What its number names: something of a list, which opens by what somebody may do with that list; something of the team; or nothing. */
  of?: 'list' | 'round' | 'released' | 'letters' | 'proposal' | 'enquiry' | 'batch' | 'person' | 'anything'
  /** The least role on the list; or its owner alone. */
  role?: ListRole | 'owner'
  post?: 'coordinator' | 'manager'
  /** What it is asked, given the number and what the test has. A route gets a body (or, of a GET, what stands after the question mark), an action its arguments. */
  ask?: (id: number, has: Has) => unknown
  /** Whether nothing is there for a number beside (a channel, an edition): it answers that before the question who may. */
  params?: Record<string, string>
  /** What is asked of it beside is not there in this test, so that whoever is let through is told so. */
  empty?: true
  /** Whoever may not is told that there is none, not that they may not. */
  hidden?: true
  /** What stands after the question mark of a request that has a body. */
  query?: Record<string, string>
  /** Goes on as if refused where what is asked is only not possible just now. */
  why?: string
}

export interface Has {
  person: number
  other: number
  lines: unknown[]
}

/** What is sent in place of something that was asked for. */
export const WRONG: unknown[] = [
  null,
  undefined,
  -1,
  1.5,
  2 ** 60,
  Number.NaN,
  '',
  'x',
  '\u0000',
  '\ud800',
  'a'.repeat(70_000),
  true,
  {},
  { id: {} },
  [],
  [null],
  [[]],
  [{}],
  { tab: {} },
  { kind: 7 },
  ['\u0000'],
]
