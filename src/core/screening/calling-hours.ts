import { boolean, type InferType, object, string } from 'yup'
import { TZDate } from '@date-fns/tz'
import { CHANNELS } from '../records/channels'
import { type Evidence, markRows, recordRuleParts, type RuleKind, type ScreeningMoment } from './kind'

const PHONE = CHANNELS.indexOf('phone')
const TIME = /^([01]\d|2[0-3]):[0-5]\d$/
const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['calling-hours'] as const)
    .required(),
  off: boolean().default(false),
  /** Clock times where the called person is, as HH:MM: from is inclusive, until is not. */
  from: string().matches(TIME, 'from: a time such as 08:00').required(),
  until: string().matches(TIME, 'until: a time such as 21:00').required(),
}).noUnknown()
export type CallingHoursRule = InferType<typeof schema>

/** Clock times that can be chosen, each half an hour. */
const TIMES = Array.from({ length: 48 }, (_, i) => `${String(i >> 1).padStart(2, '0')}:${i % 2 === 0 ? '00' : '30'}`).map(
  (own) => [own, own] as const,
)

/** What a clock shows in a time zone at an instant, as HH:MM. */
export function clockIn(zone: string, at: number): string {
  const local = new TZDate(at, zone)
  return `${String(local.getHours()).padStart(2, '0')}:${String(local.getMinutes()).padStart(2, '0')}`
}

/**
 * Whether somebody may be called now: by the clocks of every zone they may be in, the strictest. Null where they may. Where no zone
 * is known they may not be called: a legal rule holds back the unknown.
 */
export function outsideHours(
  { from, until }: Pick<CallingHoursRule, 'from' | 'until'>,
  zones: readonly string[],
  asOf: number,
): Evidence | null {
  if (zones.length === 0) return { kind: 'hours', zone: null, clock: null, from, until }
  for (const zone of zones) {
    const clock = clockIn(zone, asOf)
    if (clock < from || clock >= until) return { kind: 'hours', zone, clock, from, until }
  }
  return null
}

/**
 * The hours in which somebody may be called, by the clock where they are. It is asked at the moment of a call and closes nothing when a
 * round is screened, since calls are made later. Source of the usual hours: 47 CFR 64.1200(c)(1), 8 am to 9 pm.
 */
export const callingHours: RuleKind<CallingHoursRule> = {
  name: 'Calling hours',
  about: 'allows calls only in some hours, by the clock where the called person is; asked at the moment of the call',
  schema,
  usual: { off: false, channels: ['phone'], from: '08:00', until: '21:00' },
  form: [
    { key: 'from', label: 'From', is: 'one', of: TIMES },
    { key: 'until', label: 'Until', is: 'one', of: TIMES },
  ],
  optional: true,
  sentence: ({ from, until }) => [
    { text: 'Calls only from' },
    { chip: from, field: 'from' },
    { text: 'to' },
    { chip: until, field: 'until' },
  ],
  note: () => 'by the clock where the called person is; asked at the moment of the call, so it closes nothing here',
  closes: (rule, _record, address, moment: ScreeningMoment) =>
    address.channel === 'phone' && moment.now ? outsideHours(rule, moment.now.zones, moment.asOf) : null,
  mark(rule, columns, listed, { asOf, now }, { ours }) {
    if (!now || outsideHours(rule, now.zones, asOf) === null) return
    listed.forEach((n) => markRows(columns, n, ours, (channel) => channel === PHONE))
  },
}
