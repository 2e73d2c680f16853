import type { StaleEmails } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { latestEdition } from '@/db/lists/list-rows'
import { countStale } from '@/db/sources/email-checks'
import { numberSetting } from '@/db/team/settings'
import { askEngine } from '@/engine/client'
import { unpackIds } from '@/engine/packed-ids'
import { now } from '@/runtime/clock'
import { preparedLines } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'

const DAY = 86_400_000

/** Of the people who are on a list now, how many email addresses were not checked within the days a check is good for, or never. */
export async function staleEmails(actor: Actor, id: number): Promise<StaleEmails> {
  const list = await listFor(actor, id)
  if (list.subject !== 'person') throw new Refused('Only people have email addresses to check.', 'not found')
  const { lines } = await latestEdition(id)
  const { packed } = await askEngine('members', await preparedLines(actor, lines))
  const days = await numberSetting('email-check-good-for')
  const people = unpackIds(Buffer.from(packed, 'base64'))
  return { ...(await countStale(db(), people, new Date(now().getTime() - days * DAY))), days }
}
