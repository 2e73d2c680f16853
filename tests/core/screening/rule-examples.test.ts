import { describe, expect, test } from 'vitest'
import type { Address, Contact, PersonRecord } from '@/core/records/person-record'
import type { ScreenedChannel } from '@/core/records/channels'
import type { Suppression } from '@/core/records/suppression'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import { type Rule, RULES, type RuleName } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { ASOF, blank, columnsOf, DAY, MOMENT } from '../../support/people'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [9], letThrough: [] }
const NO_WAY: Rule = { id: 'no-way-to-reach', kind: 'no-way-to-reach' }

const address = (id: number, channel: ScreenedChannel, of: Partial<Address> = {}): Address => ({
  id,
  channel,
  usable: true,
  failedAt: null,
  suppressions: [],
  ...of,
})
/** Somebody with one email, phone and postal address. */
const ALL = [address(1, 'email'), address(2, 'phone'), address(3, 'post')]
const with_ = (id: number, of: Partial<Address>) => ALL.map((a) => (a.id === id ? { ...a, ...of } : a))
const suppression = (reason: Suppression['reason'], of: Partial<Suppression> = {}): Suppression => ({
  id: 1,
  reason,
  channels: ['email', 'phone', 'post', 'direct'],
  since: ASOF - DAY,
  until: null,
  ...of,
})
const contact = (daysAgo: number, of: Partial<Contact> = {}): Contact => ({ at: ASOF - daysAgo * DAY, channel: 'email', by: 'tam', ...of })

interface Example {
  who: string
  rule: Rule
  record: Partial<PersonRecord>
  /** The channels that are closed by the rule; the others stay open. */
  closes: ScreenedChannel[]
}

const EVERY: ScreenedChannel[] = ['email', 'phone', 'post']
const rule = <K extends RuleName>(of: Extract<Rule, { kind: K }>) => of
const lately = rule<'contacted-within'>({ id: 'contacted-within', kind: 'contacted-within', off: false, days: 30, closes: 'every channel' })
const elsewhere = rule<'another-round'>({ id: 'another-round', kind: 'another-round', off: false, closes: 'every channel' })
const ours = rule<'customers'>({ id: 'customers', kind: 'customers', off: false, relations: ['customer', 'our own people'] })
const quality = rule<'address-quality'>({
  id: 'address-quality',
  kind: 'address-quality',
  off: false,
  emails: 'verified or uncertain',
  phones: 'any that is not wrong',
  days: 90,
  unknown: 'stays',
})
const tries = rule<'attempts'>({ id: 'attempts', kind: 'attempts', off: false, most: 4, days: 60, closes: 'every channel' })
const silent = rule<'gone-quiet'>({ id: 'gone-quiet', kind: 'gone-quiet', off: false, most: 6, days: 180, opens: 'do not count' })
const register = rule<'register'>({ id: 'register', kind: 'register', version: '2026-06-01', goodFor: 31 })

