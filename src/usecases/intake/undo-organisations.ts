import { customIdOf } from '@/core/clean/custom'
import { comparablePostal } from '@/core/clean/postal'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { valueUnder } from './undone-values'
import type { Change } from '@/db/intake/undo-rows'

/** What the batch told of organisations goes back where nothing told them otherwise since. */
export async function undoOrganisations(trx: Knex, batch: Batch & { undone_by: string }): Promise<void> {
  const { rows: mine } = await trx.raw(
    `select e.id, e.organisation_id, e.field, v.before, v.after from entry e join entry_value v on v.id = e.value_id
     where e.batch_id = ? and e.kind = 'change' and e.organisation_id is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
       and e.reverses_id is null
     order by e.id desc`,
    [batch.id],
  )
  const all: (Change & { organisation_id: number })[] = (
    await trx.raw(
      `select e.id, e.organisation_id, e.field, v.before, v.after, e.batch_id is not distinct from ? as mine, exists (select 1 from entry r where r.reverses_id = e.id) as reversed
       from entry e left join entry_value v on v.id = e.value_id where e.organisation_id = any(?::bigint[]) and e.kind = 'change' and e.reverses_id is null order by e.id`,
      [batch.id, [...new Set(mine.map((e: { organisation_id: number }) => e.organisation_id))]] as never,
    )
  ).rows
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
    if (id === null)
      await trx('organisation')
        .where({ id: e.organisation_id })
        .update({ [column[e.field]]: e.field === 'headCount' && e.before !== null ? Number(e.before) : e.before })
    else
      await trx('organisation')
        .where({ id: e.organisation_id })
        .update({
          details: trx.raw('details - ?::text || ?::jsonb', [String(id), JSON.stringify(e.before === null ? {} : { [id]: e.before })]),
        })
  }
  for (const { id, ...postal } of await trx('organisation')
    .whereIn('id', [
      ...new Set(
        rows
          .filter((e: Change) => e.field === 'street' || e.field === 'town' || e.field === 'postcode')
          .map((e: { organisation_id: number }) => e.organisation_id),
      ),
    ] as number[])
    .select('id', 'street', 'town', 'postcode'))
    await trx('organisation')
      .where({ id })
      .update({ address_key: comparablePostal(postal) })
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
