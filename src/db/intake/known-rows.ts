import type { Knex } from '@/db/connection'
import { copyRows } from '@/db/copy-rows'
import { generationOf } from '@/core/clean/name'
import type { KnownRecords } from '@/core/match/known-records'

/**
 * Reads everything that rows are matched with, straight from the database's own copy format. `folded` reduces a word to how it is
 * compared.
 */
export async function readKnown(trx: Knex, known: KnownRecords, folded: (text: string) => string) {
  return await copyRows(
    trx,
    `select p.id, p.given, p.family, coalesce(o.name_key, ''), coalesce(split_part(p.address_key, '|', 1), ''), coalesce(p.postcode, ''), coalesce(p.town, '')
     from person p left join organisation o on o.id = p.organisation_id where p.state = 'live' order by p.id`,
    (row) => {
      const id = row.int8()
      const [given, family, organisation, street, postcode, town] = [
        row.text(),
        row.text(),
        row.text(),
        row.text(),
        row.text(),
        row.text(),
      ] as string[]
      known.add(id, {
        given: folded(given),
        family: generationOf(folded(family)).family,
        organisation,
        street,
        postcode: folded(postcode),
        town: folded(town),
        emails: [],
        phones: [],
      })
    },
  )
}