/** Examples of every kind of rule; a kind that has none does not compile. Today is 15 June 2026. */
const EXAMPLES: Record<RuleName, Example[]> = {
  'no-way-to-reach': [
    { who: 'nothing to go to', rule: NO_WAY, record: { addresses: [] }, closes: EVERY },
    { who: 'an address that is not usable', rule: NO_WAY, record: { addresses: with_(1, { usable: false }) }, closes: ['email'] },
    { who: 'all there is', rule: NO_WAY, record: { addresses: ALL }, closes: [] },
  ],
  'asked-to-stop': [
    {
      who: 'an opt-out of the person',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('opt-out')] },
      closes: EVERY,
    },
    {
      who: 'a complaint about calls alone',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('complaint', { channels: ['phone'] })] },
      closes: ['phone'],
    },
    {
      who: 'one of the address alone',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: with_(1, { suppressions: [suppression('opt-out')] }) },
      closes: ['email'],
    },
    {
      who: 'one that has ended',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('other', { until: ASOF })] },
      closes: [],
    },
    {
      who: 'one that is still to come',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('opt-out', { since: ASOF + 1 })] },
      closes: [],
    },
    {
      who: 'one of this very instant',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('opt-out', { since: ASOF })] },
      closes: EVERY,
    },
    {
      who: 'a register, which has a rule of its own',
      rule: { id: 'asked-to-stop', kind: 'asked-to-stop' },
      record: { addresses: ALL, suppressions: [suppression('register', { channels: ['phone'] })] },
      closes: [],
    },
  ],
  register: [
    {
      who: 'a number on it',
      rule: register,
      record: { addresses: with_(2, { suppressions: [suppression('register', { channels: ['phone'] })] }) },
      closes: ['phone'],
    },
    { who: 'a number that is not', rule: register, record: { addresses: ALL }, closes: [] },
    {
      who: 'a file that is too old: every number',
      rule: { ...register, version: '2026-05-14' },
      record: { addresses: ALL },
      closes: ['phone'],
    },
    { who: 'a file on its last good day', rule: { ...register, version: '2026-05-15' }, record: { addresses: ALL }, closes: [] },
    { who: 'no register kept', rule: { ...register, version: null }, record: { addresses: ALL }, closes: [] },
  ],
  'address-failed': [
    {
      who: 'one that bounced',
      rule: { id: 'address-failed', kind: 'address-failed', off: false },
      record: { addresses: with_(1, { failedAt: ASOF - DAY }) },
      closes: ['email'],
    },
    {
      who: 'a second one that arrives',
      rule: { id: 'address-failed', kind: 'address-failed', off: false },
      record: { addresses: [address(1, 'email', { failedAt: ASOF - DAY }), address(4, 'email'), ...ALL.slice(1)] },
      closes: [],
    },
    {
      who: 'a rule that is switched off',
      rule: { id: 'address-failed', kind: 'address-failed', off: true },
      record: { addresses: with_(1, { failedAt: ASOF - DAY }) },
      closes: [],
    },
  ],
  'address-quality': [
    {
      who: 'an email that was found bad',
      rule: quality,
      record: { addresses: with_(1, { traits: { shared: false, state: 'bad' }, checkedAt: ASOF - 500 * DAY }) },
      closes: ['email'],
    },
    {
      who: 'an uncertain email, where only verified ones stay',
      rule: { ...quality, emails: 'verified' },
      record: { addresses: with_(1, { traits: { shared: false, state: 'uncertain' }, checkedAt: ASOF - DAY }) },
      closes: ['email'],
    },
    {
      who: 'an uncertain email, where it stays',
      rule: quality,
      record: { addresses: with_(1, { traits: { shared: false, state: 'uncertain' }, checkedAt: ASOF - DAY }) },
      closes: [],
    },
    {
      who: 'a check on its last day that counts',
      rule: { ...quality, unknown: 'is closed' },
      record: { addresses: with_(1, { traits: { shared: false, state: 'verified' }, checkedAt: ASOF - 90 * DAY }) },
      closes: [],
    },
    {
      who: 'a check a day too old, where the unknown are closed',
      rule: { ...quality, unknown: 'is closed' },
      record: { addresses: with_(1, { traits: { shared: false, state: 'verified' }, checkedAt: ASOF - 91 * DAY }) },
      closes: ['email'],
    },
    { who: 'one that was never checked, which stays', rule: quality, record: { addresses: ALL }, closes: [] },
    {
      who: 'a number that was wrong',
      rule: quality,
      record: { addresses: with_(2, { traits: { shared: false, state: 'wrong' } }) },
      closes: ['phone'],
    },
    {
      who: 'numbers nobody was reached at, where only those are left',
      rule: { ...quality, phones: 'reached', unknown: 'is closed', emails: 'any that is not bad', days: undefined },
      record: { addresses: with_(2, { traits: { shared: false, state: 'not tried' } }) },
      closes: ['phone'],
    },
  ],
  attempts: [
    {
      who: 'four calls without an answer, the last today',
      rule: tries,
      record: { addresses: ALL, contacts: [0, 9, 20, 200].map((n) => contact(n, { channel: 'phone', result: 'no answer' })) },
      closes: EVERY,
    },
    {
      who: 'three of them',
      rule: tries,
      record: { addresses: ALL, contacts: [0, 9, 20].map((n) => contact(n, { channel: 'phone', result: 'no answer' })) },
      closes: [],
    },
    {
      who: 'an answer between them',
      rule: tries,
      record: {
        addresses: ALL,
        contacts: [...[0, 1, 20, 30].map((n) => contact(n, { result: 'sent' })), contact(10, { channel: 'met', result: 'spoke' })],
      },
      closes: [],
    },
    {
      who: 'the last of them sixty-one days ago: they have rested',
      rule: tries,
      record: { addresses: ALL, contacts: [61, 70, 80, 90].map((n) => contact(n, { result: 'sent' })) },
      closes: [],
    },
    {
      who: 'only the channels they were made by',
      rule: { ...tries, closes: 'the same channel' },
      record: { addresses: ALL, contacts: [1, 2, 3, 4].map((n) => contact(n, { result: 'sent' })) },
      closes: ['email'],
    },
    { who: 'nobody contacted', rule: tries, record: { addresses: ALL }, closes: [] },
  ],
  'gone-quiet': [
    {
      who: 'six emails over half a year',
      rule: silent,
      record: { addresses: ALL, contacts: [1, 40, 80, 120, 160, 181].map((n) => contact(n, { result: 'sent' })) },
      closes: ['email'],
    },
    {
      who: 'the same over one day less',
      rule: silent,
      record: { addresses: ALL, contacts: [1, 40, 80, 120, 160, 180].map((n) => contact(n, { result: 'sent' })) },
      closes: [],
    },
    {
      who: 'one of them opened, where opens do not count',
      rule: silent,
      record: {
        addresses: ALL,
        contacts: [...[1, 40, 80, 120, 160, 181].map((n) => contact(n, { result: 'sent' })), contact(60, { result: 'opened' })],
      },
      closes: ['email'],
    },
    {
      who: 'one of them opened, where opens count',
      rule: { ...silent, opens: 'count' },
      record: {
        addresses: ALL,
        contacts: [...[1, 40, 80, 120, 160, 181].map((n) => contact(n, { result: 'sent' })), contact(60, { result: 'opened' })],
      },
      closes: [],
    },
    {
      who: 'a talk on the phone since',
      rule: silent,
      record: {
        addresses: ALL,
        contacts: [
          ...[1, 40, 80, 120, 160, 181].map((n) => contact(n, { result: 'sent' })),
          contact(30, { channel: 'phone', result: 'spoke' }),
        ],
      },
      closes: [],
    },
  ],
  customers: [
    {
      who: 'a relation nobody knows, where it is held back',
      rule: { ...ours, unknown: 'is held back' },
      record: { addresses: ALL },
      closes: EVERY,
    },
    { who: 'a customer', rule: ours, record: { addresses: ALL, relation: 'customer' }, closes: EVERY },
    { who: 'one of us', rule: ours, record: { addresses: ALL, relation: 'our own people' }, closes: EVERY },
    { who: 'a former customer', rule: ours, record: { addresses: ALL, relation: 'former customer' }, closes: [] },
    { who: 'a relation nobody knows', rule: ours, record: { addresses: ALL, relation: null }, closes: [] },
  ],
  'contacted-within': [
    { who: 'a contact thirty days ago', rule: lately, record: { addresses: ALL, contacts: [contact(30)] }, closes: EVERY },
    { who: 'a contact thirty-one days ago', rule: lately, record: { addresses: ALL, contacts: [contact(31)] }, closes: [] },
    {
      who: 'the same channel alone',
      rule: { ...lately, closes: 'the same channel' },
      record: { addresses: ALL, contacts: [contact(1, { channel: 'phone' })] },
      closes: ['phone'],
    },
    {
      who: 'a meeting, which does not count',
      rule: lately,
      record: { addresses: ALL, contacts: [contact(1, { channel: 'met' })] },
      closes: [],
    },
    {
      who: 'a meeting, where it counts',
      rule: { ...lately, ways: ['met'] },
      record: { addresses: ALL, contacts: [contact(1, { channel: 'met' })] },
      closes: EVERY,
    },
  ],
  'another-round': [
    {
      who: 'a call another round is to make',
      rule: elsewhere,
      record: { addresses: ALL, toCome: [{ round: 3, channel: 'phone', since: ASOF - DAY }] },
      closes: EVERY,
    },
    {
      who: 'the same channel alone',
      rule: { ...elsewhere, closes: 'the same channel' },
      record: { addresses: ALL, toCome: [{ round: 3, channel: 'phone', since: ASOF - DAY }] },
      closes: ['phone'],
    },
    {
      who: 'the round that this one ends',
      rule: elsewhere,
      record: { addresses: ALL, toCome: [{ round: 9, channel: 'phone', since: ASOF - DAY }] },
      closes: [],
    },
  ],
}

