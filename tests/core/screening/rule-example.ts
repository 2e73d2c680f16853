import type { Address, Contact, PersonRecord } from '@/core/records/person-record'
import type { Channel } from '@/core/records/channels'
import type { Suppression } from '@/core/records/suppression'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Rule, RuleName } from '@/core/screening/rules'
import { ASOF, DAY, MOMENT } from '../../support/people'

export const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [9], letThrough: [] }
export const NO_WAY: Rule = { id: 'no-way-to-reach', kind: 'no-way-to-reach' }

export const address = (id: number, channel: Channel, of: Partial<Address> = {}): Address => ({
  id,
  channel,
  usable: true,
  failedAt: null,
  suppressions: [],
  ...of,
})
/** Somebody with one email, phone and postal address. */
export const ALL = [address(1, 'email'), address(2, 'phone'), address(3, 'post')]
export const with_ = (id: number, of: Partial<Address>) => ALL.map((a) => (a.id === id ? { ...a, ...of } : a))
export const suppression = (reason: Suppression['reason'], of: Partial<Suppression> = {}): Suppression => ({
  id: 1,
  reason,
  channels: ['email', 'phone', 'post', 'direct'],
  since: ASOF - DAY,
  until: null,
  ...of,
})
export const contact = (daysAgo: number, of: Partial<Contact> = {}): Contact => ({
  at: ASOF - daysAgo * DAY,
  channel: 'email',
  by: 'tam',
  ...of,
})

export interface Example {
  who: string
  rule: Rule
  record: Partial<PersonRecord>
  /** What of the moment is other than usual. */
  moment?: Partial<ScreeningMoment>
  /** Whether it can be told of the one record alone. */
  alone?: true
  /** The channels that are closed by the rule; the others stay open. */
  closes: Channel[]
}

export const EVERY: Channel[] = ['email', 'phone', 'post']
export const rule = <K extends RuleName>(of: Extract<Rule, { kind: K }>) => of
