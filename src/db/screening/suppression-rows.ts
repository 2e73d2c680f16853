import { paged } from '@/db/paged'
import { db, type Knex } from '@/db/connection'
import { cleanDirect } from '@/core/clean/direct'
import { cleanDomain, domainOf } from '@/core/clean/domain'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { suppressedBy } from '@/db/key'
import { settings } from '@/runtime/settings'
import type { Channel } from '@/core/records/channels'
import type { Reason, Scope } from '@/core/records/suppression'

/** Whom each of some suppressions holds as things stand, in whatever way it is keyed. */
export async function peopleTouched(trx: Knex, suppressions: number[]): Promise<Map<number, number[]>> {
  const { rows } = await trx.raw<{ rows: { suppression: number; person: number }[] }>(
    'select distinct suppression_id as suppression, person_id as person from suppression_touch where suppression_id = any(?::bigint[])',
    [suppressions] as never,
  )
  const touched = new Map<number, number[]>()
  for (const { suppression, person } of rows) touched.set(suppression, [...(touched.get(suppression) ?? []), person])
  return touched
}

/** Returns a query for suppressions by what was typed: an email address, a number, a domain, a name or words. */
export function suppressionsFound(typed: string, reason: Reason | null) {
  const query = db()('suppression as s')
    .leftJoin('person as p', 'p.id', 's.person_id')
    .leftJoin('suppression_lifted as l', 'l.suppression_id', 's.id')
    .leftJoin('user as u', 'u.id', 's.actor_id')
  if (reason) query.where('s.reason', reason)
  const text = typed.slice(0, 200).trim()
  if (text) {
    const email = cleanEmail(text)
    const phone = cleanPhone(text, settings().ARCH_REGION)
    const domain = cleanDomain(text)
    const direct = cleanDirect(text)
    const keys = [
      ...(email?.usable ? [...suppressedBy({ email: email.normal }), ...suppressedBy({ domain: domainOf(email.normal) })] : []),
      ...(phone?.usable ? suppressedBy({ phone: phone.normal }) : []),
      ...(domain ? suppressedBy({ domain }) : []),
      ...(direct?.usable ? suppressedBy({ direct: direct.normal }) : []),
    ].map(({ key }) => key)
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) => {
      some
        .whereILike('p.name', like)
        .orWhere((own) => own.whereIn('s.scope', ['organisation', 'post', 'household', 'domain']).whereILike('s.hint', like))
        .orWhereILike('s.word', like)
      if (keys.length > 0) some.orWhereIn('s.id', db()('suppression_key').whereIn('key', keys).select('suppression_id'))
    })
  }
  return query
}

/** Returns suppressions as evidence shows them. */
export async function suppressionsForEvidence(trx: Knex, suppressionIds: number[]) {
  return await trx('suppression as s')
    .leftJoin('person as p', 'p.id', 's.person_id')
    .whereIn('s.id', suppressionIds)
    .select('s.id', 's.reason', 's.since', 's.until', 's.word', 's.scope', 's.hint', 'p.name')
}

/** Inserts suppressions and returns their ids. */
export async function insertSuppressions(
  trx: Knex,
  suppressions: {
    reason: Reason
    channels: Channel[]
    scope: Scope
    person_id: number | null
    organisation_id: number | null
    hint: string
    since: Date
    until: Date | null
    word: string
    evidence: string | null
    actor_id: string
    batch_id: number | null
    recorded_at: Date
  }[],
) {
  return await trx('suppression').insert(suppressions, 'id')
}

/** Inserts the keys by which suppressions catch addresses. A key that is there already is skipped. */
export async function insertKeys(trx: Knex, keys: { channel: string; key: Buffer<ArrayBufferLike>; suppression_id: number }[]) {
  return await trx('suppression_key').insert(keys).onConflict(['suppression_id', 'key']).ignore()
}

/** Suppressions in force that end by themselves within some time, the first to end first; some hundred at most. */
export async function endingSoon(trx: Knex, from: Date, until: Date) {
  return await trx('suppression_standing as s')
    .leftJoin('person as p', 'p.id', 's.person_id')
    .where('s.since', '<=', from)
    .where('s.until', '>', from)
    .where('s.until', '<=', until)
    .orderBy('s.until')
    .orderBy('s.id')
    .limit(100)
    .select('s.id', 's.reason', 's.until', 's.hint', 's.person_id', 'p.name', trx.raw('count(*) over ()::int as of'))
}

/** Returns the suppression; undefined where there is none. */
export async function suppressionId(trx: Knex, id: number) {
  return await trx('suppression').where({ id }).first('id')
}

/** Returns how many suppressions of each reason stand at a moment, are yet to begin, have ended, and were lifted. */
export async function countsByReason(trx: Knex, at: Date) {
  return await trx('suppression as s')
    .leftJoin('suppression_lifted as l', 'l.suppression_id', 's.id')
    .groupBy('s.reason')
    .select('s.reason')
    .select(
      trx.raw(
        `(count(*) filter (where l.id is null and s.since <= ? and (s.until is null or s.until > ?)))::int as standing, (count(*) filter (where l.id is null and s.since > ?))::int as "toCome",
         (count(*) filter (where l.id is null and s.since <= ? and s.until <= ?))::int as ended, count(l.id)::int as lifted`,
        [at, at, at, at, at],
      ),
    )
}

/** Returns the suppressions that touch people or their addresses, newest first, with who entered and who lifted each. */
export async function suppressionsOf(trx: Knex, whole: number[]) {
  return await trx('suppression as s')
    .leftJoin('suppression_lifted as l', 'l.suppression_id', 's.id')
    .leftJoin('user as u', 'u.id', 's.actor_id')
    .leftJoin('user as lu', 'lu.id', 'l.actor_id')
    .whereRaw('s.id in (select suppression_id from suppression_touch where person_id = any(?::bigint[]))', [whole] as never)
    .orderBy('s.id', 'desc')
    .select('s.*', 'u.name as by', 'l.at as lifted_at', 'l.word as lifted_word', 'lu.name as lifted_by')
}

/** Suppressions whose who, address or word says what was typed, the newest first. */
export const suppressionsPage = (trx: Knex, typed: string, reason: Reason | null, page: { offset: number; limit: number }) =>
  paged(trx, suppressionsFound(typed, reason), page, (query) =>
    query
      .leftJoin('batch as b', 'b.id', 's.batch_id')
      .leftJoin('user as lu', 'lu.id', 'l.actor_id')
      .orderBy('s.id', 'desc')
      .select('s.*', 'p.name', 'u.name as by', 'l.at as lifted_at', 'l.word as lifted_word', 'lu.name as lifted_by', 'b.file_name'),
  )

/** The same, all of them, the oldest first, with what a file of them says. */
export const everySuppression = (typed: string, reason: Reason | null) =>
  suppressionsFound(typed, reason)
    .orderBy('s.id')
    .select('s.*', 'p.name', 'p.outside_id', 'u.name as by', 'l.at as lifted_at', 'l.word as lifted_word')
