import { array, number, object, string } from 'yup'
import { openerTrouble } from '@/core/changes/opener'
import { trimmed } from '@/core/clean/name'
import { kindRows } from '@/db/changes/kind-rows'
import { db } from '@/db/connection'
import { writeOpenerWishes } from '@/db/rounds/opener-rows'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'

const schema = array(
  object({
    kind: number().integer().positive().required('Choose the kind of change.'),
    own: string().transform(trimmed).max(400, 'An opener holds at most 400 characters.').nullable().default(null),
  }),
)
  .max(200)
  .required()

/**
 * Says which kinds of changes give the people of a list an opener, each with the list's own sentence or the kind's. Throws Refused where
 * a kind has no sentence at all, or one cannot be filled in.
 */
export async function setOpeners(actor: Actor, id: number, raw: unknown): Promise<void> {
  const wishes = schema.validateSync(raw, { abortEarly: false }).map(({ kind, own }) => ({ kind, own: own || null }))
  if (new Set(wishes.map(({ kind }) => kind)).size < wishes.length)
    throw new Refused('A kind of change was chosen twice. Nothing was saved.')
  await db().transaction(async (trx) => {
    const list = await listFor(actor, id, 'edit', trx, true)
    if (list.subject !== 'person') throw new Refused('Only people get openers. This list is not one of people.')
    const kinds = new Map((await kindRows(trx, actor.id)).map((kind) => [kind.id, kind]))
    for (const { kind, own } of wishes) {
      const known = kinds.get(kind)
      if (!known) throw new Refused('A kind of change that was chosen does not exist any more. Nothing was saved.', 'not found')
      if (own === null && known.opener === null)
        throw new Refused(`“${known.name}” has no first sentence. Write one, or leave the kind out. Nothing was saved.`)
      const trouble = own === null ? null : openerTrouble(own)
      if (trouble) throw new Refused(`“${known.name}”: ${trouble} Nothing was saved.`)
    }
    await writeOpenerWishes(trx, list.id, wishes)
  })
}
