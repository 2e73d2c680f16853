import { customIdOf } from '@/core/clean/custom'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { valueUnder } from './undone-values'
import {
  type Change,
  organisationChanges,
  organisationEntries,
  organisationsMoved,
  updateOrganisationColumn,
  updateOrganisationField,
  updateOrganisationKey,
} from '@/db/intake/undo-rows'

/** What the batch told of organisations goes back where nothing told them otherwise since. */
export async function undoOrganisations(trx: Knex, batch: Batch & { undone_by: string }): Promise<void> {
  const mine = await organisationChanges(trx, batch.id)
  const all: (Change & { organisation_id: number })[] = await organisationEntries(
    trx,
    mine.map((e: { organisation_id: number }) => e.organisation_id),
    batch.id,
  )
  const chainOf = (e: { organisation_id: number; field: string }) =>
    all.filter((c) => c.organisation_id === e.organisation_id && c.field === e.field)
  const later = (e: Change & { organisation_id: number }) => chainOf(e).some((c) => c.id > e.id && !c.mine && !c.reversed)
  const passed = mine.filter(later)
  await writeEntries(
    trx,
    passed.map((e: Change & { organisation_id: number }) => ({
      organisation: e.organisation_id,
      kind: 'reversed' as const,
      at: now(),
      actor: batch.undone_by,
      reverses: e.id,
      note: `${batch.file_name} was undone; ${e.field} was set otherwise since, and is kept`,
    })),
    now(),
  )
  const rows: (Change & { organisation_id: number })[] = mine
    .filter((e: Change & { organisation_id: number }) => !passed.includes(e))
    .map((e: Change & { organisation_id: number }) => ({ ...e, before: valueUnder(chainOf(e), { ...e, mine: true }) }))
  const column: Record<string, string> = {
    industry: 'industry',
    headCount: 'head_count',
    website: 'website',
    county: 'county',
    street: 'street',
    town: 'town',
    postcode: 'postcode',
  }
  for (const e of rows) {
    const id = customIdOf(e.field)
    if (id === null) await updateOrganisationColumn(trx, e.organisation_id, column, e.field, e.before)
    else await updateOrganisationField(trx, e.organisation_id, id, e.before)
  }
  for (const { id, ...postal } of await organisationsMoved(
    trx,
    rows
      .filter((e: Change) => e.field === 'street' || e.field === 'town' || e.field === 'postcode')
      .map((e: { organisation_id: number }) => e.organisation_id),
  ))
    await updateOrganisationKey(trx, id, postal)
  await writeEntries(
    trx,
    rows.map((e: Change & { organisation_id: number }) => ({
      organisation: e.organisation_id,
      kind: 'change' as const,
      field: e.field,
      before: e.after,
      after: e.before,
      at: now(),
      actor: batch.undone_by,
      reverses: e.id,
    })),
    now(),
  )
}
