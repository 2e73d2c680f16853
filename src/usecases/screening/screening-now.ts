import type { LetThrough, ScreeningMoment } from '@/core/screening/kind'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'

/** The moment a list or round is asked about: now, in the list's zone. */
export function momentNow(zone = settings().ARCH_ZONE, exceptRounds: number[] = [], letThrough: LetThrough[] = []): ScreeningMoment {
  return { asOf: now().getTime(), zone, exceptRounds, letThrough }
}
