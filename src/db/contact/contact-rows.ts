import type { Knex } from '@/db/connection'

/** The address or number a contact went to where nothing else says: the first usable one of its channel. */
export async function firstAddresses(trx: Knex, people: number[]): Promise<Map<string, number>> {
  const { rows } = await trx.raw(
    `select distinct on (person_id, channel) person_id, channel, id from address where person_id = any(?::bigint[])
     order by person_id, channel, usable desc, position, id`,
    [people],
  )
  return new Map(rows.map((a: { person_id: number; channel: string; id: number }) => [`${a.person_id}|${a.channel}`, a.id]))
}
