import type { Rule } from '@/core/screening/rules'
import type { Knex } from '@/db/connection'

export interface PolicyRow {
  id: number
  name: string
  is_default: boolean
  archived_at: Date | null
}

export interface PolicyEditionRow {
  id: number
  policy_id: number
  number: number
  rules: Rule[]
  why: string | null
  saved_by: string
  saved_at: Date
}

/** Every policy that is not archived, the default first, with its newest edition and how many lists of people go by it. */
export async function policyRows(
  trx: Knex,
): Promise<(PolicyRow & { number: number; rules: Rule[]; saved_at: Date; by: string | null; lists: number })[]> {
  const { rows } = await trx.raw(
    `select p.id, p.name, p.is_default, p.archived_at, e.number, e.rules, e.saved_at, u.name as by,
       (select count(*) from list l where l.deleted_at is null and l.subject = 'person' and coalesce(l.policy_id, d.id) = p.id)::int as lists
     from policy p join lateral (select * from policy_edition where policy_id = p.id order by number desc limit 1) e on true
     cross join (select id from policy where is_default) d left join "user" u on u.id = e.saved_by
     where p.archived_at is null order by p.is_default desc, lower(p.name)`,
  )
  return rows
}

/** Returns a policy by its id, locked where asked. */
export async function policyRow(trx: Knex, id: number, lock = false): Promise<PolicyRow | undefined> {
  const row = trx('policy').where({ id }).select('id', 'name', 'is_default', 'archived_at').first()
  return await (lock ? row.forUpdate() : row)
}

/** The policy of a list: the one it chose, or the team's. */
export async function policyOf(trx: Knex, list: { policy_id: number | null }): Promise<PolicyRow> {
  const row = trx('policy').select('id', 'name', 'is_default', 'archived_at')
  return await (list.policy_id === null ? row.where({ is_default: true }) : row.where({ id: list.policy_id })).first()
}

/** Returns the newest edition of a policy. Every policy has one. */
export async function newestEdition(trx: Knex, policy: number): Promise<PolicyEditionRow> {
  return await trx('policy_edition').where({ policy_id: policy }).orderBy('number', 'desc').first()
}

/** Returns an edition of a policy with the name of the policy. */
export async function policyEdition(trx: Knex, id: number): Promise<PolicyEditionRow & { name: string }> {
  return await trx('policy_edition as e').join('policy as p', 'p.id', 'e.policy_id').where('e.id', id).first('e.*', 'p.name')
}

/** Returns the editions of a policy, newest first, with who saved each. */
export async function editionRows(trx: Knex, policy: number): Promise<(PolicyEditionRow & { by: string | null })[]> {
  return await trx('policy_edition as e')
    .leftJoin('user as u', 'u.id', 'e.saved_by')
    .where('e.policy_id', policy)
    .orderBy('e.number', 'desc')
    .select('e.*', 'u.name as by')
}

/** Whether a policy that is not archived has a name, however it is written; `but` does not count. */
export async function policyNamed(trx: Knex, name: string, but: number | null = null): Promise<boolean> {
  const query = trx('policy').whereNull('archived_at').whereRaw('lower(name) = lower(?)', [name])
  return (await (but === null ? query : query.whereNot({ id: but })).first('id')) !== undefined
}

/** Inserts a policy without an edition and returns its id. */
export async function insertPolicy(trx: Knex, row: { name: string; by: string; at: Date }): Promise<number> {
  const [{ id }] = await trx('policy').insert({ name: row.name, created_by: row.by, created_at: row.at }, 'id')
  return id
}

/** Inserts an edition of a policy and returns its id. Of two saved at once under one number the second fails. */
export async function insertPolicyEdition(
  trx: Knex,
  row: { policy: number; number: number; rules: Rule[]; why: string | null; by: string; at: Date },
): Promise<number> {
  const { policy, number, rules, why, by, at } = row
  const [{ id }] = await trx('policy_edition').insert(
    { policy_id: policy, number, rules: JSON.stringify(rules), why, saved_by: by, saved_at: at },
    'id',
  )
  return id
}

/** Renames a policy. */
export async function renamePolicyRow(trx: Knex, id: number, name: string): Promise<void> {
  await trx('policy').where({ id }).update({ name })
}

/** Makes a policy the team's default instead of the one before. */
export async function setDefault(trx: Knex, id: number): Promise<void> {
  await trx('policy').where({ is_default: true }).update({ is_default: false })
  await trx('policy').where({ id }).update({ is_default: true })
}

/** Archives a policy, or brings it back where `at` is null. */
export async function archivePolicyRow(trx: Knex, id: number, at: Date | null): Promise<void> {
  await trx('policy').where({ id }).update({ archived_at: at })
}

/** Writes the policy of a list; null where it follows the team's default. */
export async function setPolicyOfList(trx: Knex, list: number, policy: number | null): Promise<void> {
  await trx('list').where({ id: list }).update({ policy_id: policy })
}

/** The lists that chose a policy by name, those that are deleted left out. */
export async function listsByPolicy(trx: Knex, policy: number): Promise<{ id: number; name: string }[]> {
  return await trx('list').where({ policy_id: policy }).whereNull('deleted_at').orderByRaw('lower(name)').select('id', 'name')
}

export interface RuleChangeRow {
  at: Date
  why: string | null
  by: string | null
  before: Rule[]
  after: Rule[]
}

/** What was changed in the rules of one round alone, the newest first. */
export async function ruleChangesOf(trx: Knex, round: number): Promise<RuleChangeRow[]> {
  return await trx('round_rule_change as c')
    .leftJoin('user as u', 'u.id', 'c.actor_id')
    .where('c.round_id', round)
    .orderBy('c.id', 'desc')
    .select('c.at', 'c.why', 'u.name as by', 'c.before', 'c.after')
}

/** Records a change of rules for one round, with the rules before and after. */
export async function insertRuleChange(
  trx: Knex,
  row: { round: number; at: Date; actor: string; why: string | null; before: Rule[]; after: Rule[] },
): Promise<void> {
  const { round, at, actor, why, before, after } = row
  await trx('round_rule_change').insert({
    round_id: round,
    at,
    actor_id: actor,
    why,
    before: JSON.stringify(before),
    after: JSON.stringify(after),
  })
}
