import type { LetThrough } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

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
  return rules.map((rule) => {
    if (rule.kind === 'register-age') return { ...rule, version: newest?.version ?? null }
    return rule.kind === 'register' ? { ...rule, version: newest?.version ?? null, goodFor: newest?.good_for ?? 31 } : rule
  })
}

/** Returns a query that inserts a letting-through. The database refuses it for opt-outs, complaints and registers. */
export const insertLetThrough = (
  trx: Knex,
  { round, person, channel, why, actorId, at }: { round: number; person: number; channel: string; why: string; actorId: string; at: Date },
) =>
  trx('let_through')
    .insert({ round_id: round, person_id: person, channel, reason: why, actor_id: actorId, at })
    .onConflict(['round_id', 'person_id', 'channel'])
    .merge({ reason: why, actor_id: actorId, at, taken_back_at: null, taken_back_by: null })

/** Takes a letting-through back and returns whom it was for; empty where it was taken back before. */
export async function updateTakenBack(trx: Knex, round: number, person: number, channel: string, actorId: string) {
  return await trx('let_through')
    .where({ round_id: round, person_id: person, channel })
    .whereNull('taken_back_at')
    .update({ taken_back_at: now(), taken_back_by: actorId }, 'person_id')
}

/** Returns the newest entry of a letting-through, which its undo reverses. */
export async function entryOfLetThrough(trx: Knex, person: number, round: number, channel: string) {
  return await trx('entry').where({ person_id: person, round_id: round, kind: 'let through', channel }).orderBy('id', 'desc').first('id')
}
