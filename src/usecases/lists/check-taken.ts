import type { Line } from '@/core/lists/line'
import { listsNamed, picksIn, roundsNamed } from '@/core/lists/named'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { checkSets } from './line-parts'
import { listFor } from './open-list'
import { latestEdition } from '@/db/lists/list-rows'

/** Refuses to take away, in a file or as picks, what lines bring of lists, or of their picked records, that this person may look at alone. */
export async function checkTaken(actor: Actor, list: number, lines: readonly Line[]): Promise<void> {
  const standing = (await latestEdition(list)).lines
  const known = new Set([
    ...listsNamed(standing).map((c) => c.list.id),
    ...roundsNamed(standing).map((l) => l.id),
    ...picksIn(standing).map((line) => -line.set.id),
  ])
  for (const { id } of [...listsNamed(lines).map((c) => c.list), ...roundsNamed(lines)]) if (!known.has(id)) await listFor(actor, id, 'use')
  await checkSets(
    actor,
    lines.filter((line) => line.verb !== 'pick' || !known.has(-line.set.id)),
    db(),
    'use',
  )
}
