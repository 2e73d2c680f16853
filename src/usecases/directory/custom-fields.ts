import { type CustomField, customIdOf } from '@/core/clean/custom'
import { STANDARD_FIELDS, standardFieldsOf } from '@/core/clean/standard-fields'
import type { BatchKind } from '@/core/match/columns'
import { db, type Knex } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { customFields } from '@/db/directory/custom-fields'

/** The fields by number that a batch of a kind can bring: of people, of their organisations too. */
export async function intakeFields(trx: Knex, kind: BatchKind): Promise<CustomField[]> {
  if (kind === 'premises') return standardFieldsOf('premises')
  return kind === 'people' ? [...(await customFields(trx)), ...standardFieldsOf('organisation')] : []
}

/** The fields the team declared for itself. */
export async function listCustomFields(_actor: Actor): Promise<CustomField[]> {
  return (await customFields(db())).filter(({ id }) => id > 0)
}

/** What fields are called, for entries that name them by their number. */
export async function fieldNames(trx: Knex): Promise<(field: string) => string> {
  const named = new Map([...(await customFields(trx)), ...STANDARD_FIELDS].map(({ id, name }) => [id, name]))
  return (field) => {
    const id = customIdOf(field)
    return id === null ? field : (named.get(id) ?? 'a field of our own')
  }
}
