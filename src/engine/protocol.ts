import type { Verb } from './verbs/verb'
import type { VERBS } from './verbs'

export type { PageOfLines, Having, Place } from './verbs/parts'

/** `behind` is set when the database could not be heard in time: the answer is as of then (UTC milliseconds). */
export type Answered<A> = A & { behind: number | null }

export interface EngineHealth {
  ready: boolean
  people: number
  heardAt: number | null
  memory: number
}

/** What may be undefined may be left out. */
type Given<T> = { [K in keyof T as undefined extends T[K] ? never : K]: T[K] } & {
  [K in keyof T as undefined extends T[K] ? K : never]?: T[K]
}

type Asked = { [V in keyof typeof VERBS]: (typeof VERBS)[V] extends Verb<infer R, infer A> ? [Given<R>, Answered<A>] : never }

/** What each question is asked with, and what it is answered with. */
export interface Protocol extends Asked {
  health: [Record<string, never>, EngineHealth]
}
export type AnswerTo<V extends keyof Protocol> = Protocol[V][1]
