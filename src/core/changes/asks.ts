/** What a change asks of us, in the order in which they are shown. */
export const ASKS = ['confirm', 'answer', 'reconsider', 'opening', 'lead'] as const
export type Asks = (typeof ASKS)[number]

export const ASKS_NAME: Record<Asks, string> = {
  confirm: 'Confirm',
  answer: 'Answer',
  reconsider: 'Reconsider',
  opening: 'An opening',
  lead: 'For whoever leads',
}

export const ASKS_ABOUT: Record<Asks, string> = {
  confirm: 'may have left, another role, an address that failed',
  answer: 'asked us something, replied, complained, came to an event',
  reconsider: 'now fits or no longer fits a list',
  opening: 'permit, tender, storm damage, taking people on, wrote in public',
  lead: 'anything about somebody we are in talks with',
}

/** The same after a number: 12 to confirm. */
export const ASKS_SHORT: Record<Asks, string> = {
  confirm: 'to confirm',
  answer: 'to answer',
  reconsider: 'to reconsider',
  opening: 'openings',
  lead: 'for whoever leads',
}
