import { number, object, string } from 'yup'
import { openerTrouble } from '@/core/changes/opener'
import { trimmed } from '@/core/clean/name'
import type { KindView } from '@/core/views/change-views'
import { archiveKindRow, kindNamed, kindRows, lockKind, muteKindRow, saveKindRow } from '@/db/changes/kind-rows'
import { kindStands } from '@/db/changes/report-rows'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'

/** The kinds of changes: what each asks, how long it stays useful, its opener, and whether whoever asks hears of it. */
export async function changeKinds(actor: Actor): Promise<KindView[]> {
  return (await kindRows(db(), actor.id)).map((kind) => ({
    id: kind.id,
    own: kind.key === null,
    told: kind.key === null || !FOUND.has(kind.key),
    name: kind.name,
    asks: kind.asks,
    freshDays: kind.fresh_days,
    opener: kind.opener,
    muted: kind.muted,
    changes: kind.changes,
  }))
}

/** Kinds that are read off the ledger and nobody reports by hand. */
const FOUND = new Set(['left', 'role', 'organisation', 'address failed', 'disagree', 'replied', 'complained', 'detail', 'customer'])

const schema = object({
  name: string()
    .transform(trimmed)
    .min(1, 'Give the kind a name.')
    .max(60, 'A name holds at most 60 characters.')
    .required('Give the kind a name.'),
  asks: string()
    .oneOf(['confirm', 'answer', 'reconsider', 'opening'] as const)
    .required('Choose what it asks.'),
  freshDays: number().integer().min(1, 'One day at least.').max(3650, '3,650 days at most.').nullable().default(null),
  opener: string().transform(trimmed).max(400, 'An opener holds at most 400 characters.').nullable().default(null),
})

/** Saves a kind, or makes a new one where there is no number. Throws Refused where its name is taken or its opener cannot be filled in. */
export async function saveKind(actor: Actor, id: number | null, input: unknown): Promise<void> {
  mustCoordinate(actor, 'Setting kinds of changes')
  const { name, asks, freshDays, opener } = schema.validateSync(input, { abortEarly: false })
  const trouble = opener ? openerTrouble(opener) : null
  if (trouble) throw new Refused(trouble)
  await db().transaction(async (trx) => {
    if (id !== null && !(await lockKind(trx, id))) throw new Refused('This kind of change does not exist any more.', 'not found')
    if (await kindNamed(trx, name, id)) throw new Refused(`There is a kind called “${name}” already.`)
    await saveKindRow(trx, id, { name, asks, fresh_days: freshDays, opener: opener || null })
  })
}

/** Takes a kind of the team's own out of use; what was reported of it stays. */
export async function archiveKind(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Setting kinds of changes')
  await db().transaction(async (trx) => {
    const kind = await lockKind(trx, id)
    if (!kind) throw new Refused('This kind of change does not exist any more.', 'not found')
    if (kind.key !== null) throw new Refused(`“${kind.name}” is found by the product itself. Mute it instead.`)
    await archiveKindRow(trx, id, now())
  })
}

/** Whether whoever asks hears of changes of a kind. */
export async function muteKind(actor: Actor, id: number, muted: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    if (!(await kindStands(trx, id))) throw new Refused('This kind of change does not exist any more.', 'not found')
    await muteKindRow(trx, actor.id, id, muted)
  })
}
