import { fold } from '@/core/clean/fold'
import type { Comparable } from '@/core/match/compare'
import type { Knex } from '@/db/connection'

/** Everybody in the directory by what they are compared by. */
export async function everybody(trx: Knex): Promise<{ ids: number[]; records: Comparable[] }> {
  const { rows } = await trx.raw(
    `select p.id, p.given, p.family, o.name_key as organisation, p.address_key, p.town, p.postcode, a.emails, a.phones
     from person p left join organisation o on o.id = p.organisation_id
       left join (select person_id, array_agg(value) filter (where channel = 'email') as emails, array_agg(value) filter (where channel = 'phone') as phones
         from address where usable and channel in ('email', 'phone') group by 1) a on a.person_id = p.id
     where p.state = 'live' order by p.id`,
  )
  const ids: number[] = []
  const records: Comparable[] = []
  for (const r of rows) {
    ids.push(r.id)
    records.push({
      given: fold(r.given),
      family: fold(r.family),
      organisation: r.organisation ?? '',
      street: (r.address_key ?? '').split('|')[0],
      postcode: fold(r.postcode ?? ''),
      town: fold(r.town ?? ''),
      emails: r.emails ?? [],
      phones: r.phones ?? [],
    })
  }
  return { ids, records }
}
