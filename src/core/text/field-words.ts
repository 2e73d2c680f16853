import { type CustomField, customIdOf } from '../clean/custom'
import { phoneText } from '../clean/phone'
import { STANDARD_FIELDS } from '../clean/standard-fields'
import { fieldText } from './field-text'

/** What the fields of changes are called, and their values as screens write them. No value is “none”. */
export interface FieldWords {
  name: (field: string) => string
  value: (field: string, value: string | null) => string
  /** A change with its name and values in words. */
  told: (change: { field: string; before: string | null; after: string | null }) => { field: string; before: string; after: string }
  /** A change: the name, what it was → what it is then. */
  change: (field: string, before: string | null, after: string | null) => string
}

/** Columns whose name in an entry is not what people call them. */
const COLUMN_CALLED: Record<string, string> = { post: 'address', direct: 'direct message', headCount: 'head count' }

/** The words for the columns of records, the fields every team has, and a team's `own`; phone numbers as a `region` writes them. */
export function fieldWordsOf(own: readonly CustomField[], region: string): FieldWords {
  const fields = new Map([...own, ...STANDARD_FIELDS].map((field) => [field.id, field]))
  const name = (field: string): string => {
    const id = customIdOf(field)
    return id === null ? (COLUMN_CALLED[field] ?? field) : (fields.get(id)?.name ?? 'a field of our own')
  }
  const value = (field: string, said: string | null): string => {
    if (said === null || said === '') return 'none'
    // A check writes what was wrong behind the number.
    if (field === 'phone' && /^\+\d+$/.test(said)) return phoneText(said, region)
    const id = customIdOf(field)
    return id === null ? said : fieldText(fields.get(id), said)
  }
  return {
    name,
    value,
    told: ({ field, before, after }) => ({ field: name(field), before: value(field, before), after: value(field, after) }),
    change: (field, before, after) => `${name(field)}: ${value(field, before)} → ${value(field, after)}`,
  }
}
