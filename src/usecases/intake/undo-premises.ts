import { customIdOf } from '@/core/clean/custom'
import type { Batch, Undone } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { valueUnder } from './undone-values'
import { derived, PREMISES_FIELDS } from './run-premises'
import { type Change, changeEntries, otherBatchOfPremises, updatePremises, withdrawPremises } from '@/db/intake/undo-rows'
import { lockPremises } from '@/db/directory/premises-rows'
import type { PremisesColumns } from '@/db/intake/premises-rows'

/** Takes back what a batch did to premises: those it created are withdrawn, fields go back, unless they were worked on since. */
export async function undoPremises(
  trx: Knex,
  batch: Batch & { undone_by: string },
  id: number,
): Promise<{ undone: Undone; why: string | null }> {
  const premises: (PremisesColumns & { state: string; batch_id: number | null }) | undefined = await lockPremises(trx, id)
  if (premises?.state !== 'live') return { undone: 'kept', why: 'withdrawn already' }
  const rows = await changeEntries(trx, 'premises_id', batch.id, id)
  const changes: Change[] = rows
  const common = { premises: id, at: now(), actor: batch.undone_by }
  if (premises.batch_id === batch.id) {
    if (changes.some((c) => !c.mine && !c.reversed)) return { undone: 'kept', why: 'changed since' }
    const other = await otherBatchOfPremises(trx, id, batch.id)
    if (other) return { undone: 'kept', why: `they came with ${other.file_name}, too` }
    await withdrawPremises(trx, id)
    await writeEntries(trx, [{ ...common, kind: 'withdrawn', batch: batch.id, note: `${batch.file_name} was undone` }], now())
    return { undone: 'withdrawn', why: null }
  }
  const entries: NewEntry[] = []
  const kept: string[] = []
  const columns: Partial<PremisesColumns> = {}
  for (const own of changes.filter((c) => c.mine && !c.reversed).reverse()) {
    const change = { ...own, before: valueUnder(changes, own) }
    if (changes.some((c) => !c.mine && !c.reversed && c.field === change.field && c.id > change.id)) {
      kept.push(change.field)
      entries.push({
        ...common,
        kind: 'reversed',
        reverses: change.id,
        note: `${batch.file_name} was undone; ${change.field} was set otherwise since, and is kept`,
      })
      continue
    }
    const field = customIdOf(change.field)
    if (field === null) Object.assign(columns, valuesOf(change.field, change.before))
    else {
      const { [field]: _, ...others } = columns.details ?? premises.details
      columns.details = change.before === null ? others : { ...others, [field]: change.before }
    }
    entries.push({ ...common, kind: 'change', field: change.field, before: change.after, after: change.before, reverses: change.id })
  }
  const back = entries.filter((e) => e.kind === 'change')
  if (back.length > 0) await updatePremises(trx, derived({ ...premises, ...columns }), id, columns, columns.details)
  await writeEntries(trx, entries, now())
  const why = kept.length > 0 ? `${kept.join(', ')}: worked on since, and kept` : null
  return back.length > 0 ? { undone: 'put back', why } : { undone: 'kept', why: why ?? 'nothing of it stands any more' }
}

/** The columns that a field of the ledger stands for, with the value it had. */
function valuesOf(field: string, before: string | null): Partial<PremisesColumns> {
  if (field === 'position') {
    const [lat, lon] = before === null ? [null, null] : before.split(', ').map(Number)
    return { lat, lon }
  }
  const column = PREMISES_FIELDS[field]
  return { [column]: before === null ? null : column === 'roof_area' || column === 'year_built' ? Number(before) : before }
}
