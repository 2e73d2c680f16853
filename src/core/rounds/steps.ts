import { number, object, string } from 'yup'
import { datePlusDays } from '../calendar/local-day'
import { CHANNEL_NAME, CHANNELS, type Channel } from '../records/channels'
import { ANSWERS, type Result } from '../records/results'
import { dateText } from '../text/written'

/** What spares somebody a later step: that they answered, or that they were reached at all. */
export const UNLESS = ['answered', 'reached'] as const
export type Unless = (typeof UNLESS)[number]

/** When a channel is worked: so many days after the release, 1 to 365, and what spares it; null where nothing does. */
export interface Step {
  after: number
  unless: Unless | null
}

/** The later steps of a round by channel. A channel that is not named is worked at once. */
export type Steps = Partial<Record<Channel, Step>>

/** So many days after a release a step may be at most (our own figure, no source). */
export const MOST_DAYS = 365

/** The results of contacts that spare somebody a step (common practice, no source). */
export const SPARED_BY: Record<Unless, readonly Result[]> = {
  answered: ANSWERS,
  reached: [...ANSWERS, 'voicemail', 'opened'],
}

const step = object({
  after: number()
    .typeError('Say how many days after the release each later step is.')
    .integer('Whole days.')
    .min(1, 'A later step is a day after the release at least.')
    .max(MOST_DAYS, `A step is ${MOST_DAYS} days after the release at most.`)
    .required('Say how many days after the release each later step is.'),
  unless: string().oneOf(UNLESS, 'Choose what spares a step.').nullable(),
})
  .noUnknown('A step has a day and what spares it.')
  .default(undefined)

const schema = object(Object.fromEntries(CHANNELS.map((channel) => [channel, step])))
  .noUnknown('A step is by email, phone, post or direct message.')
  .required()

/** Steps as they were sent. Throws a ValidationError where they are none, or where no channel is worked at once. */
export function stepsMeant(raw: unknown): Steps {
  const checked = schema.validateSync(raw, { strict: true, abortEarly: true }) as Steps
  if (CHANNELS.every((channel) => checked[channel])) throw new RangeError('One channel at least is worked at once.')
  return Object.fromEntries(
    CHANNELS.flatMap((channel) => {
      const own = checked[channel]
      return own ? [[channel, { after: own.after, unless: own.unless ?? null }]] : []
    }),
  )
}

/** The channels in the order in which they are worked, each with the number of its step from 1: channels of one day are one step. */
export function inSteps(steps: Steps): { channel: Channel; step: number; after: number; unless: Unless | null }[] {
  const days = [...new Set(CHANNELS.map((channel) => steps[channel]?.after ?? 0))].sort((a, b) => a - b)
  return CHANNELS.map((channel) => {
    const { after = 0, unless = null } = steps[channel] ?? {}
    return { channel, step: days.indexOf(after) + 1, after, unless }
  }).sort((a, b) => a.step - b.step)
}

/** The day from which a channel is worked; both days YYYY-MM-DD. */
export const dueFrom = (released: string, steps: Steps, channel: Channel): string => datePlusDays(released, steps[channel]?.after ?? 0)

/**
 * A later step in words, from the day it is due on where the round is released.
 * @example stepText('phone', { after: 10, unless: 'answered' }) // 'phone 10 days later, unless they answered'
 */
export function stepText(channel: Channel, { after, unless }: Step, released: string | null = null): string {
  const when = released === null ? `${after} ${after === 1 ? 'day' : 'days'} later` : `from ${dateText(datePlusDays(released, after))}`
  return `${CHANNEL_NAME[channel]} ${when}${unless === null ? '' : unless === 'answered' ? ', unless they answered' : ', unless they were reached'}`
}

/** Steps in words; null where everything is done at once. */
export function stepsText(steps: Steps | null, released: string | null = null): string | null {
  const later = inSteps(steps ?? {}).filter(({ after }) => after > 0)
  return later.length === 0 ? null : later.map(({ channel, after, unless }) => stepText(channel, { after, unless }, released)).join('; ')
}
