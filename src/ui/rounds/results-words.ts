import { PART_TEXT, OUTCOME_TEXT, wayTitle } from '@/core/text/results-csv'
import type { Way } from '@/core/records/channels'
import type { ResultsView } from '@/core/views/result-views'

/** What a figure of a round's results counts, in words. */
export function viewTitle({ of, by, key }: ResultsView): string {
  const what = of === 'released' ? 'Released' : of === 'contacted' ? 'Contacted' : OUTCOME_TEXT[of]
  if (!by || key === undefined) return what
  return `${what}, ${by === 'way' ? wayTitle(key as Way) : `${PART_TEXT[by].toLowerCase()}: ${key}`}`
}
