import { customIdOf } from '@/core/clean/custom'
import type { PostalParts } from '@/core/clean/postal'
import { fold } from '@/core/clean/fold'
import { lockChange, writeAct } from '@/db/changes/act-rows'
import {
  decisionUndone,
  entriesOf,
  lockDecision,
  lockForMove,
  type Moved,
  organisationCalled,
  reportedChange,
  updateMoved,
} from '@/db/changes/decide-rows'
import { db, type Knex } from '@/db/connection'
import { postalText, postOf, writePost } from '@/db/directory/postal-rows'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { holdLifts, liftedAmong } from '@/db/screening/liftings'
import { postalOfText } from '@/usecases/directory/postal-address'
import { liftMany } from '@/usecases/screening/lift-suppressions'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'

/**
 * Takes back that a change was confirmed: the record says again what it said before, each field by an entry, what was closed is open
 * again, and the change is unhandled. Throws Refused, and takes nothing back, where a field was changed since.
 */
export async function undoDecision(actor: Actor, id: number): Promise<void> {
  await db().transaction(async (trx) => {
    await holdLifts(trx)
    const at = await passGate(trx)
    const change = await lockChange(trx, id)
    const decision = await lockDecision(trx, id)
    const reported = await reportedChange(trx, id)
    if (!change || !decision || reported?.person_id == null) throw new Refused('There is nothing to take back.', 'not found')
    if (decision.actor_id !== actor.id && !mayCoordinate(actor))
      throw new Refused('A colleague confirmed this. They, or a coordinator, can take it back.', 'not allowed')
    const person = await lockForMove(trx, reported.person_id)
    if (!person) throw new Refused('This person is no longer in the directory.', 'not found')
    const entries = await entriesOf(trx, decision.entries)
    const old = entries.find(({ field }) => field === 'organisation')?.before ?? null
    const known = old === null ? [] : [await organisationCalled(trx, old, at)]
    for (const entry of entries) await putBack(trx, person, entry, known, at)
    await writeEntries(
      trx,
      entries.map((entry) => ({
        person: person.id,
        kind: 'change' as const,
        field: entry.field,
        before: entry.after,
        after: entry.before,
        at,
        actor: actor.id,
        reverses: entry.id,
      })),
      at,
    )
    const standing: number[] = []
    for (const suppression of decision.suppressions) if (!(await liftedAmong(trx, [suppression]))) standing.push(suppression)
    if (standing.length > 0) await liftMany(trx, actor, standing, { word: `taken back by ${actor.name}: they have not left` })
    await decisionUndone(trx, decision.id, at)
    await writeAct(trx, id, 'reopen', 'open', actor.id, at)
  })
}

async function putBack(
  trx: Knex,
  person: Moved,
  { field, before, after }: { field: string; before: string | null; after: string | null },
  known: PostalParts[],
  at: Date,
): Promise<void> {
  const now = await valueNow(trx, person, field)
  if (fold(now ?? '') !== fold(after ?? ''))
    throw new Refused(`The ${field} was changed since. Nothing was taken back; mend it on the record.`)
  const custom = customIdOf(field)
  if (field === 'organisation')
    await updateMoved(trx, person.id, { organisation_id: before === null ? null : (await organisationCalled(trx, before, at)).id })
  else if (field === 'post') await writePost(trx, person.id, before === null ? null : postalOfText(before, known))
  else if (custom !== null) {
    const { [custom]: _, ...others } = person.custom
    await updateMoved(trx, person.id, { custom: JSON.stringify(before === null ? others : { ...others, [custom]: before }) })
  } else await updateMoved(trx, person.id, { [field]: before })
}

async function valueNow(trx: Knex, person: Moved, field: string): Promise<string | null> {
  const custom = customIdOf(field)
  if (custom !== null) return person.custom[custom] ?? null
  if (field === 'organisation') return person.organisation?.name ?? null
  if (field === 'post') {
    const post = await postOf(trx, person.id)
    return post && postalText(post)
  }
  return person[field as 'role' | 'relation' | 'county']
}
