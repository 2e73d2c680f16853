import type { CustomField } from '@/core/clean/custom'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import type { BatchKind } from '@/core/match/columns'
import { type FieldWords, fieldWordsOf } from '@/core/text/field-words'
import { db, type Knex } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { settings } from '@/runtime/settings'
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

/** The words for changes of fields, with the fields the team declared for itself. */
export async function fieldWords(trx: Knex): Promise<FieldWords> {
  return fieldWordsOf(await customFields(trx), settings().ARCH_REGION)
}
