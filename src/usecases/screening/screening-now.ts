import { localDate } from '@/core/calendar/local-day'
import { publicHoliday } from '@/core/calendar/public-holidays'
import type { LetThrough, ScreeningMoment } from '@/core/screening/kind'
import { PRESETS } from '@/core/screening/presets'
import { isOff, type Rule } from '@/core/screening/rules'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'

/** The moment a list or round is asked about: now, in the list's zone. */
export function momentNow(zone = settings().ARCH_ZONE, exceptRounds: number[] = [], letThrough: LetThrough[] = []): ScreeningMoment {
  return { asOf: now().getTime(), zone, exceptRounds, letThrough }
}

/** A moment with the public holidays of its day, where some rules ask about them: of the countries they name, or of all that presets know. */
export function withHolidays<M extends ScreeningMoment>(moment: M, rules: readonly Rule[]): M {
  const asking = rules.filter((rule) => rule.kind === 'quiet-days' && !isOff(rule))
  if (asking.length === 0) return moment
  const all = PRESETS.flatMap(({ countries }) => countries)
  const countries = new Set(asking.flatMap((rule) => ('countries' in rule && rule.countries) || all))
  const day = localDate(moment.asOf, moment.zone)
  const holidays: Record<string, string> = {}
  for (const country of countries) {
    const name = publicHoliday(country, day)
    if (name) holidays[country] = name
  }
  return { ...moment, holidays }
}
