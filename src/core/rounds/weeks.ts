import { CHANNELS, type Channel } from '../records/channels'
import { aWeekBy, byWeeks, costBy, type OneChannelRule } from '../screening/one-channel'

/** One week of a plan: how many contacts by each channel, and what they cost in minor units; null where no cost is set. */
export interface PlannedWeek {
  /** From 1. */
  week: number
  by: Record<Channel, number>
  cost: number | null
}

/** In which week of a plan a contact is made: the first ones first, so many a week; from 1. `place` counts from 0; null is no limit. */
export const weekOf = (place: number, aWeek: number | null): number => (aWeek === null || aWeek === 0 ? 1 : Math.floor(place / aWeek) + 1)

/** How many contacts of some fall into each week, as early as can be: so many a week, until none is left. */
export function spread(contacts: number, aWeek: number | null): number[] {
  if (contacts === 0) return []
  if (aWeek === null || aWeek === 0) return [contacts]
  const weeks = Math.ceil(contacts / aWeek)
  return Array.from({ length: weeks }, (_, i) => Math.min(aWeek, contacts - i * aWeek))
}

/** The contacts of a round by week, as its plan has them; none where it has no weeks. */
export function plannedWeeks(rule: OneChannelRule, contacts: Readonly<Record<Channel, number>>): PlannedWeek[] {
  if (!byWeeks(rule)) return []
  const by = Object.fromEntries(CHANNELS.map((channel) => [channel, spread(contacts[channel], aWeekBy(rule, channel))])) as Record<
    Channel,
    number[]
  >
  const weeks = Math.max(0, ...CHANNELS.map((channel) => by[channel].length))
  const priced = CHANNELS.some((channel) => costBy(rule, channel) !== null)
  return Array.from({ length: weeks }, (_, i) => {
    const own = Object.fromEntries(CHANNELS.map((channel) => [channel, by[channel][i] ?? 0])) as Record<Channel, number>
    const cost = CHANNELS.reduce((sum, channel) => sum + own[channel] * (costBy(rule, channel) ?? 0), 0)
    return { week: i + 1, by: own, cost: priced ? cost : null }
  })
}

/** What a plan could be changed in, one thing at a time, with what it is called. */
export function planVariants(rule: OneChannelRule): { title: string; rule: OneChannelRule }[] {
  const { callers, callsEach, weeks = 1, budget, weekPost, wanted } = rule
  const tenth = (of: number) => Math.max(1, Math.round(of / 10))
  return [
    ...(callers === undefined || callsEach === undefined ? [] : [{ title: 'One more caller', rule: { ...rule, callers: callers + 1 } }]),
    ...(callers === undefined || callsEach === undefined || callers === 0
      ? []
      : [{ title: 'One caller fewer', rule: { ...rule, callers: callers - 1 } }]),
    ...(byWeeks(rule) && weeks < 52 ? [{ title: 'One more week', rule: { ...rule, weeks: weeks + 1 } }] : []),
    ...(weekPost === undefined ? [] : [{ title: 'A tenth more letters a week', rule: { ...rule, weekPost: weekPost + tenth(weekPost) } }]),
    ...(budget === undefined
      ? []
      : [
          { title: 'A tenth more budget', rule: { ...rule, budget: budget + tenth(budget) } },
          { title: 'A tenth less budget', rule: { ...rule, budget: Math.max(0, budget - tenth(budget)) } },
        ]),
    ...(wanted === undefined ? [] : [{ title: 'As many people as can be', rule: withoutWanted(rule) }]),
  ]
}

function withoutWanted({ wanted: _, ...rule }: OneChannelRule): OneChannelRule {
  return rule
}
