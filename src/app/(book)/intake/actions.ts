'use server'

import type { BatchKind, FieldRules, Mapping } from '@/core/match/columns'
import type { Reading } from '@/core/match/reading'
import type { BatchOptions } from '@/core/outputs/views'
import { startBatch } from '@/usecases/map-batch'
import { readAgain } from '@/usecases/receive-file'
import { settleRow } from '@/usecases/settle-row'
import { tryBatch } from '@/usecases/try-batch'
import { undoBatch } from '@/usecases/undo-batch'
import { act } from '../../answer'

export async function bringIn(id: number, kind: BatchKind, mapping: Mapping, options: BatchOptions) {
  return act((who) => startBatch(who, id, kind, mapping, options))
}

export async function readAnew(id: number, reading: Partial<Reading>) {
  return act((who) => readAgain(who, id, reading))
}

export async function tryOut(id: number, kind: BatchKind, mapping: Mapping, rules: FieldRules) {
  return act((who) => tryBatch(who, id, kind, mapping, rules))
}

export async function settle(batch: number, row: number, decided: { person: number } | 'new') {
  return act((who) => settleRow(who, batch, row, decided))
}

export async function undo(batch: number) {
  return act((who) => undoBatch(who, batch))
}
