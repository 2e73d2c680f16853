import { isForEverybody } from '@/core/clean/email-traits'
import { startOfDate } from '@/core/calendar/local-day'
import { organisationKey } from '@/core/clean/organisation'
import { type SuppressionRow, suppressionRow } from '@/core/clean/suppression-row'
import { cellsToClean } from '@/core/match/file-locale'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { type KnownOrganisation, organisationsNamed, type RowOutcome } from '@/db/intake/intake-store'
import { suppressedBy } from '@/db/key'
import { settings } from '@/runtime/settings'
import { peopleMeant, peopleNamed } from './run-contacts'
import {
  channelsClosed,
  keysOfSuppressed,
  type NewSuppression,
  type Suppressed,
  writeSuppressions,
} from '@/usecases/screening/suppress-people'
import { insertRegisterFile, insertRegisterKeys, keysApart, standingKeys, versionBefore } from '@/db/intake/register-files'
import type { Reason } from '@/core/records/suppression'

/**
 * Brings in some rows of suppressions. A row with an email, phone or profile stands whether or not anybody has it; one with an
 * outside id needs its person. What is suppressed already, for that reason and those channels, is *same*. One transaction.
 */
export async function runSuppressions(trx: Knex, batch: Batch, rows: { row_no: number; raw: string[] }[], at: Date): Promise<RowOutcome[]> {
  const { ARCH_REGION } = settings()
  const cleaned = rows.map(({ row_no, raw }) => ({ row_no, row: suppressionRow(cellsToClean(batch, raw, []), batch.mapping, ARCH_REGION) }))
  const people = await peopleNamed(
    trx,
    cleaned.flatMap(({ row }) => ('refused' in row ? [] : [{ ...row, email: null, phone: null, name: null }])),
  )
  const good = cleaned.flatMap(({ row }) => ('refused' in row ? [] : [row]))
  const organisations = await organisationsNamed(trx, [
    ...new Set(good.flatMap((row) => (row.organisation ? [organisationKey(row.organisation)] : []))),
  ])
  const standing = await standingKeys(
    trx,
    good.flatMap(keysOf),
    people.map((p) => p.id),
    at,
  )
  const fresh: NewSuppression[] = []
  const outcomes = cleaned.map(({ row_no, row }): RowOutcome => {
    if ('refused' in row) return { row_no, outcome: 'refused', reason: row.refused }
    if (row.domain && isForEverybody(row.domain))
      return {
        row_no,
        outcome: 'refused',
        reason: `${row.domain} is a mail provider at which anybody can have an address; suppress it by itself under Screening if it is meant`,
      }
    const byId =
      (row.record !== null || row.outsideId !== null) &&
      !row.email &&
      !row.phone &&
      !row.direct &&
      !row.domain &&
      !row.postal &&
      !row.organisation
    const meant = byId ? peopleMeant(row, people) : []
    if (byId && meant.length !== 1)
      return {
        row_no,
        outcome: 'refused',
        reason:
          row.record !== null
            ? `there is nobody with the record number ${row.record} in the directory`
            : `nobody in the directory has the outside id ${row.outsideId}`,
      }
    const made = suppressionsOf(row, batch, meant[0]?.id, organisations).filter((s) => {
      const key = standingKey(s)
      if (standing.has(key)) return false
      standing.add(key)
      return true
    })
    if (made.length === 0) return { row_no, outcome: 'same', reason: 'it is suppressed already' }
    fresh.push(...made)
    return { row_no, outcome: 'new', person_id: meant[0]?.id ?? null }
  })
  await writeSuppressions(trx, fresh)
  if (batch.options.register)
    await insertRegisterKeys(
      trx,
      good.flatMap(keysOf).map((key) => ({ batch_id: batch.id, key })),
    )
  return outcomes
}

/** Once all rows of a copy of a register are in, the copy's date counts, and what is new and gone since the copy before it is known. */
export async function finishSuppressions(trx: Knex, batch: Batch, at: Date): Promise<void> {
  const { register } = batch.options
  if (!register) return
  const before = await versionBefore(trx, register.name, register.version)
  const apart = async (one: number, other: number): Promise<number> => (await keysApart(trx, one, other))[0].n
  await insertRegisterFile(trx, {
    fresh: before ? await apart(batch.id, before.batch_id) : null,
    gone: before ? await apart(before.batch_id, batch.id) : null,
    registerName: register.name,
    registerVersion: register.version,
    batchId: batch.id,
    at,
  })
}

function suppressionsOf(
  row: SuppressionRow,
  batch: Batch,
  person: number | undefined,
  organisations: KnownOrganisation[],
): NewSuppression[] {
  const { register } = batch.options
  const zone = settings().ARCH_ZONE
  const reason: Reason = row.reason ?? (register ? 'register' : 'opt-out')
  const common = {
    reason,
    since: row.since ? new Date(startOfDate(row.since, zone)) : register ? new Date(startOfDate(register.version, zone)) : null,
    until: row.until ? new Date(startOfDate(row.until, zone)) : null,
    evidence: row.evidence,
    word: row.word ?? register?.name ?? batch.file_name,
    actor: batch.actor_id,
    batch: batch.id,
  }
  const of: Suppressed[] = []
  if (person !== undefined) of.push({ person })
  if (row.email) of.push({ email: row.email })
  if (row.phone) of.push({ phone: row.phone })
  if (row.direct) of.push({ direct: row.direct })
  if (row.domain) of.push({ domain: row.domain })
  if (row.postal) of.push({ postal: row.postal })
  if (row.organisation) {
    const nameKey = organisationKey(row.organisation)
    of.push({ organisation: { id: organisations.find((o) => o.key === nameKey)?.id ?? null, name: row.organisation, nameKey } })
  }
  return of.flatMap((o) => {
    const channels = channelsClosed(reason, o, row.channels)
    return channels.length > 0 ? [{ ...common, of: o, channels }] : []
  })
}

function keysOf(row: SuppressionRow): Buffer[] {
  return [
    ...(row.email ? suppressedBy({ email: row.email }) : []),
    ...(row.phone ? suppressedBy({ phone: row.phone }) : []),
    ...(row.direct ? suppressedBy({ direct: row.direct }) : []),
    ...(row.domain ? suppressedBy({ domain: row.domain }) : []),
    ...(row.postal ? suppressedBy({ postal: row.postal }) : []),
    ...(row.organisation ? suppressedBy({ organisationKey: organisationKey(row.organisation) }) : []),
  ].map(({ key }) => key)
}

/** What makes two suppressions the same: whom, why, by which channels, and that neither ends. */
const standingKey = (s: NewSuppression) =>
  [
    s.reason,
    'person' in s.of ? `person ${s.of.person}` : keysOfSuppressed(s.of)[0].key.toString('hex'),
    [...s.channels].sort().join(),
    s.until?.toISOString() ?? '',
  ].join('|')
