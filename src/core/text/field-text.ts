import type { CustomKind } from '../clean/custom'
import type { FieldUnit } from '../clean/standard-fields'
import { countText, dateText, moneyText } from './written'

/** A number as screens write it, with its unit: £1,240, 85 m², 12 %, 1994. */
export function numberText(value: number, unit?: FieldUnit): string {
  if (unit === 'money') return moneyText(value)
  if (unit === 'year') return String(value)
  return unit ? `${countText(value)} ${unit}` : countText(value)
}

/** The value of a field as screens write it. `kind` is undefined for a field that is no longer there, whose value is shown as it is kept. */
export function fieldText(field: { kind: CustomKind; unit?: FieldUnit } | undefined, value: string): string {
  if (field?.kind === 'number' && Number.isFinite(Number(value))) return numberText(Number(value), field.unit)
  return field?.kind === 'date' ? dateText(value) : value
}
