import { type PolicyRow, policyRow } from '@/db/screening/policies'
import { type Rule, validRules } from '@/core/screening/rules'
import { withoutFile } from '@/core/screening/differences'
import { db, type Knex } from '@/db/connection'
import { Refused } from '@/usecases/team/actor'

/** A policy that is there; locked where it is to be changed. */
export async function policyFor(id: number, trx: Knex = db(), lock = false): Promise<PolicyRow> {
  const policy = Number.isSafeInteger(id) ? await policyRow(trx, id, lock) : undefined
  if (!policy) throw new Refused('There is no such policy.', 'not found')
  return policy
}

/** Rules of a policy as they were sent. Throws Refused where they are none. */
export function policyRules(raw: unknown): Rule[] {
  try {
    return validRules(raw).map(withoutFile)
  } catch (error) {
    throw new Refused(`The policy was not saved. ${(error as Error).message}.`)
  }
}

/** A name for a policy. Throws Refused where it is none. */
export function policyName(raw: string): string {
  const name = raw.trim()
  if (name === '' || name.length > 120) throw new Refused('Give the policy a name of 1 to 120 characters.')
  return name
}
