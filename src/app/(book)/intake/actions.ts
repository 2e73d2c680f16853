'use server'

import { array, boolean, mixed, number, object, string } from 'yup'
import { type BatchKind, type FieldRules, FIELDS, type Mapping } from '@/core/match/columns'
import type { HowMapped } from '@/core/match/how-mapped'
import type { Reading } from '@/core/match/reading'
import type { Shaping } from '@/core/match/shaping'
import type { BatchOptions } from '@/core/views/intake-views'
import { settleRow } from '@/usecases/intake/settle-row'
import { startBatchAgain } from '@/usecases/intake/start-batch-again'
import { tryBatch } from '@/usecases/intake/try-batch'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { act } from '@/app/requests/answer'
import { ref, typed, word } from '@/app/requests/asked'
import { declareField } from '@/usecases/directory/declare-field'
import { startBatch } from '@/usecases/intake/start-batch'
import { saveProfile } from '@/usecases/intake/save-profile'
import { dropProfile } from '@/usecases/intake/drop-profile'
import { readAgain } from '@/usecases/intake/read-again'

/** How columns are mapped; whether that fits the file is looked at with the file. */
const HOW = object({
  kind: word(Object.keys(FIELDS) as BatchKind[]),
  mapping: mixed<Mapping>(
    (value): value is Mapping => Array.isArray(value) && value.every((field) => field === null || typeof field === 'string'),
  ).required(),
  shaping: mixed<Shaping>().optional(),
}).required()
const TRUE = mixed<true>((value): value is true => value === true).optional()
const OPTIONS = object({
  register: object({ name: typed(), version: typed() }).optional().default(undefined),
  again: TRUE,
  rules: mixed<FieldRules>((value): value is FieldRules => typeof value === 'object').optional(),
  byKeysAlone: TRUE,
}).required()
const READING = object({
  entry: string().max(1000),
  encoding: string().max(40),
  delimiter: string().max(4),
  sheet: string().max(200),
  headerRow: number().integer().min(0).max(100_000),
  decimal: mixed<'.' | ','>().oneOf(['.', ',']).optional(),
  monthFirst: boolean(),
  swapped: boolean(),
}).required()

export async function bringIn(id: number, how: HowMapped, options: BatchOptions) {
  return act([ref(), HOW, OPTIONS], [id, how, options], startBatch)
}

export async function readAnew(id: number, reading: Partial<Reading>) {
  return act([ref(), READING], [id, reading], readAgain)
}

export async function tryOut(id: number, how: HowMapped, options: Pick<BatchOptions, 'rules' | 'byKeysAlone'>) {
  return act([ref(), HOW, OPTIONS], [id, how, options], tryBatch)
}

const DECIDED = mixed<{ person: number } | 'new'>(
  (value): value is { person: number } | 'new' => value === 'new' || Number.isSafeInteger((value as { person?: unknown })?.person),
).required()

export async function settle(batch: number, row: number, decided: { person: number } | 'new') {
  return act([ref(), ref(), DECIDED], [batch, row, decided], settleRow)
}

export async function startAgain(batch: number) {
  return act([ref()], [batch], startBatchAgain)
}

export async function undo(batch: number) {
  return act([ref()], [batch], undoBatch)
}

export async function declare(asked: { name: string; kind: string; choices: string[] }) {
  return act(
    [object({ name: typed(), kind: typed(), choices: array(string().strict().max(1000).defined()).max(1000).default([]) }).required()],
    [asked],
    declareField,
  )
}

export async function saveMapping(batch: number, how: HowMapped, name: string) {
  return act([ref(), HOW, typed()], [batch, how, name], saveProfile)
}

export async function dropMapping(id: number) {
  return act([ref()], [id], dropProfile)
}
