import { cleanRow } from '@/core/clean/rows'
import { type BatchKind, type FieldRules, FIELDS, guessColumns, guessMapping, type Mapping, mappingLacks, RULED } from '@/core/match/columns'
import type { Batch, BatchOptions, BatchPreview } from '@/core/outputs/views'
import { db } from '@/db/connection'
import { look } from '@/formats'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate, Refused } from './actor'
import { twinOf } from './batches'
import { enqueue } from './enqueue'
import { withFileOf } from './batch-file'
import { batchOf } from './batch-of'
import { headerKey, refusing } from './receive-file'

/** A batch that waits for its mapping, with the first rows as they came and as they would be stored. */
export async function previewBatch(_actor: Actor, id: number, kind?: BatchKind, mapping?: Mapping): Promise<BatchPreview> {
  const batch = await batchOf(id)
  const first = batch.first_rows ?? (await withFileOf(id, (path) => refusing(() => look(path, batch.reading)))).first
  if (kind && kind !== batch.kind) {
    batch.kind = kind
    batch.mapping = guessMapping(kind, batch.header, first)
  }
  if (mapping) batch.mapping = checked(batch.kind, mapping, batch.header.length)
  const rows = first.slice(0, 8).map((raw) => ({ raw, stored: cleanRow(batch.kind, raw, batch.mapping, settings().ARCH_REGION) }))
  return { batch, guesses: guessColumns(batch.kind, batch.header, first), rows, lacks: mappingLacks(batch.kind, batch.mapping) }
}

/** Starts bringing a batch in, and remembers its mapping for the next file with the same header. */
export async function startBatch(actor: Actor, id: number, kind: BatchKind, mapping: Mapping, options: BatchOptions): Promise<void> {
  mustCoordinate(actor, 'Bringing in a file')
  await db().transaction(async (trx) => {
    const batch: Batch | undefined = await trx('batch').where({ id }).forUpdate().first()
    if (!batch) throw new Refused('There is no such batch.', 'not found')
    if (batch.state !== 'mapping') throw new Refused('This file is already being brought in.')
    const chosen = checked(kind, mapping, batch.header.length)
    const lacks = mappingLacks(kind, chosen)
    if (lacks) throw new Refused(`Before it can be brought in: ${lacks}.`)
    const twin = options.again ? null : await twinOf(trx, id)
    if (twin) throw new Refused(`This very file came in before, as ${twin.name}. Say that it is to come in once more, or leave it.`)
    if (options.register && !/^\d{4}-\d\d-\d\d$/.test(options.register.version)) throw new Refused('Say which date the register file is of.')
    await trx('batch').where({ id }).update({ kind, mapping: JSON.stringify(chosen), options: JSON.stringify({ ...options, rules: checkedRules(options.rules) }), state: 'queued' })
    await trx('column_mapping')
      .insert({ kind, header_key: headerKey(batch.header), mapping: JSON.stringify(chosen) })
      .onConflict(['kind', 'header_key'])
      .merge()
    await enqueue(trx, 'run-batch', { batch: id }, { queue: 'intake', key: `batch-${id}` })
  })
}

/** The rules of fields as they may be; throws Refused on any other. */
export function checkedRules(rules: unknown): FieldRules {
  const entries = Object.entries((rules ?? {}) as Record<string, unknown>)
  for (const [field, rule] of entries) if (!(RULED as readonly string[]).includes(field) || rule !== 'blanks') throw new Refused(`There is no rule ${String(rule)} for ${field}.`)
  return Object.fromEntries(entries) as FieldRules
}

export function checked(kind: BatchKind, mapping: Mapping, columns: number): Mapping {
  const names = new Set<string>(FIELDS[kind].map(([field]) => field))
  if (!Array.isArray(mapping) || mapping.length !== columns) throw new Refused('The mapping does not fit the columns of the file.')
  for (const field of mapping) if (field !== null && !names.has(field)) throw new Refused(`There is no field ${String(field)}.`)
  return mapping
}
