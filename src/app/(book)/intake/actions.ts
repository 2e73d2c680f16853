'use server'

import type { HowMapped } from '@/core/match/how-mapped'
import type { Reading } from '@/core/match/reading'
import type { BatchOptions } from '@/core/outputs/intake-views'
import { declareField } from '@/usecases/custom-fields'
import { startBatch } from '@/usecases/map-batch'
import { dropProfile, saveProfile } from '@/usecases/mapping-profiles'
import { readAgain } from '@/usecases/receive-file'
import { startBatchAgain } from '@/usecases/start-again'
import { settleRow } from '@/usecases/settle-row'
import { tryBatch } from '@/usecases/try-batch'
import { undoBatch } from '@/usecases/undo-batch'
import { act } from '../../answer'

export async function bringIn(id: number, how: HowMapped, options: BatchOptions) {
  return act((who) => startBatch(who, id, how, options))
}

export async function readAnew(id: number, reading: Partial<Reading>) {
  return act((who) => readAgain(who, id, reading))
}

export async function tryOut(id: number, how: HowMapped, options: Pick<BatchOptions, 'rules' | 'byKeysAlone'>) {
  return act((who) => tryBatch(who, id, how, options))
}

export async function settle(batch: number, row: number, decided: { person: number } | 'new') {
  return act((who) => settleRow(who, batch, row, decided))
}

export async function startAgain(batch: number) {
  return act((who) => startBatchAgain(who, batch))
}

export async function undo(batch: number) {
  return act((who) => undoBatch(who, batch))
}

export async function declare(asked: { name: string; kind: string; choices: string[] }) {
  return act((who) => declareField(who, asked))
}

export async function saveMapping(batch: number, how: HowMapped, name: string) {
  return act((who) => saveProfile(who, batch, how, name))
}

export async function dropMapping(id: number) {
  return act((who) => dropProfile(who, id))
}
