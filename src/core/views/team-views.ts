/** The posts of a team. */
export const POSTS = ['coordinator', 'caller', 'manager'] as const

/** Somebody of the team, as the page of the team has them. */
export interface Colleague {
  id: string
  name: string
  post: (typeof POSTS)[number]
  /** For managers and for themselves alone. */
  email: string | null
  lists: number
  me: boolean
}

export interface TeamPage {
  colleagues: Colleague[]
  /** Those who were removed, the last first; for managers alone. */
  left: { id: string; name: string; at: string }[]
  mayChange: boolean
}
