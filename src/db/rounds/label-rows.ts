import type { Addressee } from '@/core/labels/address-block'
import type { Knex } from '@/db/connection'

/** To whom and where the letters of a released round go, as they were frozen, in the order of their names. */
export async function addresseesOf(trx: Knex, round: number): Promise<(Addressee & { row: number })[]> {
  const { rows } = await trx.raw(
    `select m.person_id as row, m.card ->> 'name' as name, m.card ->> 'organisation' as organisation,
       c.sent_to ->> 'street' as street, c.sent_to ->> 'town' as town, c.sent_to ->> 'postcode' as postcode
     from round_channel c join round_member m using (round_id, person_id)
     where c.round_id = ? and c.channel = 'post' and c.closed_by is null order by m.card ->> 'sort', m.person_id`,
    [round],
  )
  return rows
}
