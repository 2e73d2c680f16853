import { number, object, string } from 'yup'
import { SPREAD_BY } from '@/core/checks/parts'
import type { CheckPlan } from '@/core/checks/plan'
import { SURENESS } from '@/core/checks/share'
import { db } from '@/db/connection'
import { insertFitCheck, newestFitCheck, updateEnded } from '@/db/rounds/fit-rows'
import { askEngine } from '@/engine/client'
import { now } from '@/runtime/clock'
import { listFor } from '@/usecases/lists/open-list'
import { withLastRounds } from '@/usecases/lists/named-lists'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { basisOf, differing } from './round-basis'
import { roundFor } from './rounds'

/** More than this nobody looks through. */
export const MOST_SAMPLED = 2000

const schema = object({
  kind: string()
    .oneOf(['fixed', 'sequential'] as const)
    .required(),
  wanted: number()
    .min(0.5, 'The wanted share is 50 % at least.')
    .max(0.99, 'The wanted share is 99 % at most.')
    .required('Say which share should fit.'),
  sure: number().oneOf(SURENESS, 'Choose 90, 95 or 99 %.').required(),
  size: number()
    .integer('Whole records.')
    .min(5, 'Look at five at least.')
    .max(MOST_SAMPLED, `Look at ${MOST_SAMPLED} at most.`)
    .required('Say how many.'),
  poor: number().min(0.05).nullable().default(null),
  /** By what else a fixed sample is spread, besides the line that let people in. */
  by: string().oneOf(SPREAD_BY, 'There is no such way to spread a sample.').nullable().default(null),
})

function planOf(raw: unknown): CheckPlan {
  const { kind, wanted, sure, size, poor, by } = schema.validateSync(raw, { abortEarly: false })
  if (kind === 'fixed') return { kind, wanted, sure: sure as CheckPlan['sure'], size, ...(by ? { by } : {}) }
  if (poor === null || poor > wanted - 0.02)
    throw new Refused('Say at which share the list must not pass: two points below the wanted share at least.')
  return { kind, wanted, sure: sure as CheckPlan['sure'], poor, most: size }
}

/**
 * Draws people of a round that is being built, to be looked through by a plan that is fixed from now on. A check that is still open ends
 * with it; what was said of people stays with them.
 */
export async function beginFitCheck(actor: Actor, id: number, raw: unknown): Promise<number> {
  mustCoordinate(actor, 'Drawing a sample')
  const plan = planOf(raw)
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (round.released_at) throw new Refused('This round is released, so its list cannot be checked any more.')
  const basis = await basisOf(db(), id, list.id)
  const moment = withHolidays(
    await withLastRounds({ ...momentNow(list.zone, [], basis.letThrough), ...basis.beside }, [basis.page]),
    basis.rules,
  )
  if (plan.kind === 'fixed' && plan.by === 'rank' && !basis.page.lines.some((line) => line.verb === 'limit' && !line.off))
    throw new Refused('This list has no limit, so nobody has a rank in it. Choose another way to spread the sample.')
  // The seed is kept, so that the sample can be drawn again.
  const seed = now().getTime() ^ id
  const { lines, named } = basis.page
  const drawn = await askEngine('draw', {
    lines,
    named,
    rules: basis.rules,
    moment,
    how: plan.kind === 'fixed' ? 'stratified' : 'plain',
    by: plan.kind === 'fixed' ? (plan.by ?? null) : null,
    size: plan.kind === 'fixed' ? plan.size : plan.most,
    seed,
  })
  if (drawn.behind !== null) throw new Refused('The database is not responding, so no sample was drawn. Try again in a minute.')
  if (drawn.sample.length === 0) throw new Refused('Nobody is clear to contact in this round, so there is nobody to look at.')
  return db().transaction(async (trx) => {
    await listFor(actor, list.id, 'use', trx, true)
    const held = await roundFor(actor, id, trx, true)
    if (held.round.released_at) throw new Refused('This round was released just now. No sample was drawn.')
    const changed = differing(basis, await basisOf(trx, id, list.id))
    if (changed) throw new Refused(`${changed} just now. No sample was drawn. Try again.`)
    const at = now()
    const open = await newestFitCheck(trx, id)
    if (open && !open.ended_at) await updateEnded(trx, open.id, at, actor.id, (await tallyOf(trx, open)).outcome)
    return insertFitCheck(
      trx,
      {
        round_id: id,
        list_id: list.id,
        plan,
        seed,
        edition_id: basis.edition.id,
        basis: basis.whoPrint,
        strata: drawn.strata,
        drawn_at: at,
        drawn_by: actor.id,
      },
      drawn.sample,
    )
  })
}
