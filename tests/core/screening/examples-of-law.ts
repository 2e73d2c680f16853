import { FIELD } from '@/core/clean/standard-fields'
import type { RuleName } from '@/core/screening/rules'
import { address, ALL, EVERY, type Example, rule, with_, suppression } from './rule-example'

const basis = rule<'legal-basis'>({
  id: 'legal-basis',
  kind: 'legal-basis',
  off: false,
  accepted: ['consent', 'contract'],
  unknown: 'is held back',
})
const quiet = rule<'quiet-days'>({ id: 'quiet-days', kind: 'quiet-days', off: false, weekends: 'not quiet', asked: 'at the release, too' })
const hours = rule<'calling-hours'>({ id: 'calling-hours', kind: 'calling-hours', off: false, from: '08:00', until: '21:00' })
const age = rule<'register-age'>({ id: 'register-age', kind: 'register-age', off: false, version: '2026-05-18', goodFor: 28 })
const registered = (country: string | null) => with_(2, { country, suppressions: [suppression('register', { channels: ['phone'] })] })
const register = rule<'register'>({ id: 'register', kind: 'register', version: '2026-06-01', goodFor: 31, established: ['US'] })
const at = (iso: string) => Date.parse(iso)

/** Examples of the rules that the law gives, for a record of 15 June 2026 where no other moment is said. */
export const OF_LAW: Record<Extract<RuleName, 'legal-basis' | 'quiet-days' | 'calling-hours' | 'register-age'>, Example[]> = {
  'legal-basis': [
    { who: 'no basis recorded', rule: basis, record: { addresses: ALL }, closes: EVERY },
    { who: 'no basis recorded, where that stays', rule: { ...basis, unknown: 'stays' }, record: { addresses: ALL }, closes: [] },
    { who: 'consent without an end', rule: basis, record: { addresses: ALL, custom: { [FIELD.basis]: 'consent' } }, closes: [] },
    {
      who: 'consent on its last day',
      rule: basis,
      record: { addresses: ALL, custom: { [FIELD.basis]: 'consent', [FIELD.basisUntil]: '2026-06-15' } },
      closes: [],
    },
    {
      who: 'consent the day after',
      rule: basis,
      record: { addresses: ALL, custom: { [FIELD.basis]: 'consent', [FIELD.basisUntil]: '2026-06-14' } },
      closes: EVERY,
    },
    {
      who: 'a basis that is not accepted',
      rule: basis,
      record: { addresses: ALL, custom: { [FIELD.basis]: 'public task' } },
      closes: EVERY,
    },
    {
      who: 'somebody of another country, where it is for one',
      rule: { ...basis, countries: ['DE'] },
      record: { addresses: with_(2, { country: 'GB' }), country: 'United Kingdom' },
      closes: [],
    },
    {
      who: 'a call by the country of the number, all else by that of the person',
      rule: { ...basis, countries: ['DE'] },
      record: { addresses: with_(2, { country: 'GB' }), country: 'Germany' },
      closes: ['email', 'post'],
    },
    {
      who: 'a country nobody knows: the strictest',
      rule: { ...basis, countries: ['DE'] },
      record: { addresses: ALL, country: 'Pellow' },
      closes: EVERY,
    },
  ],
  'quiet-days': [
    {
      who: 'a public holiday where they are',
      rule: { ...quiet, channels: ['phone'] },
      record: { addresses: with_(2, { country: 'GB' }) },
      moment: { holidays: { GB: 'Spring bank holiday' } },
      closes: ['phone'],
    },
    {
      who: 'a public holiday elsewhere',
      rule: { ...quiet, channels: ['phone'] },
      record: { addresses: with_(2, { country: 'US' }) },
      moment: { holidays: { GB: 'Spring bank holiday' } },
      closes: [],
    },
    {
      who: 'a holiday in one of the countries it may be',
      rule: { ...quiet, channels: ['phone'], countries: ['GB', 'US'] },
      record: { addresses: ALL },
      moment: { holidays: { US: 'Juneteenth' } },
      closes: ['phone'],
    },
    {
      who: 'a rule that is asked before each contact only',
      rule: { ...quiet, asked: 'before each contact' },
      record: { addresses: ALL, country: 'GB' },
      moment: { holidays: { GB: 'Spring bank holiday' } },
      closes: [],
    },
    {
      who: 'the same at the moment of the contact',
      rule: { ...quiet, asked: 'before each contact', channels: ['post'] },
      record: { addresses: ALL, country: 'GB' },
      moment: { holidays: { GB: 'Spring bank holiday' }, now: { zones: [] } },
      closes: ['post'],
    },
    {
      who: 'a Sunday, where weekends are quiet',
      rule: { ...quiet, weekends: 'quiet' },
      record: { addresses: ALL },
      moment: { asOf: at('2026-06-14T10:00:00Z') },
      closes: EVERY,
    },
    {
      who: 'a Monday',
      rule: { ...quiet, weekends: 'quiet' },
      record: { addresses: ALL },
      moment: { asOf: at('2026-06-15T10:00:00Z') },
      closes: [],
    },
  ],
  'calling-hours': [
    // 47 CFR 64.1200(c)(1): 8 am to 9 pm, local time at the called party's location.
    {
      who: '09:00 in New York, called there',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-11-27T14:00:00Z'), now: { zones: ['America/New_York'] } },
      closes: [],
    },
    {
      who: '09:00 in New York is 06:00 in Los Angeles: not callable',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-11-27T14:00:00Z'), now: { zones: ['America/Los_Angeles'] } },
      closes: ['phone'],
    },
    {
      who: 'several zones it may be: by the strictest',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-11-27T14:00:00Z'), now: { zones: ['America/New_York', 'America/Chicago', 'America/Los_Angeles'] } },
      closes: ['phone'],
    },
    {
      who: 'a zone nobody knows',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-11-27T14:00:00Z'), now: { zones: [] } },
      closes: ['phone'],
    },
    {
      who: '20:59 is in time',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-06-15T19:59:00Z'), now: { zones: ['Europe/London'] } },
      closes: [],
    },
    {
      who: '21:00 is too late',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-06-15T20:00:00Z'), now: { zones: ['Europe/London'] } },
      closes: ['phone'],
    },
    // The clocks of New York went forward on 8 March 2026 at 2 am: 12:30 UTC was 07:30 the day before and is 08:30 that day.
    {
      who: 'the day before the clocks go forward',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-03-07T12:30:00Z'), now: { zones: ['America/New_York'] } },
      closes: ['phone'],
    },
    {
      who: 'the day they go forward',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-03-08T12:30:00Z'), now: { zones: ['America/New_York'] } },
      closes: [],
    },
    {
      who: 'a screening, which is no call',
      rule: hours,
      record: { addresses: ALL },
      moment: { asOf: at('2026-11-27T02:00:00Z') },
      closes: [],
    },
  ],
  'register-age': [
    { who: 'a file on its last day', rule: age, record: { addresses: ALL }, closes: [] },
    { who: 'a file that is a day too old', rule: { ...age, version: '2026-05-17' }, record: { addresses: ALL }, closes: ['phone'] },
    { who: 'no file at all', rule: { ...age, version: null }, record: { addresses: ALL }, closes: [] },
    {
      who: 'a number of another country',
      rule: { ...age, version: '2026-05-17', countries: ['GB'] },
      record: { addresses: with_(2, { country: 'US' }) },
      closes: [],
    },
  ],
}

