import { businessDaysAfter } from '../calendar/public-holidays'
import { datePlusDays } from '../calendar/local-day'
import { PRESETS } from './presets'

/**
 * The day (YYYY-MM-DD) by which an opt-out of a day must be carried everywhere, and the rule that says so. Where the country is not known,
 * or has no rule here, it is the strictest: at once.
 */
export function carryBy(day: string, country: string | null): { by: string; rule: string } {
  const preset = country === null ? undefined : PRESETS.find(({ countries }) => countries.includes(country))
  if (!preset) return { by: day, rule: 'the country is not known, so at once' }
  const { days, of, source } = preset.optOut
  return { by: of === 'business days' ? businessDaysAfter(country as string, day, days) : datePlusDays(day, days), rule: source }
}
