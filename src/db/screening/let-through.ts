import type { LetThrough } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { db, type Knex } from '@/db/connection'

/** Who was let through in a round, by which channel, and is still. */
export async function letThroughOf(round: number, trx: Knex = db()): Promise<LetThrough[]> {
  return trx('let_through').where({ round_id: round }).whereNull('taken_back_at').select('person_id as person', 'channel')
}

/** The rules with the register that is in. Where several are kept, each by its newest version, it is the one that runs out first. */
export async function withRegister(rules: Rule[], trx: Knex = db()): Promise<Rule[]> {
  const { rows } = await trx.raw<{ rows: { version: string; good_for: number }[] }>(
    'select version, good_for from (select distinct on (name) version, good_for from register_file order by name, version desc, id desc) f order by version + good_for, version limit 1',
  )
  const newest = rows[0]
  return rules.map((rule) =>
    rule.kind === 'register' ? { ...rule, version: newest?.version ?? null, goodFor: newest?.good_for ?? 31 } : rule,
  )
}
