import { settings } from './settings'

/** A date as screens say it, in the team's zone: 9 Jun, with the year where it is another one. */
export function dayText(at: Date): string {
  const { ARCH_ZONE } = settings()
  return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: ARCH_ZONE }).format(at)
}
