import { localDate } from '@/core/calendar/local-day'
import { standOf } from '@/core/screening/stand'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { writeCsv } from '@/formats/write-csv'
import { everySuppression } from '@/db/screening/suppression-rows'
import { type Reason, type Scope, SCOPE_NAME } from '@/core/records/suppression'

/** The suppressions found as CSV, in columns that can be brought in again. An email or phone is told in part only: what it was is not kept, but for its key. */
export async function suppressionsCsv(_actor: Actor, typed: string, reason: Reason | null): Promise<{ name: string; bytes: Buffer }> {
  const rows = await everySuppression(typed, reason)
  const day = (at: Date | null) => (at ? localDate(at.getTime(), settings().ARCH_ZONE) : '')
  return {
    name: 'suppressions.csv',
    bytes: await writeCsv(
      [
        'Suppression',
        'Keyed on',
        'Who',
        'Outside id',
        'Domain',
        'Organisation',
        'Channels',
        'Reason',
        'Since',
        'Until',
        'Requested by',
        'Evidence',
        'Entered by',
        'Stands',
        'Lifted',
        'Lifted on whose word',
      ],
      rows.map((s) => [
        String(s.id),
        SCOPE_NAME[s.scope as Scope],
        s.name ?? s.hint,
        s.outside_id ?? '',
        s.scope === 'domain' ? s.hint : '',
        s.scope === 'organisation' ? s.hint : '',
        s.channels.join(';'),
        s.reason,
        day(s.since),
        day(s.until),
        s.word,
        s.evidence ?? '',
        s.by ?? '',
        standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, now().getTime()),
        day(s.lifted_at),
        s.lifted_word ?? '',
      ]),
    ),
  }
}
