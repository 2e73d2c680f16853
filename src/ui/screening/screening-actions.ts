'use client'

import type { ActionResult } from '@/core/views/action-result'

export type LiftGoneAction = (asked: { register: string; expected: number; why: string }) => Promise<ActionResult<unknown>>

export type SuppressTarget =
  | { text: string }
  | { postal: { street: string; town: string; postcode: string } }
  | { organisation: number; branches?: boolean }
