import type { Knex } from 'knex'
import type { Address, Channel, Contact, ContactToCome, PersonRecord, Reason, Relation, ScreenedChannel, Suppression } from '@/core/columns/person-record'

interface PersonRow {
  id: number
  state: string
  role: string | null
  organisation_id: number | null
  town: string | null
  postcode: string | null
  relation: Relation | null
  sort_key: string
}

const MS = (column: string) => `(extract(epoch from ${column}) * 1000)::float8`

const PEOPLE = `
  select p.id, p.state, p.role, p.organisation_id, p.relation, p.sort_key,
    case when p.town is null and p.postcode is null then o.town else p.town end as town,
    case when p.town is null and p.postcode is null then o.postcode else p.postcode end as postcode
  from person p left join organisation o on o.id = p.organisation_id`

const SUPPRESSION = `s.id as suppression, s.reason, s.channels, ${MS('s.since')} as since, ${MS('s.until')} as until`

interface SuppressionRow {
  suppression: number
  reason: Reason
  channels: Channel[]
  since: number
  until: number | null
}

/**
 * Everything criteria and rules can ask about, for some people or for a range of ids. Reads in one statement a kind of
 * row; the caller gives a transaction where they must belong together. People not live come back with `live` false.
 */
export async function personRecords(trx: Knex, which: { ids: number[] } | { from: number; to: number }): Promise<{ live: boolean; record: PersonRecord }[]> {
  const [where, args] = 'ids' in which ? ['= any(?::bigint[])', [which.ids]] : ['between ? and ?', [which.from, which.to]]
  const ask = async <T>(sql: string): Promise<T[]> => (await trx.raw(sql, args as never)).rows
  const people = await ask<PersonRow>(`${PEOPLE} where p.id ${where}`)
  const addresses = group(
    await ask<{ id: number; person: number; channel: ScreenedChannel; usable: boolean }>(
      `select id, person_id as person, channel, usable from address where person_id ${where} order by person_id, position, id`,
    ),
  )
  const onAddress = new Map<number, Suppression[]>()
  for (const row of await ask<SuppressionRow & { address: number }>(
    `select a.id as address, ${SUPPRESSION} from address a join suppression_key k on k.key = a.key
     join suppression_standing s on s.id = k.suppression_id where a.person_id ${where} order by s.id`,
  )) {
    push(onAddress, row.address, suppressionOf(row))
  }
  const onPerson = new Map<number, Suppression[]>()
  for (const row of await ask<SuppressionRow & { person: number }>(
    `select s.person_id as person, ${SUPPRESSION} from suppression_standing s where s.person_id ${where} order by s.id`,
  )) {
    push(onPerson, row.person, suppressionOf(row))
  }
  const contacts = group(
    await ask<{ person: number; at: number; channel: Channel; by: string }>(
      `select e.person_id as person, ${MS('e.at')} as at, e.channel, e.actor_id as by from entry e
       where e.kind = 'contact' and e.person_id ${where} and not exists (select 1 from entry r where r.reverses_id = e.id)
       order by e.person_id, e.at, e.id`,
    ),
  )
  const toCome = group(
    await ask<{ person: number; round: number; channel: ScreenedChannel; since: number }>(
      `select person_id as person, round_id as round, channel, ${MS('since')} as since from contact_to_come
       where ended_at is null and person_id ${where} order by person_id, round_id, channel`,
    ),
  )
  const batches = group(
    await ask<{ person: number; batch: number }>(`select distinct person_id as person, batch_id as batch from batch_row where person_id ${where}`),
  )
  return people.map((p) => ({
    live: p.state === 'live',
    record: {
      id: p.id,
      role: p.role,
      organisation: p.organisation_id,
      town: p.town,
      postcode: p.postcode,
      relation: p.relation,
      sortKey: p.sort_key,
      addresses: (addresses.get(p.id) ?? []).map((a): Address => ({ id: a.id, channel: a.channel, usable: a.usable, suppressions: onAddress.get(a.id) ?? [] })),
      contacts: (contacts.get(p.id) ?? []).map((c): Contact => ({ at: c.at, channel: c.channel, by: c.by })),
      toCome: (toCome.get(p.id) ?? []).map((t): ContactToCome => ({ round: t.round, channel: t.channel, since: t.since })),
      suppressions: onPerson.get(p.id) ?? [],
      batches: (batches.get(p.id) ?? []).map((b) => b.batch).sort((a, b) => a - b),
    },
  }))
}

function suppressionOf(row: SuppressionRow): Suppression {
  return { id: row.suppression, reason: row.reason, channels: row.channels, since: row.since, until: row.until }
}

function group<T extends { person: number }>(rows: T[]): Map<number, T[]> {
  const map = new Map<number, T[]>()
  for (const row of rows) push(map, row.person, row)
  return map
}

function push<V>(map: Map<number, V[]>, key: number, value: V): void {
  const known = map.get(key)
  if (known) known.push(value)
  else map.set(key, [value])
}
