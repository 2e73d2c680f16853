import { type CustomField, customIdOf } from '@/core/clean/custom'
import { phoneText } from '@/core/clean/phone'
import { STANDARD_FIELDS, standardFieldsOf } from '@/core/clean/standard-fields'
import type { BatchKind } from '@/core/match/columns'
import { fieldText } from '@/core/text/field-text'
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

/** What fields are called, for entries that name them by their number. */
export async function fieldNames(trx: Knex): Promise<(field: string) => string> {
  return (await fieldWords(trx)).name
}

/** What the fields of changes are called, and their values as screens write them. No value is “none”. */
export interface FieldWords {
  name: (field: string) => string
  value: (field: string, value: string | null) => string
}

export async function fieldWords(trx: Knex): Promise<FieldWords> {
  const fields = new Map([...(await customFields(trx)), ...STANDARD_FIELDS].map((field) => [field.id, field]))
  return {
    name: (field) => {
      const id = customIdOf(field)
      return id === null ? field : (fields.get(id)?.name ?? 'a field of our own')
    },
    value: (field, value) => {
      if (value === null || value === '') return 'none'
      // A check writes what was wrong behind the number.
      if (field === 'phone' && /^\+\d+$/.test(value)) return phoneText(value, settings().ARCH_REGION)
      const id = customIdOf(field)
      return id === null ? value : fieldText(fields.get(id), value)
    },
  }
}
