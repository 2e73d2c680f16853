import type { Knex } from 'knex'
import { type HandedType, insertRows } from './insert-rows'
import type { Way } from '@/core/records/channels'

export type EntryKind =
  | 'created'
  | 'change'
  | 'contact'
  | 'note'
  | 'suppressed'
  | 'lifted'
  | 'listed'
  | 'unlisted'
  | 'released'
  | 'not worked'
  | 'reversed'
  | 'let through'
  | 'erased'
  | 'withdrawn'
  | 'merged'
  | 'parted'
  | 'exported'
  | 'reported'
  | 'introduction'
  | 'letter'

/** An entry to be written. `before`, `after` and `note` are personal values and go to a table of their own. */
export interface NewEntry {
  person?: number
  organisation?: number
  premises?: number
  kind: EntryKind
  at: Date
  actor: string
  channel?: Way
  /** The address or number a contact went to. */
  address?: number | null
  result?: string | null
  field?: string
  before?: string | null
  after?: string | null
  note?: string | null
  batch?: number
  round?: number
  list?: number
  suppression?: number
  /** The act on many people at once that it is part of. */
  act?: number
  reverses?: number
}

const BLOCK = 2000

/** Writes entries in the order given and returns their ids. */
export async function writeEntries(trx: Knex, entries: NewEntry[], recordedAt: Date): Promise<number[]> {
  const ids: number[] = []
  for (let i = 0; i < entries.length; i += BLOCK) ids.push(...(await writeBlock(trx, entries.slice(i, i + BLOCK), recordedAt)))
  return ids
}

async function writeBlock(trx: Knex, entries: NewEntry[], recordedAt: Date): Promise<number[]> {
  const personal = entries.filter(hasValues)
  const valueIds = await insertRows(trx, 'entry_value', { before: 'text', after: 'text', note: 'text' }, personal, { returning: 'id' })
  let next = 0
  const rows = entries.map((e) => ({
    person_id: e.person,
    organisation_id: e.organisation,
    premises_id: e.premises,
    kind: e.kind,
    at: e.at,
    recorded_at: recordedAt,
    actor_id: e.actor,
    channel: e.channel,
    address_id: e.address,
    result: e.result,
    field: e.field,
    value_id: hasValues(e) ? valueIds[next++] : null,
    batch_id: e.batch,
    round_id: e.round,
    list_id: e.list,
    suppression_id: e.suppression,
    act_id: e.act,
    reverses_id: e.reverses,
  }))
  return insertRows(trx, 'entry', COLUMNS, rows, { returning: 'id' })
}

const COLUMNS: Record<string, HandedType> = {
  person_id: 'bigint',
  organisation_id: 'bigint',
  premises_id: 'bigint',
  kind: 'text',
  at: 'timestamptz',
  recorded_at: 'timestamptz',
  actor_id: 'text',
  channel: 'text',
  address_id: 'bigint',
  result: 'text',
  field: 'text',
  value_id: 'bigint',
  batch_id: 'bigint',
  round_id: 'bigint',
  list_id: 'bigint',
  suppression_id: 'bigint',
  act_id: 'bigint',
  reverses_id: 'bigint',
}

function hasValues(e: NewEntry): boolean {
  return (e.before ?? e.after ?? e.note ?? null) !== null
}
