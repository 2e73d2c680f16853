import type { POSTS } from '@/core/views/team-views'

/** Who is acting. Every use case takes one, and every entry records it. */
export interface Actor {
  id: string
  name: string
  post: (typeof POSTS)[number]
}

/** Something the person cannot do or that cannot be done as asked; its message is for them to read. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly kind: 'not allowed' | 'not found' | 'not possible' = 'not possible',
  ) {
    super(message)
    this.name = 'Refused'
  }
}

/** Bringing in files, releasing and closing rounds and lifting suppressions are for coordinators and managers. */
export function mayCoordinate(actor: Actor): boolean {
  return actor.post !== 'caller'
}

/** Refuses callers, saying what is for coordinators and managers. */
export function mustCoordinate(actor: Actor, what: string): void {
  if (!mayCoordinate(actor)) throw new Refused(`${what} is for coordinators and managers.`, 'not allowed')
}
