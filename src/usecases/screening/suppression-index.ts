import { localDate } from '@/core/calendar/local-day'
import { settings } from '@/runtime/settings'
import { standOf } from '@/core/screening/stand'
import type { SuppressionIndex } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { registersInUse } from './lift-suppressions'
import { recentLiftings } from '@/db/screening/liftings'
import { countsByReason, endingSoon, peopleTouched, suppressionsPage } from '@/db/screening/suppression-rows'
import type { Reason } from '@/core/records/suppression'

/** What somebody typed to be suppressed: an email, phone or @domain; a postal address; an organisation of the directory. */
export type Target =
  | { person: number }
  | { text: string }
  | { postal: { street: string; town: string; postcode: string } }
  | { organisation: number; branches?: boolean }
  | { household: number }

/** What ends within a week is told beforehand. */
const SOON = 7 * 86_400_000

/** Suppressions, the newest first; found by person, organisation, town, domain, whose word, or a whole email or phone. */
export async function suppressionIndex(_actor: Actor, typed = '', reason: Reason | null = null, offset = 0): Promise<SuppressionIndex> {
  const { total, rows } = await suppressionsPage(db(), typed, reason, { offset, limit: PAGE })
  const touched = await peopleTouched(
    db(),
    rows.map((s) => s.id),
  )
  const at = now()
  const counts = await countsByReason(db(), at)
  return {
    total,
    rows: rows.map((s) => ({
      id: s.id,
      reason: s.reason,
      channels: s.channels,
      scope: s.scope,
      who: s.name ?? s.hint,
      personId: s.person_id,
      organisationId: s.organisation_id,
      since: s.since.toISOString(),
      until: s.until?.toISOString() ?? null,
      word: s.word,
      evidence: s.evidence,
      batch: s.batch_id === null ? null : { id: s.batch_id, file: s.file_name ?? 'a file' },
      lifted: s.lifted_at ? { at: s.lifted_at.toISOString(), word: s.lifted_word ?? '', by: s.lifted_by ?? '' } : null,
      by: s.by ?? '',
      stand: standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, at.getTime()),
      catches: touched.get(s.id)?.length ?? 0,
    })),
    counts,
    registers: await registersInUse(db()),
    liftings: await recentLiftings(db()),
    ending: (await endingSoon(db(), at, new Date(at.getTime() + SOON))).map((s) => ({
      id: s.id,
      who: s.name ?? s.hint,
      personId: s.person_id,
      reason: s.reason,
      until: localDate(s.until.getTime(), settings().ARCH_ZONE),
    })),
  }
}