describe.each(Object.entries(EXAMPLES))('%s', (kind, examples) => {
  test.each(examples.map((example): [string, Example] => [example.who, example]))('%s', (_, example) => {
    const record: PersonRecord = { ...blank, ...example.record }
    const policy = kind === 'no-way-to-reach' ? [NO_WAY] : [NO_WAY, example.rule]
    const { channels } = screenRecord(record, policy, moment)
    expect(EVERY.filter((channel) => !channels[channel].open)).toEqual(example.closes)
    const columns = columnsOf([record])
    const account = screeningAccount(columns.live, policy, columns, moment)
    const n = columns.numberFor(record.id) as number
    expect(EVERY.filter((channel) => !account.clear[channel].has(n))).toEqual(example.closes)
    expect(RULES[kind as RuleName].schema.validateSync(example.rule, { strict: true })).toEqual(example.rule)
  })

  test('what it closed says why, where it closed anything', () => {
    const closing = examples.find(({ closes }) => closes.length > 0) as Example
    const policy = kind === 'no-way-to-reach' ? [NO_WAY] : [NO_WAY, closing.rule]
    const of = screenRecord({ ...blank, ...closing.record }, policy, moment).channels[closing.closes[0]]
    expect(of).toMatchObject({ open: false, rule: policy[policy.length - 1].id, evidence: { kind: expect.any(String) } })
  })
})
