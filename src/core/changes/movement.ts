import { classifyRole, LEVELS, type Level } from '../clean/role'

/** Where somebody worked and in which role, as far as it is known. */
export interface Place {
  /** Comparable form of the organisation's name; null where there is none. */
  organisation: string | null
  role: string | null
}

/** A person who was, or is, at one of some organisations in a period. */
export interface Mover {
  id: number
  /** Whether we knew them when the period began. */
  known: boolean
  then: Place
  now: Place
}

export const MOVEMENTS = ['arrived', 'newly known', 'raised', 'lowered', 'unclear', 'left', 'stayed'] as const
export type Movement = (typeof MOVEMENTS)[number]

/** A level as movement is told by it; roles that do not say one stand together. */
export type LevelTold = Level | 'no level'
export const LEVELS_TOLD: readonly LevelTold[] = [...LEVELS, 'no level']

/** How one person moved. `before` is null for whoever was not there, or not known, at the opening; `after` for whoever is gone. */
export interface Moved {
  id: number
  movement: Movement
  before: LevelTold | null
  after: LevelTold | null
}

/**
 * How people at some organisations moved over a period. Whoever was there and still is was raised or lowered where both roles say a
 * level; where one of them does not, it is unclear which. Whoever came into the directory meanwhile is newly known, and did not arrive.
 */
export function movementOf(movers: readonly Mover[], organisations: ReadonlySet<string>): Moved[] {
  const there = (place: Place) => place.organisation !== null && organisations.has(place.organisation)
  return movers.flatMap(({ id, known, then, now }): Moved[] => {
    const before = known && there(then) ? levelOf(then.role) : null
    const after = there(now) ? levelOf(now.role) : null
    if (before === null && after === null) return []
    const movement =
      before === null ? (known ? 'arrived' : 'newly known') : after === null ? 'left' : before === after ? 'stayed' : between(before, after)
    return [{ id, movement, before, after }]
  })
}

function between(before: LevelTold, after: LevelTold): Movement {
  if (before === 'no level' || after === 'no level') return 'unclear'
  return LEVELS.indexOf(after) < LEVELS.indexOf(before) ? 'raised' : 'lowered'
}

/** The account of one level, or of all: opening + in − out = closing. Raised, lowered and unclear leave one level and join another. */
export interface LevelAccount {
  level: LevelTold
  opening: number
  arrived: number
  known: number
  /** Who came from another level, and who went to one. */
  from: number
  to: number
  left: number
  closing: number
}

/** The movement level by level, the highest first; levels where nobody was or is are left out. */
export function byLevel(moves: readonly Moved[]): LevelAccount[] {
  return LEVELS_TOLD.map((level) => {
    const count = (test: (move: Moved) => boolean) => moves.filter(test).length
    const changed = ({ movement }: Moved) => movement === 'raised' || movement === 'lowered' || movement === 'unclear'
    return {
      level,
      opening: count((m) => m.before === level),
      arrived: count((m) => m.after === level && m.movement === 'arrived'),
      known: count((m) => m.after === level && m.movement === 'newly known'),
      from: count((m) => m.after === level && changed(m)),
      to: count((m) => m.before === level && changed(m)),
      left: count((m) => m.before === level && m.movement === 'left'),
      closing: count((m) => m.after === level),
    }
  }).filter(({ opening, closing, arrived, known, from }) => opening + closing + arrived + known + from > 0)
}

/** The level a role says. */
function levelOf(role: string | null): LevelTold {
  return (role === null ? null : classifyRole(role).level) ?? 'no level'
}
