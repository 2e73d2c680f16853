'use client'

import type { ActionResult } from '@/core/views/action-result'
import type { Colleague } from '@/core/views/team-views'

export interface Asked {
  name: string
  email: string
  post: Colleague['post']
}

export interface TeamActions {
  add: (asked: Asked) => Promise<ActionResult<{ password: string }>>
  change: (id: string, asked: Asked) => Promise<ActionResult>
  newPassword: (id: string) => Promise<ActionResult<{ password: string }>>
  remove: (id: string) => Promise<ActionResult<{ lists: number }>>
  takeBack: (id: string) => Promise<ActionResult<{ password: string }>>
  changePassword: (before: string, next: string) => Promise<ActionResult>
}

export const POSTS_SAY = [
  ['caller', 'works on lists, records contacts'],
  ['coordinator', 'also imports files, releases rounds, lifts suppressions'],
  ['manager', 'also adds and removes people'],
] as const
