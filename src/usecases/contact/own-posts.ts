import { object, string } from 'yup'
import { isDay } from '@/core/calendar/local-day'
import { trimmed } from '@/core/clean/name'
import { deleteOwnPost, insertOwnPost, ownPosts } from '@/db/contact/tie-rows'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'

const schema = object({
  organisation: string().transform(trimmed).max(200, 'A name holds at most 200 characters.').required('Say where you worked.'),
  from: string()
    .required('Say from which day.')
    .test('day', 'Give the day as a date.', (day) => day !== undefined && isDay(day)),
  to: string()
    .nullable()
    .default(null)
    .transform((day) => day || null)
    .test('day', 'Give the day as a date.', (day) => day === null || isDay(day)),
})

/** Where one worked before, as one says oneself. */
export async function myPosts(actor: Actor): Promise<{ id: number; organisation: string; from: string; to: string | null }[]> {
  return (await ownPosts(db(), actor.id)).map(({ id, organisation, from_day, to_day }) => ({
    id,
    organisation,
    from: from_day,
    to: to_day,
  }))
}

/** Adds a post of one's own. Throws Refused where it ends before it begins. */
export async function addPost(actor: Actor, input: unknown): Promise<void> {
  const { organisation, from, to } = schema.validateSync(input, { abortEarly: false })
  if (to !== null && to < from) throw new Refused('The last day lies before the first. Nothing was saved.')
  await insertOwnPost(db(), { user_id: actor.id, organisation, from_day: from, to_day: to })
}

/** Removes a post of one's own. */
export async function removePost(actor: Actor, id: number): Promise<void> {
  if (!Number.isSafeInteger(id) || (await deleteOwnPost(db(), id, actor.id)) === 0) throw new Refused('You have no such post.', 'not found')
}
