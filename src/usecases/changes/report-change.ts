import { fold } from '@/core/clean/fold'
import type { Subject } from '@/core/records/subject'
import { insertReport } from '@/db/changes/report-rows'
import type { Knex } from '@/db/connection'
import { keyed } from '@/db/key'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'

/** What is reported of a record: something that happened, or what a field is said to be now. */
export interface Report {
  of: Subject
  record: number
  /** What happened, by the number of its kind; or the field that is said to have changed. */
  kind: number | null
  field: string | null
  before: string | null
  after: string | null
  text: string | null
  link: string | null
  /** The day it happened, where `stated`; else the first day it was seen. */
  day: string
  stated: boolean
  source: string
  /** The source's own number of it. */
  outsideId: string | null
  batch?: number
}

/** Writes reports into the ledger, each an entry that changes nothing by itself. Runs in the caller's transaction. */
export async function writeReports(trx: Knex, actor: string, reports: readonly Report[]): Promise<number[]> {
  const at = now()
  const ids = await writeEntries(
    trx,
    reports.map((r) => ({
      [r.of]: r.record,
      kind: 'reported' as const,
      at,
      actor,
      batch: r.batch,
      field: r.field ?? undefined,
      before: r.before,
      after: r.field === null ? r.link : r.after,
      note: r.text,
    })),
    at,
  )
  await insertReport(
    trx,
    reports.map((r, i) => ({ entry_id: ids[i], kind_id: r.kind, seen_on: r.day, stated: r.stated, source: r.source, same: sameKeys(r) })),
  )
  return ids
}

/** Keys by which two reports of something that happened are known to be of the same: HMACs, which tell nothing when the words are erased. */
function sameKeys(r: Report): string[] {
  if (r.kind === null) return []
  const keys = [
    r.outsideId === null ? null : `report id:${r.source}:${r.outsideId}`,
    r.link === null ? null : `report link:${r.day}:${r.link.trim()}`,
    r.text === null || fold(r.text) === '' ? null : `report text:${r.day}:${fold(r.text)}`,
  ]
  return keys.flatMap((key) => (key === null ? [] : [keyed(key).toString('hex')]))
}
