import { CHANNELS } from '@/core/records/channels'
import { costBy, oneChannelIn, planCost } from '@/core/screening/one-channel'
import type { ListCost } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { newestEdition, policyOf } from '@/db/screening/policies'
import { withRegister } from '@/db/screening/let-through'
import { askEngine } from '@/engine/client'
import { lastReleasedOf } from '@/db/rounds/round-rows'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { allowancesOf } from '@/usecases/rounds/round-basis'
import type { Actor } from '@/usecases/team/actor'
import { preparedLines } from './list-account'
import { listFor } from './open-list'

/**
 * What contacting the people of some lines costs, saved or not: by the plan of the list's policy, after its rules, and by each channel
 * alone for everybody who has a usable address there. Null where the policy sets no costs, and for lists that are not of people.
 */
export async function listCost(actor: Actor, id: number, raw: unknown, signal?: AbortSignal): Promise<ListCost | null> {
  const list = await listFor(actor, id)
  if (list.subject !== 'person') return null
  const { rules: kept } = await newestEdition(db(), (await policyOf(db(), list)).id)
  const plan = oneChannelIn(kept)
  if (!plan || CHANNELS.every((channel) => costBy(plan, channel) === null)) return null
  const rules = await withRegister(kept)
  const { lines, named, moment } = await preparedLines(actor, raw)
  // As its next round would be screened.
  const used = await allowancesOf(db(), { id: 0, list_id: id, supplement: 0 }, rules)
  const answer = await askEngine(
    'screen',
    {
      screen: `${actor.id}:cost-${id}`,
      lines,
      named,
      rules,
      moment: withHolidays({ ...momentNow(list.zone, await lastReleasedOf(id)), ...used, ...moment, zone: list.zone }, rules),
      view: { tab: 'clear' },
      page: { offset: 0, limit: 0 },
    },
    signal,
  )
  const { opening, anyone, clear, rules: told } = answer.figures
  return {
    planned: planCost(kept, clear) ?? 0,
    people: anyone,
    budget: plan.budget ?? null,
    // The first rule is that there is no way to reach somebody.
    all: CHANNELS.flatMap((channel) => {
      const [each, people] = [costBy(plan, channel), opening - told[0].out[channel]]
      return each === null || people === 0 ? [] : [{ channel, people, cost: each * people }]
    }),
  }
}
