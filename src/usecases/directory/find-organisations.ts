import type { OrganisationView } from '@/core/views/record-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { organisationsPage, organisationIdsSaying } from '@/db/directory/organisation-rows'

/** The ids of all organisations found, so many at most. */
export async function organisationIdsFound(_actor: Actor, typed: string, most: number): Promise<number[]> {
  return organisationIdsSaying(typed, most)
}

/** Returns a page of the organisations whose name holds the typed words. */
export async function findOrganisations(
  _actor: Actor,
  typed: string,
  sort: 'name' | 'town' | 'people' = 'name',
  offset = 0,
): Promise<{ total: number; organisations: OrganisationView[] }> {
  const { total, rows } = await organisationsPage(db(), typed, sort, { offset, limit: PAGE })
  return {
    total,
    organisations: rows.map((o) => ({
      id: o.id,
      name: o.name,
      industry: o.industry,
      town: o.town,
      people: o.people,
      lastAt: o.last_at?.toISOString() ?? null,
    })),
  }
}
