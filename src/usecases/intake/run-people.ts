import type { CustomField } from '@/core/clean/custom'
import { organisationKey } from '@/core/clean/organisation'
import { cellsToClean } from '@/core/match/file-locale'
import { type PersonRow, personRow } from '@/core/clean/person-row'
import type { Refusal } from '@/core/clean/cells'
import type { KnownRecords } from '@/core/match/known-records'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import {
  isSet,
  type KnownOrganisation,
  type KnownPerson,
  nextIds,
  organisationsNamed,
  peopleSharing,
  type RowOutcome,
} from '@/db/intake/intake-store'
import { keysOf } from '@/db/key'
import { settings } from '@/runtime/settings'
import { intakeFields } from '@/usecases/directory/custom-fields'
import { comparableRow } from './known-records'
import { PeopleRun } from './people-of-rows'
import type { Decided } from './decided'

/** How a run of rows finds out who they are: everybody known, or what somebody decided of the one row there is. */
export interface Matching {
  known?: KnownRecords
  decided?: Decided
}

/** A row of a batch that nothing has become of yet, cleaned already or not. */
export interface OpenRow {
  row_no: number
  raw: string[]
  row?: PersonRow | Refusal
}

/** Returns the cleaned person of a row, or why the row is refused. */
export const cleanPerson = (batch: Batch, raw: string[], customs: readonly CustomField[]): PersonRow | Refusal =>
  personRow(cellsToClean(batch, raw, customs), batch.mapping, settings().ARCH_REGION, customs)

/** Brings in some rows of people: matches each, creates or updates, and writes the ledger. One transaction. */
export async function runPeople(
  trx: Knex,
  batch: Batch,
  rows: OpenRow[],
  at: Date,
  { known, decided }: Matching = {},
): Promise<RowOutcome[]> {
  const customs = await intakeFields(trx, 'people')
  const cleaned = rows.map(({ row_no, raw, row }) => ({ row_no, row: row ?? cleanPerson(batch, raw, customs) }))
  const good = cleaned.flatMap(({ row }) => ('refused' in row ? [] : [row]))
  const alike = new Map(known ? good.map((row) => [row, known.find(comparableRow(row))]) : [])
  const ids = [
    ...new Set([...alike.values()].flat()),
    ...good.flatMap((row) => row.record ?? []),
    ...(decided && decided !== 'new' ? [decided.person] : []),
  ]
  const run = new PeopleRun(
    batch,
    at,
    await knownTo(trx, good, ids),
    await organisationsFor(trx, good),
    await nextIds(trx, 'person', good.length),
    known ? { known, alike, from: known.size } : null,
    customs,
  )
  const outcomes = cleaned.map(
    ({ row_no, row }): RowOutcome =>
      'refused' in row ? { row_no, outcome: 'refused', reason: row.refused } : { row_no, ...run.take(row, decided) },
  )
  await run.write(trx)
  return outcomes
}

function knownTo(trx: Knex, rows: PersonRow[], ids: number[]): Promise<KnownPerson[]> {
  return peopleSharing(trx, {
    ids,
    outsideIds: rows.map((r) => r.outsideId).filter(isSet),
    addressKeys: rows.flatMap((r) => [
      ...r.emails.map((e) => keysOf({ email: e.normal }).key),
      ...r.phones.map((p) => keysOf({ phone: p.normal }).key),
    ]),
    names: rows.map((r) => r.name.key).filter(isSet),
  })
}

async function organisationsFor(trx: Knex, rows: PersonRow[]): Promise<{ known: KnownOrganisation[]; ids: number[] }> {
  const keys = [
    ...new Set(
      rows
        .map((r) => r.organisation)
        .filter(isSet)
        .map(organisationKey),
    ),
  ]
  const known = await organisationsNamed(trx, keys)
  const ids = await nextIds(trx, 'organisation', keys.length)
  return { known, ids }
}
