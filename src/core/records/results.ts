import { fold } from '../clean/fold'
import type { Way } from './channels'

/** What can come of a contact, by the way it was made (common practice, no source). Any other words may be written as well. */
export const RESULTS: Record<Way, readonly string[]> = {
  phone: [
    'spoke',
    'no answer',
    'voicemail',
    'meeting set',
    'wrong number',
    'out of service',
    'not interested',
    'has left',
    'asked us to stop',
  ],
  email: ['sent', 'opened', 'replied', 'bounced', 'soft bounced', 'not interested', 'has left', 'asked us to stop'],
  post: ['sent', 'replied', 'returned', 'has left', 'asked us to stop'],
  direct: ['sent', 'replied', 'not interested', 'has left', 'asked us to stop'],
  met: ['spoke', 'meeting set', 'not interested', 'asked us to stop'],
  'public reply': ['replied', 'asked us to stop'],
}

/** The result after which nobody may use that channel again. */
export const STOP = 'asked us to stop'

/** Other words in which files and people say the same (common practice, no source). */
const STOP_WORDS = new Set(
  [
    'asked to stop',
    'stop',
    'unsubscribe',
    'unsubscribed',
    'opt out',
    'opted out',
    'optout',
    'opt-out',
    'do not contact',
    'do not call',
    'do not email',
    'do not mail',
    'remove',
    'removed',
    'remove me',
    'take me off',
    'asked to be removed',
    'dnc',
  ].map(fold),
)

/** What somebody else there said: they are with the organisation no more. It is reported as a change, which a colleague confirms. */
export const LEFT: Result = 'has left'

/** Other words in which files and people say the same (common practice, no source). *Left* alone is not one: it may be a message. */
const LEFT_WORDS = new Set(
  [
    'left the organisation',
    'left the organization',
    'left the company',
    'has left the organisation',
    'has left the company',
    'no longer there',
    'no longer with the organisation',
    'no longer with the company',
    'no longer works there',
    'no longer works here',
  ].map(fold),
)

/** An email that could not be delivered for now, though the address may be good: a full mailbox, a server that is away. */
export const SOFT: Result = 'soft bounced'

/** Other words for how an email bounced (common practice, no source). */
const BOUNCE_WORDS = new Map<string, Result>([
  ...['bounce', 'hard bounce', 'hard bounced'].map((word) => [fold(word), 'bounced'] as const),
  ...['soft bounce', 'temporarily undeliverable'].map((word) => [fold(word), SOFT] as const),
])

/** The status code of a delivery: class 4 is a failure for now, class 5 one for good (RFC 3463, section 2); a reply code may stand before it (RFC 2034). */
const STATUS = /^(?:[45]\d\d[ -])?([45])\.\d{1,3}\.\d{1,3}(?![\d.])/

/** The result a text means, in the one wording we have for it, however it is written; any other text stays as it is. Null where there is none. */
export function resultMeant(text: string | null | undefined): string | null {
  const folded = fold(text ?? '')
  if (folded === '') return text?.trim() || null
  const own = (text as string).trim()
  const status = STATUS.exec(own)?.[1]
  if (status) return status === '4' ? SOFT : 'bounced'
  return (
    ALL_RESULTS.find((result) => fold(result) === folded) ??
    BOUNCE_WORDS.get(folded) ??
    (STOP_WORDS.has(folded) ? STOP : LEFT_WORDS.has(folded) ? LEFT : own)
  )
}

/** Results that show that nothing arrives at an address or number, and those that show that it does. Others tell nothing. */
export const FAILED = ['bounced', 'returned', 'wrong number', 'out of service'] as const
export const ARRIVED = ['spoke', 'voicemail', 'meeting set', 'not interested', 'opened', 'replied', 'asked us to stop'] as const

/** What calls have shown of a phone number: its state by the latest result that tells; null where nothing has. */
export function phoneState(result: string | null): 'reached' | 'wrong' | 'out of service' | 'not tried' {
  if (result === 'wrong number') return 'wrong'
  if (result === 'out of service') return 'out of service'
  return (ARRIVED as readonly (string | null)[]).includes(result) ? 'reached' : 'not tried'
}

/** Results that are a sign of interest, and those that are an answer from them (common practice, no source). */
export const INTEREST = ['opened', 'replied', 'spoke', 'meeting set'] as const
export const ANSWERS = ['replied', 'spoke', 'meeting set', 'not interested', 'asked us to stop'] as const

/** Every result there is a word for, each once. Their places are the codes they have in columns, so the order never changes. */
export const ALL_RESULTS = [
  'spoke',
  'no answer',
  'voicemail',
  'meeting set',
  'wrong number',
  'out of service',
  'not interested',
  'asked us to stop',
  'sent',
  'opened',
  'replied',
  'bounced',
  'returned',
  'soft bounced',
  'has left',
] as const
export type Result = (typeof ALL_RESULTS)[number]

/** The code of any other result, and of none. */
export const OTHER_RESULT = 255

const CODES = new Map<string, number>(ALL_RESULTS.map((result, i) => [result, i]))
/** Returns the code of a result; that of *other* where the result is missing or not known. */
export const resultCode = (result: string | null | undefined): number =>
  result == null ? OTHER_RESULT : (CODES.get(result) ?? OTHER_RESULT)
