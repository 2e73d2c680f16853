import type { CheckState } from '@/core/sources/source'
import type { Knex } from '@/db/connection'
import { keysOf } from '@/db/key'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { applyChecks, writeChecks } from '@/db/sources/email-checks'
import type { Enquiry } from '@/db/sources/enquiry-rows'

/** Keeps what a check said of some addresses. A bad one cannot be used until another check says otherwise; both are told in the ledger. */
export async function recordChecks(
  trx: Knex,
  e: Pick<Enquiry, 'actor_id' | 'source'>,
  checks: { email: string; state: CheckState; why: string }[],
): Promise<void> {
  const at = now()
  const rows = checks.map((c) => ({ key: keysOf({ email: c.email }).key.toString('hex'), state: c.state, why: c.why }))
  await writeChecks(trx, at, e.source, e.actor_id, rows)
  const changed = await applyChecks(trx, `a.key in (select decode(r.key, 'hex') from jsonb_to_recordset(?::jsonb) as r(key text))`, [
    JSON.stringify(rows),
  ])
  await writeEntries(
    trx,
    changed.map((c) => ({
      person: c.person_id,
      kind: 'change' as const,
      field: 'email',
      before: `${c.value}${c.usable ? ', bad' : ''}`,
      after: `${c.value}${c.usable ? '' : `, bad: ${c.why}`}`,
      at,
      actor: e.actor_id,
    })),
    at,
  )
}
