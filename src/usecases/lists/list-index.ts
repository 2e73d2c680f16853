import type { Subject } from '@/core/columns/subject'
import type { ListIndexRow } from '@/core/views/list-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { seenBy } from '@/db/lists/list-rows'

/** Every list this person may see, with how many it held when it was saved and its last round. */
export async function listIndex(actor: Actor): Promise<ListIndexRow[]> {
  const { rows } = await db().raw(
    `select l.id, l.name, l.subject, l.labels, l.archived_at is not null as archived, exists (select 1 from list_pin t where t.list_id = l.id and t.user_id = ?) as pinned, l.shared, role_on(l, ?) as role, l.owner_id = ? as mine, u.name as owner,
       (select count(*) from list_proposal p where p.list_id = l.id and p.decision is null)::int as proposals,
       exists (select 1 from list_draft d where d.list_id = l.id and d.user_id = ?) as draft,
       e.number as edition, e.saved_at, e.balance,
       r.id as round_id, r.number as round, r.started_at, r.released_at, r.closed_at
     from list l join lateral (select * from edition where list_id = l.id order by number desc limit 1) e on true
     left join lateral (select * from round where list_id = l.id order by number desc limit 1) r on true
     left join "user" u on u.id = l.owner_id
     where l.deleted_at is null and ${seenBy('l')} order by pinned desc, l.name, l.id`,
    [actor.id, actor.id, actor.id, actor.id, actor.id],
  )
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
  return db()('list as l')
    .whereNull('l.deleted_at')
    .whereNot('l.id', except)
    .whereRaw(`role_on(l, ?) >= 'use'`, [actor.id])
    .orderBy('l.name')
    .select('l.id', 'l.name', 'l.shared', 'l.subject')
    .select(db().raw('(select max(number) from edition where list_id = l.id) as edition'))
    .select(db().raw('coalesce((select max(number) from round where list_id = l.id and released_at is not null), 0) as rounds'))
}
