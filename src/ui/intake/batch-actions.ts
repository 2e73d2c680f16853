'use client'

import type { CustomField } from '@/core/clean/custom'
import type { HowMapped } from '@/core/match/how-mapped'
import type { Reading } from '@/core/match/reading'
import type { ActionResult } from '@/core/views/action-result'
import type { BatchOptions } from '@/core/views/intake-views'

/** Decides who a row in doubt is. */
export type Settle = (batch: number, row: number, decided: { person: number } | 'new') => Promise<ActionResult<unknown>>

/** What can be done with a batch that waits for its columns to be looked at. */
export interface MappingActions {
  bringIn: (id: number, how: HowMapped, options: BatchOptions) => Promise<ActionResult<unknown>>
  readAnew: (id: number, reading: Partial<Reading>) => Promise<ActionResult<unknown>>
  tryOut: (id: number, how: HowMapped, options: Pick<BatchOptions, 'rules' | 'byKeysAlone'>) => Promise<ActionResult<unknown>>
  declare: (asked: { name: string; kind: string; choices: string[] }) => Promise<ActionResult<CustomField>>
  saveMapping: (id: number, how: HowMapped, name: string) => Promise<ActionResult<unknown>>
  dropMapping: (id: number) => Promise<ActionResult<unknown>>
}
