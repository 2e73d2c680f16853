import { describe, expect, test } from 'vitest'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import { RULES, type RuleName } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { ASOF, blank, columnsOf, DAY } from '../../support/people'

import { moment, NO_WAY, address, ALL, with_, suppression, contact, type Example, EVERY, rule } from './rule-example'
import { ESTABLISHED, OF_LAW } from './examples-of-law'
import { OF_CONTACTS } from './examples-of-contacts'

const lately = rule<'contacted-within'>({ id: 'contacted-within', kind: 'contacted-within', off: false, days: 30, closes: 'every channel' })
const elsewhere = rule<'another-round'>({ id: 'another-round', kind: 'another-round', off: false, closes: 'every channel' })
const ours = rule<'customers'>({ id: 'customers', kind: 'customers', off: false, relations: ['customer', 'our own people'] })
const SOFTLY = rule<'address-failed'>({ id: 'address-failed', kind: 'address-failed', off: false, soft: 3, softDays: 30 })
const register = rule<'register'>({ id: 'register', kind: 'register', version: '2026-06-01', goodFor: 31 })

/** Rules about one record; those about a set have tests of their own. */
type RecordRule = Exclude<RuleName, 'per-organisation' | 'same-address' | 'message-requests' | 'one-channel'>

/** Examples of every kind of rule about one record; a kind that has none does not compile. Today is 15 June 2026. */
const EXAMPLES: Record<RecordRule, Example[]> = {
  ...OF_CONTACTS,
  ...OF_LAW,
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
    ...ESTABLISHED,
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
      who: 'one that bounced longer ago than failures count',
      rule: { id: 'address-failed', kind: 'address-failed', off: false, days: 30 },
      record: { addresses: with_(1, { failedAt: ASOF - 32 * DAY }) },
      closes: [],
    },
    {
      who: 'one that bounced within the days',
      rule: { id: 'address-failed', kind: 'address-failed', off: false, days: 30 },
      record: { addresses: with_(1, { failedAt: ASOF - 29 * DAY }) },
      closes: ['email'],
    },
    {
      who: 'one that bounced for now as often as counts',
      rule: SOFTLY,
      record: { addresses: with_(1, { softAt: [ASOF - 29 * DAY, ASOF - 3 * DAY, ASOF - DAY] }) },
      closes: ['email'],
    },
    {
      who: 'one of whose soft bounces some are too long ago',
      rule: SOFTLY,
      record: { addresses: with_(1, { softAt: [ASOF - 32 * DAY, ASOF - 31 * DAY, ASOF - 3 * DAY, ASOF - DAY] }) },
      closes: [],
    },
    {
      who: 'soft bounces where none count',
      rule: { ...SOFTLY, soft: undefined },
      record: { addresses: with_(1, { softAt: [ASOF - 3 * DAY, ASOF - 2 * DAY, ASOF - DAY] }) },
      closes: [],
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
  customers: [
    {
      who: 'a relation nobody knows, where it is held back',
      rule: { ...ours, unknown: 'is held back' },
      record: { addresses: ALL },
      closes: EVERY,
    },
    {
      who: 'somebody whose organisation only others may approach, where that counts',
      rule: { ...ours, offLimits: 'are held back' },
      record: { addresses: ALL, offLimits: 'the county team' },
      closes: EVERY,
    },
    { who: 'the same, where it is not asked', rule: ours, record: { addresses: ALL, offLimits: 'the county team' }, closes: [] },
    { who: 'a customer', rule: ours, record: { addresses: ALL, relation: 'customer' }, closes: EVERY },
    { who: 'one of us', rule: ours, record: { addresses: ALL, relation: 'our own people' }, closes: EVERY },
    { who: 'a former customer', rule: ours, record: { addresses: ALL, relation: 'former customer' }, closes: [] },
    { who: 'a relation nobody knows', rule: ours, record: { addresses: ALL, relation: null }, closes: [] },
  ],
  'contacted-within': [
    {
      who: 'a colleague contacted yesterday, where that counts',
      rule: { ...lately, counted: 'organisation' },
      record: { addresses: ALL, around: [{ ...contact(1), person: 2, of: 'organisation' }] },
      closes: EVERY,
      alone: true,
    },
    {
      who: 'the same, where only their own count',
      rule: lately,
      record: { addresses: ALL, around: [{ ...contact(1), person: 2, of: 'organisation' }] },
      closes: [],
    },
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
    const at = { ...moment, ...example.moment }
    const { channels } = screenRecord(record, policy, at)
    expect(EVERY.filter((channel) => !channels[channel].open)).toEqual(example.closes)
    expect(RULES[kind as RuleName].schema.validateSync(example.rule, { strict: true })).toEqual(example.rule)
    // What others did is not in the columns of one record.
    if (example.alone) return
    const columns = columnsOf([record])
    const account = screeningAccount(columns.live, policy, columns, at)
    const n = columns.numberFor(record.id) as number
    expect(EVERY.filter((channel) => !account.clear[channel].has(n))).toEqual(example.closes)
  })

  test('what it closed says why, where it closed anything', () => {
    const closing = examples.find(({ closes }) => closes.length > 0) as Example
    const policy = kind === 'no-way-to-reach' ? [NO_WAY] : [NO_WAY, closing.rule]
    const of = screenRecord({ ...blank, ...closing.record }, policy, { ...moment, ...closing.moment }).channels[closing.closes[0]]
    expect(of).toMatchObject({ open: false, rule: policy[policy.length - 1].id, evidence: { kind: expect.any(String) } })
  })
})
