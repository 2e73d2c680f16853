import { type CustomValues, customKey } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import type { PersonRow } from '@/core/clean/person-row'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import type { Batch } from '@/core/views/intake-views'
import type { KnownOrganisation } from '@/db/intake/intake-store'
import { organisationKeyOf } from '@/db/key'
import type { NewEntry } from '@/db/ledger'

const ORGANISATION_FIELDS = new Set(standardFieldsOf('organisation').map(({ id }) => String(id)))
/** Of the fields of a row by number, those of the person. */
export const ofPerson = (values: CustomValues): CustomValues =>
  Object.fromEntries(Object.entries(values).filter(([id]) => !ORGANISATION_FIELDS.has(id)))
const ofOrganisation = (values: CustomValues): CustomValues =>
  Object.fromEntries(Object.entries(values).filter(([id]) => ORGANISATION_FIELDS.has(id)))

/** The organisations that the rows of a batch name: those known, those it creates, and what it tells of them. */
export class OrganisationsTold {
  readonly created: Record<string, unknown>[] = []
  readonly changed = new Map<number, KnownOrganisation>()

  constructor(
    private readonly batch: Batch,
    private readonly at: Date,
    private readonly given: { known: KnownOrganisation[]; ids: number[] },
    private readonly entries: NewEntry[],
  ) {}

  byId(id: number | null): KnownOrganisation | undefined {
    return this.given.known.find((o) => o.id === id)
  }

  /** The organisation a row names, made where there is none of the name; of several that in its town. */
  find(row: PersonRow, key: string): KnownOrganisation {
    const named = this.given.known.filter((o) => o.key === key)
    const town = row.postal.town ? fold(row.postal.town) : null
    const org = named.find((o) => town !== null && o.town !== null && fold(o.town) === town) ?? named[0]
    if (!org) return this.create(row, key)
    this.update(org, row)
    return org
  }

  /** What a row tells of an organisation that is known: its industry, head count and fields; its address and county where it had none. Gives what changed. */
  update(org: KnownOrganisation, row: PersonRow): string[] {
    const told: Partial<KnownOrganisation> = {
      ...(row.industry !== null && fold(row.industry) !== fold(org.industry ?? '') ? { industry: row.industry } : {}),
      ...(row.headCount !== null && row.headCount !== org.headCount ? { headCount: row.headCount } : {}),
      ...(row.website !== null && row.website !== org.website ? { website: row.website } : {}),
      ...(row.county !== null && org.county === null ? { county: row.county } : {}),
      ...(!org.street && !org.town && row.postal.street && row.postal.town ? row.postal : {}),
    }
    const tell = (field: string, before: unknown, after: unknown) =>
      this.entries.push({
        organisation: org.id,
        kind: 'change',
        field,
        before: before == null ? null : String(before),
        after: after === null ? null : String(after),
        at: this.at,
        actor: this.batch.actor_id,
        batch: this.batch.id,
      })
    for (const [field, after] of Object.entries(told)) tell(field, org[field as keyof KnownOrganisation], after)
    const details = Object.entries(ofOrganisation(row.custom)).filter(([id, value]) => org.details[id] !== value)
    for (const [id, value] of details) tell(customKey(Number(id)), org.details[id], value)
    if (Object.keys(told).length + details.length > 0)
      this.changed.set(org.id, Object.assign(org, told, { details: { ...org.details, ...Object.fromEntries(details) } }))
    return [...Object.keys(told), ...details.map(([id]) => customKey(Number(id)))]
  }

  private create(row: PersonRow, key: string): KnownOrganisation {
    const org = {
      id: this.given.ids.shift() as number,
      key,
      industry: row.industry,
      headCount: row.headCount,
      website: row.website,
      county: row.county,
      ...row.postal,
      details: ofOrganisation(row.custom),
    }
    this.given.known.push(org)
    this.created.push({
      id: org.id,
      name: row.organisation,
      name_key: key,
      key: organisationKeyOf(key),
      batch_id: this.batch.id,
      created_at: this.at,
    })
    this.changed.set(org.id, org)
    return org
  }
}
