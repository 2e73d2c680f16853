import type { Colleague, TeamPage } from '@/core/views/team-views'
import { db } from '@/db/connection'
import type { Actor } from './actor'
import { colleaguesWithLists, leftRows } from '@/db/team/colleagues'

/** Returns what the team's page shows. Who left is for managers. */
export async function teamPage(actor: Actor): Promise<TeamPage> {
  const manages = actor.post === 'manager'
  const rows = await colleaguesWithLists(db())
  const left = manages ? await leftRows(db()) : []
  return {
    mayChange: manages,
    left: left.map((u) => ({ id: u.id, name: u.name, at: u.left_at.toISOString() })),
    colleagues: rows.map((u: Colleague) => ({ ...u, email: manages || u.id === actor.id ? u.email : null, me: u.id === actor.id })),
  }
}
