import type { CustomField } from '@/core/clean/custom'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import type { Knex } from '@/db/connection'

/** Every field of people by number: those that every team has, and those this one declared for itself, in the order in which they were. */
export async function customFields(trx: Knex): Promise<CustomField[]> {
  return [...standardFieldsOf('person'), ...(await trx('custom_field').orderBy('id').select('id', 'name', 'kind', 'choices'))]
}
