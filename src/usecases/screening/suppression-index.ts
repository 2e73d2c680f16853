import { standOf } from '@/core/screening/stand'
import type { SuppressionIndex } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { registersInUse } from './lift-suppressions'
import { recentLiftings } from '@/db/screening/liftings'
import { countsByReason, peopleTouched, suppressionsPage } from '@/db/screening/suppression-rows'
import type { Reason } from '@/core/records/suppression'

/** What somebody typed to be suppressed: an email, phone or @domain; a postal address; an organisation of the directory. */
export type Target =
  | { person: number }
  | { text: string }
  | { postal: { street: string; town: string; postcode: string } }
  | { organisation: number }

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
      by: s.by ?? '',
      stand: standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, at.getTime()),
      catches: touched.get(s.id)?.length ?? 0,
    })),
    counts,
    registers: await registersInUse(db()),
    liftings: await recentLiftings(db()),
  }
}
