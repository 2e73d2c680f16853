'use client'

import type { ActionResult } from '@/core/views/action-result'
import type { Split } from '@/core/sources/parts'
import type { Search, SearchedName } from '@/core/sources/source'

export interface EnquiryActions {
  find: (source: SearchedName, search: Search) => Promise<ActionResult<number>>
  split: (id: number, by: Split) => Promise<ActionResult<unknown>>
  want: (id: number, channels: Channel[]) => Promise<ActionResult<unknown>>
  begin: (id: number, cap: number | null) => Promise<ActionResult<unknown>>
  stop: (id: number) => Promise<ActionResult<unknown>>
  buyFor: (id: number, list: number, how: { open: boolean; most: number }) => Promise<ActionResult<unknown>>
  asBatch: (id: number) => Promise<ActionResult<number>>
}

export type Channel = 'email' | 'phone' | 'post'
