import type { Subject } from '@/core/records/subject'
import type { ListIndexRow } from '@/core/views/list-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { listIndexRows, usableLists } from '@/db/lists/list-rows'

/** Every list this person may see, with how many it held when it was saved and its last round. */
export async function listIndex(actor: Actor): Promise<ListIndexRow[]> {
  const rows = await listIndexRows(db(), actor.id)
  return rows.map(
    (row: Record<string, never> & { saved_at: Date; started_at: Date; released_at: Date | null; closed_at: Date | null }) => ({
      id: row.id,
      name: row.name,
      subject: row.subject,
      labels: row.labels,
      archived: row.archived,
      pinned: row.pinned,
      shared: row.shared,
      role: row.role,
      proposals: row.proposals,
      draft: row.draft,
      mine: row.mine,
      owner: row.owner,
      edition: row.edition,
      savedAt: row.saved_at.toISOString(),
      balance: row.balance,
      lastRound: row.round_id
        ? {
            id: row.round_id,
            number: row.round,
            state: row.closed_at ? 'closed' : row.released_at ? 'released' : 'being built',
            at: (row.closed_at ?? row.released_at ?? row.started_at).toISOString(),
          }
        : null,
    }),
  )
}

/** Lists that lines of a list may name: every other one this person may use, with how many editions and rounds it has. */
export async function nameableLists(
  actor: Actor,
  except: number,
): Promise<{ id: number; name: string; shared: boolean; subject: Subject; edition: number; rounds: number }[]> {
  return usableLists(db(), except, actor.id)
}
