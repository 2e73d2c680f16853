import { db, type Knex } from '@/db/connection'
import { cleanDomain, domainOf } from '@/core/clean/domain'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import type { Reason } from '@/core/columns/person-record'
import { suppressedBy } from '@/db/key'
import { settings } from '@/runtime/settings'

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
    const keys = [
      ...(email?.usable ? [...suppressedBy({ email: email.normal }), ...suppressedBy({ domain: domainOf(email.normal) })] : []),
      ...(phone?.usable ? suppressedBy({ phone: phone.normal }) : []),
      ...(domain ? suppressedBy({ domain }) : []),
    ].map(({ key }) => key)
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) => {
      some
        .whereILike('p.name', like)
        .orWhere((own) => own.whereIn('s.scope', ['organisation', 'post', 'domain']).whereILike('s.hint', like))
        .orWhereILike('s.word', like)
      if (keys.length > 0) some.orWhereIn('s.id', db()('suppression_key').whereIn('key', keys).select('suppression_id'))
    })
  }
  return query
}
