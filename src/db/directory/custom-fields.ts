import type { CustomField } from '@/core/clean/custom'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Every field of people by number: those that every team has, and those this one declared for itself, in the order in which they were. */
export async function customFields(trx: Knex): Promise<CustomField[]> {
  return [...standardFieldsOf('person'), ...(await trx('custom_field').orderBy('id').select('id', 'name', 'kind', 'choices'))]
}

/** Inserts a field of the team's own and returns it; nothing where a field of that name exists, in any case of letters. */
export async function insertField(trx: Knex, name: string, kind: string, choices: string[], actorId: string) {
  return await trx('custom_field')
    .insert({ name, kind, choices, made_by: actorId, made_at: now() }, ['id', 'name', 'kind', 'choices'])
    .onConflict(trx.raw('(lower(name))'))
    .ignore()
}
