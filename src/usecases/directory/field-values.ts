import type { CustomValues } from '@/core/clean/custom'
import { STANDARD_FIELDS } from '@/core/clean/standard-fields'
import { db } from '@/db/connection'
import { fieldText } from '@/core/text/field-text'
import { customFields } from '@/db/directory/custom-fields'

/** The fields by number that a record has a value of, in words. */
export async function fieldsOf(details: CustomValues): Promise<{ name: string; value: string }[]> {
  const fields = [...STANDARD_FIELDS, ...(await customFields(db()))]
  return Object.entries(details).map(([id, value]) => {
    const field = fields.find((f) => f.id === Number(id))
    const name = (field?.name ?? 'a field').replace(/^Organisation: /, '')
    return { name, value: fieldText(field, value) }
  })
}
