import { CHANNEL_NAME, type Way } from '../records/channels'
import {
  CONTACTED,
  contactedIn,
  type Counts,
  type OUTCOMES,
  PARTED_BY,
  type PartedBy,
  releasedIn,
  type RoundResults,
} from '../rounds/results'

/** What became of people, in words. */
export const OUTCOME_TEXT: Record<(typeof OUTCOMES)[number], string> = {
  stopped: 'Stopped meanwhile',
  'not worked': 'Not worked',
  answered: 'Answered',
  reached: 'Reached, no answer',
  'not reached': 'Not reached',
  failed: 'Failed',
}

export const PART_TEXT: Record<PartedBy, string> = {
  line: 'Line that brought them in',
  file: 'File they came with',
  colleague: 'Colleague',
  opener: 'Opener',
  supplement: 'Supplement',
}

/** A way of contact as a heading: “Email”, “Met”. */
export const wayTitle = (way: Way): string => `${CHANNEL_NAME[way][0].toUpperCase()}${CHANNEL_NAME[way].slice(1)}`

export const RESULTS_HEADING = [
  'Counted by',
  'Part',
  'Released',
  ...(['stopped', 'not worked'] as const).map((of) => OUTCOME_TEXT[of]),
  'Contacted',
  ...CONTACTED.map((of) => OUTCOME_TEXT[of]),
  'Contacts made',
  'Cost',
]

/** The account of a round's results as rows of a file: the whole, then by each way and part. A cost is in whole units of money, with a point. */
export function resultsRows({ counts, ways, parts }: RoundResults): string[][] {
  const cells = (of: Counts): string[] =>
    [releasedIn(of), of.stopped, of['not worked'], contactedIn(of), ...CONTACTED.map((own) => of[own])].map(String)
  const money = (minor: number | null) => (minor === null ? '' : (minor / 100).toFixed(2))
  return [
    ['Everybody', '', ...cells(counts), String(ways.reduce((sum, own) => sum + own.contacts, 0)), ''],
    ...ways.map((own) => ['Channel', wayTitle(own.way), ...cells(own.counts), String(own.contacts), money(own.cost)]),
    // A round without supplements has one part of them: itself.
    ...PARTED_BY.filter((by) => by !== 'supplement' || parts.supplement.length > 1).flatMap((by) =>
      parts[by].map((own) => [PART_TEXT[by], own.key, ...cells(own.counts), '', '']),
    ),
  ]
}
