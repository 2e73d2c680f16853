import type { OrganisationPage } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { fieldsOf } from './field-values'
import { peoplePage } from './people-page'
import { ledgerOf } from './ledger-of'
import { branchesOf, countPeople, firstPeople, organisationRow } from '@/db/directory/organisation-rows'

/** So many of the people of an organisation are shown on its page. */
const MOST_SHOWN = 500

/** Returns what the page of an organisation shows. */
export async function openOrganisation(actor: Actor, id: number): Promise<OrganisationPage> {
  const o = Number.isSafeInteger(id) ? await organisationRow(db(), id) : undefined
  if (!o) throw new Refused('There is no such organisation in the directory.', 'not found')
  const ids = (await firstPeople(db(), id, MOST_SHOWN)).map((p) => p.id)
  const staff = (await peoplePage(ids)).map(({ view }) => view)
  const lastAt = staff.map((p) => p.last?.at ?? '').reduce((a, b) => (b > a ? b : a), '')
  const [{ all }] = await countPeople(db(), id)
  return {
    id,
    name: o.name,
    industry: o.industry,
    town: o.town,
    people: all,
    lastAt: lastAt || null,
    postal: [o.street, o.town, o.postcode].filter(Boolean).join(', ') || null,
    county: o.county,
    headCount: o.head_count,
    website: o.website,
    fields: await fieldsOf(o.details),
    staff,
    branches: (await branchesOf(db(), id)).map(({ id: branch, name }) => ({ id: branch, name })),
    ledger: await ledgerOf(actor, 'organisation_id', [id]),
  }
}
