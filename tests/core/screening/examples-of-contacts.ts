import { ASOF, DAY } from '../../support/people'

import { ALL, with_, contact, EVERY, rule, type Example } from './rule-example'

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

/** Examples of the rules that go by what checks and contacts have shown. */
export const OF_CONTACTS: Record<'address-quality' | 'attempts' | 'gone-quiet', Example[]> = {
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
      who: 'the same once they rested, where they may be asked a last time',
      rule: { ...silent, again: 90 },
      record: { addresses: ALL, contacts: [90, 130, 170, 210, 250, 271].map((n) => contact(n, { result: 'sent' })) },
      closes: [],
    },
    {
      who: 'the same a day before that',
      rule: { ...silent, again: 90 },
      record: { addresses: ALL, contacts: [89, 130, 170, 210, 250, 271].map((n) => contact(n, { result: 'sent' })) },
      closes: ['email'],
    },
    {
      who: 'the same who were asked a last time, however long ago',
      rule: { ...silent, again: 90 },
      record: { addresses: ALL, contacts: [400, 490, 530, 570, 610, 650, 671].map((n) => contact(n, { result: 'sent' })) },
      closes: ['email'],
    },
    {
      who: 'a long pause before they had gone quiet, which is no last time',
      rule: { ...silent, again: 90 },
      record: { addresses: ALL, contacts: [90, 130, 170, 210, 250, 400].map((n) => contact(n, { result: 'sent' })) },
      closes: [],
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
}
