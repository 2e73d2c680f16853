import type { Channel } from '../columns/person-record'

/** What can come of a contact, by channel (common practice, no source). Any other words may be written as well. */
export const RESULTS: Record<Channel, readonly string[]> = {
  phone: ['spoke', 'no answer', 'voicemail', 'meeting set', 'wrong number', 'not interested', 'asked us to stop'],
  email: ['sent', 'opened', 'replied', 'bounced', 'not interested', 'asked us to stop'],
  post: ['sent', 'replied', 'returned', 'asked us to stop'],
  direct: ['sent', 'replied', 'not interested', 'asked us to stop'],
}

/** The result after which nobody may use that channel again. */
export const STOP = 'asked us to stop'
