import type { Mapping } from '../match/columns'
import { cleanDate } from './date'
import { cleanDirect } from './direct'
import { cleanDomain } from './domain'
import { fold } from './fold'
import { cleanOrganisation } from './organisation'
import { cleanPostal, postalKey, type PostalParts } from './postal'
import { cleanChannel, type Who, whoOf } from './contact-row'
import { badCell, cellsOf, type Refusal, text } from './cells'
import { type Channel, CHANNELS } from '../records/channels'
import { type Reason, REASONS } from '../records/suppression'

export interface SuppressionRow extends Who {
  direct: string | null
  domain: string | null
  postal: PostalParts | null
  organisation: string | null
  channels: Channel[]
  reason: Reason | null
  since: string | null
  until: string | null
  word: string | null
  evidence: string | null
}

const REASON_WORDS: Record<string, Reason> = {
  unsubscribed: 'opt-out',
  unsubscribe: 'opt-out',
  'opted out': 'opt-out',
  'asked us to stop': 'opt-out',
  stop: 'opt-out',
  complained: 'complaint',
  'do not call': 'register',
  'do not call register': 'register',
  dnc: 'register',
  bounced: 'bounce',
  'hard bounce': 'bounce',
  returned: 'returned post',
  'return to sender': 'returned post',
  deceased: 'deceased or moved',
  died: 'deceased or moved',
  moved: 'deceased or moved',
  'moved away': 'deceased or moved',
  'existing customer': 'customer',
  client: 'customer',
  staff: 'our own',
  'our own people': 'our own',
  pause: 'agreed pause',
}

/** Cleans a row of suppressions, or says why it is refused. */
export function suppressionRow(row: string[], mapping: Mapping, region: string): SuppressionRow | Refusal {
  const cells = cellsOf(row, mapping)
  const long = badCell('suppressions', cells)
  if (long) return long
  const who = whoOf(cells, region)
  if ('refused' in who) return who
  const domain = cleanDomain(cells.domain ?? '')
  if (text(cells.domain) && !domain) return { refused: `“${cells.domain.trim()}” is not an email domain` }
  const postal = text(cells.street) ? cleanPostal(cells) : null
  if (postal && !postalKey(postal)) return { refused: 'the postal address has no town or postcode' }
  const organisation = cleanOrganisation(cells.organisation ?? '')
  const direct = cleanDirect(cells.direct ?? '')
  if (direct && !direct.usable) return { refused: `the profile “${direct.value}” cannot be right: ${direct.why}` }
  if (!who.record && !who.outsideId && !who.email && !who.phone && !direct && !domain && !postal && !organisation)
    return { refused: 'it names no email, phone, profile, domain, street, organisation or outside id' }
  const words = (cells.channels ?? '')
    .split(/[;,|+]/)
    .map((word) => word.trim())
    .filter(Boolean)
  const every = words.some((word) => /^(all|any|every.*)$/i.test(word))
  const channels = every ? [...CHANNELS] : words.map(cleanChannel)
  const unknown = channels.indexOf(null)
  if (unknown >= 0) return { refused: `“${words[unknown]}” is not a channel` }
  const reasonWord = fold(cells.reason ?? '')
  const reason = REASONS.find((r) => fold(r) === reasonWord) ?? REASON_WORDS[reasonWord] ?? null
  if (reasonWord !== '' && reason === null) return { refused: `“${cells.reason.trim()}” is not a reason we know` }
  const dates = { since: cleanDate(cells.since ?? ''), until: cleanDate(cells.until ?? '') }
  for (const side of ['since', 'until'] as const)
    if (text(cells[side]) && !dates[side]) return { refused: `${side}: “${cells[side].trim()}” is not a date` }
  if (reason === 'agreed pause' && !dates.until) return { refused: 'an agreed pause needs the day it ends' }
  return {
    ...who,
    direct: direct?.normal ?? null,
    domain,
    postal,
    organisation,
    channels: channels as Channel[],
    reason,
    since: dates.since?.date ?? null,
    until: dates.until?.date ?? null,
    word: text(cells.word),
    evidence: text(cells.evidence)?.slice(0, 400) ?? null,
  }
}
