import { fold } from './fold'
import { type Way, WAYS } from '../records/channels'

const CHANNEL_WORDS: Record<string, Way> = {
  'e mail': 'email',
  mail: 'email',
  call: 'phone',
  telephone: 'phone',
  tel: 'phone',
  letter: 'post',
  'direct message': 'direct',
  message: 'direct',
  meeting: 'met',
  visit: 'met',
  'in person': 'met',
  reply: 'public reply',
  'public answer': 'public reply',
}

/** The way of contact a cell names, or null where it names none. */
export function cleanWay(raw: string): Way | null {
  const word = fold(raw)
  return WAYS.find((way) => way === word) ?? CHANNEL_WORDS[word] ?? null
}
