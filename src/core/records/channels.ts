/** The four ways to reach somebody, in the order they are shown everywhere. */
export const CHANNELS = ['email', 'phone', 'post', 'direct'] as const

export type Channel = (typeof CHANNELS)[number]

/** The ways a contact can be made: by one of the channels, by meeting, or by answering in public. */
export const WAYS = [...CHANNELS, 'met', 'public reply'] as const

export type Way = (typeof WAYS)[number]

export const CHANNEL_NAME: Record<Way, string> = {
  email: 'email',
  phone: 'phone',
  post: 'post',
  direct: 'direct message',
  met: 'met',
  'public reply': 'public reply',
}

/** The same at the head of a column or on a button. */
export const CHANNEL_TITLE: Record<Channel, string> = { email: 'Email', phone: 'Phone', post: 'Post', direct: 'Direct message' }

/** The channels something has figures of: a round released before direct messages were screened has three. */
export const channelsOf = (of: Partial<Record<Channel, unknown>>): Channel[] => CHANNELS.filter((channel) => of[channel] !== undefined)

/** What is wanted for a channel, in words. */
export const ADDRESS_NAME: Record<Channel, string> = {
  email: 'email address',
  phone: 'phone number',
  post: 'postal address',
  direct: 'profile link or handle',
}

/** Which contacts count, in words: the four channels where nothing else was chosen. */
export function waysText(ways: readonly Way[] = CHANNELS): string {
  if (ways.length === WAYS.length) return 'any channel, met and public replies too'
  if (ways.length === CHANNELS.length && CHANNELS.every((c) => ways.includes(c))) return 'any channel'
  return WAYS.filter((way) => ways.includes(way))
    .map((way) => CHANNEL_NAME[way])
    .join(' or ')
}
