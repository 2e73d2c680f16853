import type { Asks } from '../changes/asks'
import type { Subject } from '../records/subject'

/** A task as it is shown. */
export interface TaskView {
  id: number
  what: string
  about: { of: Subject | 'list'; id: number; name: string } | null
  forId: string
  forName: string
  due: string | null
  /** Whether its day has passed, is today, or is still to come. */
  is: 'overdue' | 'today' | 'later' | 'any day'
  /** Who gave it, where that is somebody else. */
  by: string | null
}

/** Something that is somebody’s move: one line, with the place where it is done. */
export interface Move {
  key: string
  group: MoveGroup
  text: string
  /** How many are behind it, where it stands for several. */
  n: number | null
  href: string
  /** Its day has passed, or is nearly here. */
  late: boolean
}

export const MOVE_GROUPS = ['changes', 'lists', 'rounds', 'registers', 'records', 'introductions', 'proposals', 'work'] as const
export type MoveGroup = (typeof MOVE_GROUPS)[number]

/** What is somebody’s move today. */
export interface TodayPage {
  today: string
  tasks: TaskView[]
  given: TaskView[]
  moves: Move[]
  /** Unhandled changes by what they ask. */
  changes: Record<Asks, number>
  colleagues: { id: string; name: string }[]
  me: string
  /** Whether they want it by email each morning. */
  digest: boolean
  /** Of managers: how the team stands. */
  team: { id: string; name: string; open: number; overdue: number; taken: number }[] | null
}
