import type { Knex } from 'knex'
import type { Way } from '@/core/columns/person-record'

export type EntryKind = 'created' | 'change' | 'contact' | 'note' | 'suppressed' | 'lifted' | 'listed' | 'unlisted' | 'released' | 'not worked' | 'reversed' | 'let through' | 'withdrawn' | 'merged'

/** An entry to be written. `before`, `after` and `note` are personal values and go to a table of their own. */
export interface NewEntry {
  person?: number
  organisation?: number
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
  const valueIds: number[] =
    personal.length === 0
      ? []
      : (await trx('entry_value').insert(personal.map((e) => ({ before: e.before ?? null, after: e.after ?? null, note: e.note ?? null })), 'id')).map((row) => row.id)
  let next = 0
  const rows = entries.map((e) => ({
    person_id: e.person ?? null,
    organisation_id: e.organisation ?? null,
    kind: e.kind,
    at: e.at,
    recorded_at: recordedAt,
    actor_id: e.actor,
    channel: e.channel ?? null,
    address_id: e.address ?? null,
    result: e.result ?? null,
    field: e.field ?? null,
    value_id: hasValues(e) ? valueIds[next++] : null,
    batch_id: e.batch ?? null,
    round_id: e.round ?? null,
    list_id: e.list ?? null,
    suppression_id: e.suppression ?? null,
    reverses_id: e.reverses ?? null,
  }))
  return (await trx('entry').insert(rows, 'id')).map((row) => row.id)
}

function hasValues(e: NewEntry): boolean {
  return (e.before ?? e.after ?? e.note ?? null) !== null
}
