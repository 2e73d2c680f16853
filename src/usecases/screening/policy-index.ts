import type { PolicySummary } from '@/core/views/policy-views'
import { isOff, ruleNamed } from '@/core/screening/rules'
import { db } from '@/db/connection'
import { policyRows } from '@/db/screening/policies'
import type { Actor } from '@/usecases/team/actor'

/** The team's policies, the default first. */
export async function policyIndex(_actor: Actor): Promise<PolicySummary[]> {
  return (await policyRows(db())).map((row) => ({
    id: row.id,
    name: row.name,
    isDefault: row.is_default,
    edition: row.number,
    rules: row.rules.filter((rule) => !isOff(rule)).map((rule) => ruleNamed(row.rules, rule.id)),
    lists: row.lists,
    savedAt: row.saved_at.toISOString(),
    by: row.by,
  }))
}
