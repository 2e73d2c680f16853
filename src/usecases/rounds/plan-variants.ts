import { planVariants } from '@/core/rounds/weeks'
import { costBy, oneChannelIn } from '@/core/screening/one-channel'
import { CHANNELS } from '@/core/records/channels'
import type { PlanVariant } from '@/core/views/round-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { basisOf } from './round-basis'
import { roundFor } from './rounds'
import { askScreening } from './screen-round'

/** What a round that is being built would come to if its plan were changed in one thing, such as one more caller. */
export async function variantsOfPlan(actor: Actor, id: number): Promise<PlanVariant[]> {
  const { round, list } = await roundFor(actor, id)
  if (round.released_at) return []
  const basis = await basisOf(db(), id, list.id)
  const plan = oneChannelIn(basis.rules)
  if (!plan) return []
  const told: PlanVariant[] = []
  for (const { title, rule } of [{ title: '', rule: plan }, ...planVariants(plan)]) {
    const rules = basis.rules.map((own) => (own.id === plan.id ? rule : own))
    const { answer } = await askScreening(list, { ...basis, rules }, { tab: 'clear' }, { offset: 0, limit: 0 })
    const { anyone, clear } = answer.figures
    told.push({
      title,
      people: anyone,
      clear,
      cost: CHANNELS.reduce((sum, channel) => sum + clear[channel] * (costBy(rule, channel) ?? 0), 0),
    })
  }
  return told
}
