import type { PersonRecord } from '@/core/records/person-record'
import type { ScreeningMoment } from '@/core/screening/kind'
import { aroundSince, type Rule } from '@/core/screening/rules'
import type { Knex } from '@/db/connection'
import { contactsAround } from '@/db/screening/contacts-around'

/** Gives records what some rules ask about others of their organisation or household. Nothing is read where none asks. */
export async function withAround(trx: Knex, records: PersonRecord[], rules: readonly Rule[], moment: ScreeningMoment): Promise<void> {
  const from = aroundSince(rules, moment)
  if (from === null) return
  const around = await contactsAround(
    trx,
    records.map(({ id }) => id),
    from,
  )
  for (const record of records) record.around = around.get(record.id) ?? []
}
