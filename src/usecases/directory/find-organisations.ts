import type { OrganisationView } from '@/core/views/record-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { organisationsSaying } from '@/db/directory/organisation-rows'

/** The ids of all organisations found, so many at most. */
export async function organisationIdsFound(_actor: Actor, typed: string, most: number): Promise<number[]> {
  return (await organisationsSaying(typed).orderBy('o.id').limit(most).select('o.id')).map((row) => row.id)
}

export async function findOrganisations(
  _actor: Actor,
  typed: string,
  sort: 'name' | 'town' | 'people' = 'name',
  offset = 0,
): Promise<{ total: number; organisations: OrganisationView[] }> {
  const query = organisationsSaying(typed)
  const [{ total }] = await query.clone().select(db().raw('count(*)::int as total'))
  const order =
    { name: 'o.name_key, o.id', town: 'o.town nulls last, o.name_key', people: 'people desc, o.name_key' }[sort] ?? 'o.name_key, o.id'
  const rows = await query
    .select('o.id', 'o.name', 'o.industry', 'o.town')
    .select(db().raw(`(select count(*) from person p where p.organisation_id = o.id and p.state = 'live')::int as people`))
    .select(db().raw(`(select max(f.last_at) from facts f join person p on p.id = f.person_id where p.organisation_id = o.id) as last_at`))
    .orderByRaw(order)
    .offset(offset)
    .limit(PAGE)
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
