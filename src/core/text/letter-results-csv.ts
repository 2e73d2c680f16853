import {
  LETTER_PARTS,
  type LetterCounts,
  type LetterPart,
  type LetterResults,
  type LetterStand,
  POSTED_STANDS,
  postedLetters,
  releasedLetters,
} from '../rounds/letter-results'

/** What became of letters, in words. */
export const STAND_TEXT: Record<LetterStand, string> = {
  stopped: 'Stopped meanwhile',
  'not posted': 'Not posted',
  answered: 'Answered',
  'asked us to stop': 'Asked us to stop',
  'nothing heard': 'Nothing heard',
  'came back': 'Came back',
}

export const LETTER_PART_TEXT: Record<LetterPart, string> = {
  to: 'Addressed to',
  country: 'Country',
  premises: 'Premises in a letter',
  posted: 'Day of posting',
}

export const LETTER_RESULTS_HEADING = [
  'Counted by',
  'Part',
  'Released',
  STAND_TEXT.stopped,
  STAND_TEXT['not posted'],
  'Posted',
  ...POSTED_STANDS.map((stand) => STAND_TEXT[stand]),
  'Cost',
]

/** The account of a round's letters as rows of a file: the whole, then by each part. A cost is in whole units of money, with a point. */
export function letterResultsRows({ counts, cost, parts }: LetterResults): string[][] {
  const cells = (of: LetterCounts, minor: number | null): string[] => [
    ...[releasedLetters(of), of.stopped, of['not posted'], postedLetters(of), ...POSTED_STANDS.map((stand) => of[stand])].map(String),
    minor === null ? '' : (minor / 100).toFixed(2),
  ]
  return [
    ['All letters', '', ...cells(counts, cost)],
    ...LETTER_PARTS.flatMap((by) => parts[by].map((own) => [LETTER_PART_TEXT[by], own.key, ...cells(own.counts, own.cost)])),
  ]
}
