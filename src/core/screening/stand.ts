/** How a suppression stands at a moment: in force; not yet; over by its own end; lifted by somebody. */
export const STANDS = ['stands', 'to come', 'ended', 'lifted'] as const
export type Stand = (typeof STANDS)[number]

/** How a suppression stands. `since` is inclusive, `until` is not; null means for good. All are UTC milliseconds. */
export function standOf({ since, until, lifted }: { since: number; until: number | null; lifted: boolean }, asOf: number): Stand {
  if (lifted) return 'lifted'
  if (until !== null && until <= asOf) return 'ended'
  return since > asOf ? 'to come' : 'stands'
}
