import type { ActionResult } from '@/core/views/action-result'
import type { Subject } from '@/core/records/subject'

export type ChangeAct = 'take' | 'let go' | 'handle' | 'set aside' | 'reopen'

/** What can be done with changes from a page. */
export interface ChangeActions {
  act: (id: number, act: ChangeAct) => Promise<ActionResult<unknown>>
  putOff: (id: number, until: string | null) => Promise<ActionResult<unknown>>
  looked: () => Promise<ActionResult<unknown>>
  contact: (person: number, input: unknown) => Promise<ActionResult<unknown>>
  undecide: (id: number) => Promise<ActionResult<unknown>>
  decide: (id: number, decision: 'confirm' | 'turn down') => Promise<ActionResult<unknown>>
}

export interface FollowActions {
  followList: (list: number, on: boolean) => Promise<ActionResult<unknown>>
  followRecord: (of: Subject, id: number, on: boolean) => Promise<ActionResult<unknown>>
  muteKind: (kind: number, muted: boolean) => Promise<ActionResult<unknown>>
  saveKind: (kind: number | null, input: unknown) => Promise<ActionResult<unknown>>
  archiveKind: (kind: number) => Promise<ActionResult<unknown>>
  readFeeds: () => Promise<ActionResult<unknown>>
  reach: (days: number) => Promise<ActionResult<unknown>>
}
