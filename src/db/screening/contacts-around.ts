import type { ContactAround, GroupOf } from '@/core/records/person-record'
import type { Way } from '@/core/records/channels'
import type { Knex } from '@/db/connection'

/** The home of somebody without an organisation: the key of their first usable postal address. */
const HOME = (person: string) =>
  `(select a.key from address a where a.person_id = ${person}.id and a.channel = 'post' and a.usable and ${person}.organisation_id is null order by a.position, a.id limit 1)`

/** Pairs of a person (`of`) and somebody live who counts together with them (`other`), and how, for the people a query `who` gives. */
const TOGETHER = (who: string) =>
  `(select me.id as of, o.id as other, 'organisation' as how from person me join person o on o.organisation_id = me.organisation_id and o.id <> me.id and o.state = 'live'
      where me.id in (${who})
    union all
    select me.id, o.id, 'household' from (select p.id, ${HOME('p')} as home from person p where p.id in (${who}) and p.organisation_id is null) me
      join address b on b.key = me.home and b.channel = 'post' join person o on o.id = b.person_id and o.id <> me.id and o.state = 'live' and o.organisation_id is null
      where ${HOME('o')} = me.home)`

/** Contacts since an instant of others of the organisation or household of each of some people. */
export async function contactsAround(trx: Knex, people: readonly number[], from: number): Promise<Map<number, ContactAround[]>> {
  const around = new Map<number, ContactAround[]>()
  if (people.length === 0) return around
  const ids = `select unnest('{${people.map(Number).join(',')}}'::bigint[])`
  const { rows } = await trx.raw<{
    rows: { of: number; other: number; how: GroupOf; at: number; way: Way; by: string; result: string | null; round: number | null }[]
  }>(
    `select t.of, t.other, t.how, (extract(epoch from e.at) * 1000)::float8 as at, e.channel as way, e.actor_id as by, e.result, e.round_id as round
     from ${TOGETHER(ids)} t join facts f on f.person_id = t.other and f.last_at >= to_timestamp(?)
       join lateral (select t.other as id union all select m.id from person m where m.merged_into = t.other) w on true
       join entry e on e.person_id = w.id and e.kind = 'contact' and e.at >= to_timestamp(?) and not exists (select 1 from entry r where r.reverses_id = e.id)
     order by t.of, t.other, e.at, e.id`,
    [from / 1000, from / 1000],
  )
  for (const { of, other, how, at, way, by, result, round } of rows) {
    const contact: ContactAround = { at, channel: way, by, result, round, person: other, of: how }
    const own = around.get(of)
    if (own) own.push(contact)
    else around.set(of, [contact])
  }
  return around
}

/** A query for those whom `who` gives and everybody who counts together with them and was contacted since an instant. */
export const whoAround = (who: string, from: number): string =>
  `${who} union select t.other from ${TOGETHER(who)} t join facts f on f.person_id = t.other and f.last_at >= to_timestamp(${Number(from) / 1000})`

/** Some people, and everybody who counts together with one of them. */
export async function andTogether(trx: Knex, people: readonly number[]): Promise<number[]> {
  if (people.length === 0) return []
  const ids = `select unnest('{${people.map(Number).join(',')}}'::bigint[])`
  const { rows } = await trx.raw<{ rows: { other: number }[] }>(`select distinct t.other from ${TOGETHER(ids)} t`)
  return [...new Set([...people, ...rows.map(({ other }) => other)])]
}
