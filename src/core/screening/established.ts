import { addMonths, formatISO, parseISO } from 'date-fns'
import { isDay } from '../calendar/local-day'
import { FIELD } from '../clean/standard-fields'
import type { CustomValues } from '../clean/custom'

/** How long after a purchase and an inquiry somebody may be called although their number is on the register. Source: 16 CFR 310.2(q). */
export const MONTHS = { purchase: 18, inquiry: 3 } as const

const monthsOn = (day: string, months: number): string => formatISO(addMonths(parseISO(day), months), { representation: 'date' })

/**
 * Until which day (YYYY-MM-DD, inclusive) a relationship is established by the last purchase and the last inquiry, and by which of them;
 * null where neither is known. A day that a month does not have is the last of that month.
 */
export function establishedUntil(
  purchase: string | null | undefined,
  inquiry: string | null | undefined,
): { until: string; by: 'purchase' | 'inquiry'; on: string } | null {
  const of = (by: 'purchase' | 'inquiry', on: string | null | undefined) =>
    on && isDay(on) ? [{ until: monthsOn(on, MONTHS[by]), by, on }] : []
  const all = [...of('purchase', purchase), ...of('inquiry', inquiry)]
  return all.sort((a, b) => (a.until < b.until ? 1 : -1))[0] ?? null
}

/** Whether it is established on a day: a purchase or an inquiry that is still to come establishes nothing. */
export function isEstablished(custom: CustomValues, today: string): boolean {
  const known = (field: number) => (custom[field] && custom[field] <= today ? custom[field] : null)
  const found = establishedUntil(known(FIELD.lastPurchase), known(FIELD.lastInquiry))
  return found !== null && today <= found.until
}
