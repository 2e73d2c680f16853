'use server'

import type { BatchKind, Mapping } from '@/core/match/columns'
import { startBatch } from '@/usecases/map-batch'
import type { BatchOptions } from '@/usecases/receive-file'
import { act } from '../../answer'

export async function bringIn(id: number, kind: BatchKind, mapping: Mapping, options: BatchOptions) {
  return act((who) => startBatch(who, id, kind, mapping, options))
}
