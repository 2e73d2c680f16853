import { array, number, object, string } from 'yup'
import { kindRows } from '@/db/changes/kind-rows'
import { db } from '@/db/connection'
import { writePlacement } from '@/db/lists/placement-rows'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'

const schema = object({
  how: string()
    .oneOf(['proposal', 'edition'] as const)
    .required(),
  kinds: array(number().integer().positive().required()).max(200).required(),
})

/**
 * Says which kinds of changes put their record on a list from now on: as a proposal to its owner, or as an edition in this person's name.
 * With no kinds, none does any more.
 */
export async function setPlacement(actor: Actor, id: number, raw: unknown): Promise<void> {
  const { how, kinds } = schema.validateSync(raw, { abortEarly: false })
  await db().transaction(async (trx) => {
    await listFor(actor, id, 'edit', trx, true)
    const known = new Set((await kindRows(trx, actor.id)).map((kind) => kind.id))
    if (kinds.some((kind) => !known.has(kind)))
      throw new Refused('A kind of change that was chosen does not exist any more. Nothing was saved.', 'not found')
    await writePlacement(trx, id, actor.id, { how, kinds: [...new Set(kinds)] })
  })
}
