import { object, string } from 'yup'
import { trimmed } from '@/core/clean/name'
import { UNFIT_REASONS, VERDICTS } from '@/core/checks/patterns'
import { RELATIONS } from '@/core/records/relations'
import { db, type Knex } from '@/db/connection'
import { lockForMove, updateMoved } from '@/db/changes/decide-rows'
import { writeEntries } from '@/db/ledger'
import { type FitCheckRow, insertVerdict, lockFitCheck, sampledRows, takeBackVerdict } from '@/db/rounds/fit-rows'
import { now } from '@/runtime/clock'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import type { Touched } from '@/core/views/fit-views'
import { touchedBy } from './fit-touches'
import { factsOf } from './fit-tally'
import { roundFor } from './rounds'

const schema = object({
  verdict: string().oneOf(VERDICTS).required('Say whether they fit.'),
  reason: string().oneOf(UNFIT_REASONS).nullable().default(null),
  note: string().transform(trimmed).max(400, 'A note holds at most 400 characters.').nullable().default(null),
  /** Of somebody who is known to us already: how they stand to us from now on. */
  relation: string().oneOf(RELATIONS).nullable().default(null),
})

/**
 * Says whether somebody of a sample fits the list, in place of what the same colleague said before. That somebody is known to us already
 * can set how they stand to us, by an entry, which holds for every list; where else they stand is given then. Throws Refused where the check has ended, or where they are not
 * in it or not in the directory any more.
 */
export async function judgeFit(actor: Actor, checkId: number, person: number, raw: unknown): Promise<Touched | null> {
  const { verdict, reason, note, relation } = schema.validateSync(raw, { abortEarly: false })
  if (verdict === 'does not' && reason === null) throw new Refused('Say why they do not belong.')
  if (relation !== null && reason !== 'known to us')
    throw new Refused('Only of somebody who is known to us it can be said how they stand to us.')
  const list = await db().transaction(async (trx) => {
    const check = await openCheck(trx, actor, checkId)
    const at = now()
    await takeBack(trx, actor, check, person, at)
    const was = relation === null ? null : await setRelation(trx, actor, person, relation, at)
    const of = (await sampledRows(trx, check.id)).find((own) => own.person === person)
    if (!of) throw new Refused('They are not in this sample.', 'not found')
    if (!of.live) throw new Refused('They are no longer in the directory, so nothing was kept. Go on with the next.')
    await insertVerdict(trx, {
      check_id: check.id,
      list_id: check.list_id,
      person_id: person,
      by_id: actor.id,
      verdict,
      reason: verdict === 'does not' ? reason : null,
      note: note || null,
      relation_was: was,
      relation_set: relation,
      facts: factsOf(of),
      at,
    })
    return check.list_id
  })
  return verdict === 'does not' && reason === 'known to us' ? touchedBy(actor, list, person) : null
}

/** Takes back what one said oneself of somebody in a check. */
export async function takeBackFit(actor: Actor, checkId: number, person: number): Promise<void> {
  await db().transaction(async (trx) => {
    const check = await openCheck(trx, actor, checkId)
    if (!(await takeBack(trx, actor, check, person, now()))) throw new Refused('You have said nothing of them in this check.')
  })
}

/** A check that is not ended, of a round that is still being built, locked. */
export async function openCheck(trx: Knex, actor: Actor, id: number): Promise<FitCheckRow> {
  const found = await lockFitCheck(trx, id)
  if (!found) throw new Refused('There is no such check.', 'not found')
  await listFor(actor, found.list_id, 'use', trx)
  const { round } = await roundFor(actor, found.round_id, trx)
  if (found.ended_at) throw new Refused('This check has ended. Load the page again to see the newest.')
  if (round.released_at) throw new Refused('This round is released, so its list cannot be checked any more.')
  return found
}

/** Takes back what one said oneself of somebody, with what it set of how they stand to us, unless that was changed since. */
async function takeBack(trx: Knex, actor: Actor, check: FitCheckRow, id: number, at: Date): Promise<boolean> {
  const taken = await takeBackVerdict(trx, check.id, id, actor.id, at)
  if (taken?.relation_set) {
    const person = await lockForMove(trx, id)
    if (person && person.relation === taken.relation_set) await writeRelation(trx, actor, id, person.relation, taken.relation_was, at)
  }
  return taken !== undefined
}

/** Sets how somebody stands to us, by an entry. Gives how they stood before. */
async function setRelation(trx: Knex, actor: Actor, id: number, relation: string, at: Date): Promise<string | null> {
  const person = await lockForMove(trx, id)
  if (!person) throw new Refused('They are no longer in the directory, so nothing was kept. Go on with the next.')
  await writeRelation(trx, actor, id, person.relation, relation, at)
  return person.relation
}

async function writeRelation(trx: Knex, actor: Actor, id: number, before: string | null, after: string | null, at: Date): Promise<void> {
  if (before === after) return
  await updateMoved(trx, id, { relation: after })
  await writeEntries(trx, [{ person: id, kind: 'change', field: 'relation', before, after, at, actor: actor.id }], at)
}
