'use server'

import type { BatchKind, Mapping } from '@/core/match/columns'
import type { BatchOptions } from '@/core/outputs/views'
import { startBatch } from '@/usecases/map-batch'
import { act } from '../../answer'

export async function bringIn(id: number, kind: BatchKind, mapping: Mapping, options: BatchOptions) {
  return act((who) => startBatch(who, id, kind, mapping, options))
}
