import { fold } from './fold'
import { cleanDate } from './date'
import { squeeze } from './name'

/** What a field of a team's own can hold. */
export const CUSTOM_KINDS = ['text', 'number', 'date', 'choice', 'yes or no'] as const
export type CustomKind = (typeof CUSTOM_KINDS)[number]

/** A field that a team declared for itself. */
export interface CustomField {
  id: number
  name: string
  kind: CustomKind
  /** Of a choice: what can be chosen. */
  choices: string[]
}

/** Values by the number of their field, as text: a number with a point and no thousands, a date as YYYY-MM-DD, *yes* or *no*. */
export type CustomValues = Record<string, string>

/** How a column, a change or a criterion names such a field. */
export type CustomKey = `custom:${number}`
/** Returns the key of a field of the team's own, as columns and mappings name it. */
export const customKey = (id: number): CustomKey => `custom:${id}`
/** Returns the id in such a key; null where the key is that of another field. */
export const customIdOf = (key: string): number | null => (/^custom:-?\d+$/.test(key) ? Number(key.slice(7)) : null)

const YES = new Set(['yes', 'y', 'true', 't', '1', 'x', 'on', 'ja', 'oui', 'si'])
const NO = new Set(['no', 'n', 'false', 'f', '0', 'off', 'nein', 'non'])

/** A value as it is kept, null where the cell is empty; `undefined` where it cannot be what the field holds. */
export function cleanCustom({ kind, choices }: CustomField, raw: string): string | null | undefined {
  const text = squeeze(raw)
  if (text === '') return null
  switch (kind) {
    case 'text':
      return text
    case 'number':
      return cleanNumber(text)
    case 'date':
      return cleanDate(text)?.date
    case 'choice':
      return choices.find((choice) => fold(choice) === fold(text))
    case 'yes or no': {
      const said = text === '✓' || text === '✔' ? 'x' : fold(text)
      return YES.has(said) ? 'yes' : NO.has(said) ? 'no' : undefined
    }
  }
}

/** A number with its decimals after a point; thousands set apart by commas, blanks or apostrophes are taken together. */
function cleanNumber(text: string): string | undefined {
  const plain = text.replace(/[\s'’,](?=\d{3}(\D|$))/g, '').replace(/^(-?\d+),(\d+)$/, '$1.$2')
  if (!/^-?\d{1,15}(\.\d{1,10})?$/.test(plain)) return undefined
  return String(Number(plain))
}