/** 16 CFR 310.2(q): eighteen months after a purchase, three months after an inquiry; 15 June 2026 is today. */
export const ESTABLISHED: Example[] = [
  {
    who: 'a number on the register of somebody who bought eighteen months ago',
    rule: register,
    record: { addresses: registered('US'), custom: { [FIELD.lastPurchase]: '2024-12-15' } },
    closes: [],
  },
  {
    who: 'of somebody who bought a day earlier',
    rule: register,
    record: { addresses: registered('US'), custom: { [FIELD.lastPurchase]: '2024-12-14' } },
    closes: ['phone'],
  },
  {
    who: 'of somebody who asked three months ago',
    rule: register,
    record: { addresses: registered('US'), custom: { [FIELD.lastInquiry]: '2026-03-15' } },
    closes: [],
  },
  {
    who: 'of somebody who asked a day earlier',
    rule: register,
    record: { addresses: registered('US'), custom: { [FIELD.lastInquiry]: '2026-03-14' } },
    closes: ['phone'],
  },
  {
    who: 'a purchase that is still to come',
    rule: register,
    record: { addresses: registered('US'), custom: { [FIELD.lastPurchase]: '2026-06-16' } },
    closes: ['phone'],
  },
  {
    who: 'a number of a country where it counts for nothing',
    rule: register,
    record: { addresses: registered('GB'), custom: { [FIELD.lastPurchase]: '2026-06-01' } },
    closes: ['phone'],
  },
  {
    who: 'a number of a country nobody knows',
    rule: register,
    record: { addresses: registered(null), custom: { [FIELD.lastPurchase]: '2026-06-01' } },
    closes: ['phone'],
  },
  {
    who: 'a file that is too old, which does not matter then',
    rule: { ...register, version: '2026-05-01' },
    record: {
      addresses: [address(2, 'phone', { country: 'US' }), address(1, 'email'), address(3, 'post')],
      custom: { [FIELD.lastPurchase]: '2026-06-01' },
    },
    closes: [],
  },
]
