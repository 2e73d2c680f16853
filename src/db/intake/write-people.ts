import type { Knex } from 'knex'
import { fold } from '@/core/clean/fold'
import { nameKey } from '@/core/clean/name'
import { comparablePostal, type PostalParts } from '@/core/clean/postal'
import { type HandedType, insertRows, updateRows } from '@/db/insert-rows'
import { type NewEntry, writeEntries } from '@/db/ledger'
import type { Channel } from '@/core/records/channels'
import type { KnownOrganisation, KnownPerson } from './intake-store'

export interface NewAddress {
  person_id: number
  channel: Channel
  raw: string
  value: string
  parts: PostalParts | null
  /** Of a phone: the country of the number, where it can be told. */
  country: string | null
  key: Buffer
  domain_key: Buffer | null
  post_key: Buffer | null
  post_key_3: Buffer | null
  usable: boolean
  why_unusable: string | null
  position: number
  batch_id: number
}

export interface NewVariant {
  person_id: number
  name_key: string
  name: string
  batch_id: number
  at: Date
}

interface ToWrite {
  /** Rows of new people, by their id. */
  people: Map<number, Record<string, unknown>>
  /** People who were changed, the new ones among them. */
  touched: Map<number, KnownPerson>
  organisations: { created: Record<string, unknown>[]; changed: Map<number, KnownOrganisation> }
  addresses: NewAddress[]
  /** People whose postal address is replaced. */
  movedOut: number[]
  variants: NewVariant[]
  entries: NewEntry[]
  at: Date
}

/** Returns the columns of a person as they are stored, with the keys for comparing and sorting. */
export function personColumns(p: KnownPerson) {
  const name = `${p.given} ${p.familyName}`.trim()
  return {
    given: p.given,
    family: p.familyName,
    name,
    name_key: nameKey(p.given, p.familyName) ?? '',
    sort_key: `${fold(p.familyName)} ${fold(p.given)}`.trim(),
    role: p.role,
    organisation_id: p.organisationId,
    relation: p.relation,
    street: p.street,
    town: p.town,
    postcode: p.postcode,
    county: p.county,
    address_key: p.address,
    outside_id: p.outsideId,
    tags: p.tags,
    custom: p.custom,
  }
}

/** Writes the people and organisations of some rows, with their addresses and entries. */
export async function writePeople(
  trx: Knex,
  { people, touched, organisations, addresses: told, movedOut, variants, entries, at }: ToWrite,
): Promise<void> {
  const columnsOf = ({ industry, headCount, website, county, street, town, postcode, details }: KnownOrganisation) => ({
    industry,
    head_count: headCount,
    website,
    county,
    street,
    town,
    postcode,
    details,
    address_key: comparablePostal({ street, town, postcode }),
  })
  for (const row of organisations.created) {
    Object.assign(row, columnsOf(organisations.changed.get(row.id as number) as KnownOrganisation))
    organisations.changed.delete(row.id as number)
  }
  await insertRows(trx, 'organisation', ORGANISATION, organisations.created)
  await updateRows(
    trx,
    'organisation',
    TOLD,
    [...organisations.changed].map(([id, org]) => ({ id, ...columnsOf(org) })),
  )
  for (const [id, row] of people) if (touched.has(id)) Object.assign(row, personColumns(touched.get(id) as KnownPerson))
  await insertRows(trx, 'person', { id: 'bigint', batch_id: 'bigint', created_at: 'timestamptz', ...PERSON }, [...people.values()])
  await updateRows(
    trx,
    'person',
    PERSON,
    [...touched.values()].filter((p) => !people.has(p.id)).map((p) => ({ id: p.id, ...personColumns(p) })),
  )
  if (movedOut.length > 0) await trx('address').whereRaw('person_id = any(?::bigint[])', [movedOut]).where({ channel: 'post' }).delete()
  const lastPost = new Map(told.filter((a) => a.channel === 'post').map((a) => [a.person_id, a]))
  const addresses = told.filter((a) => a.channel !== 'post' || lastPost.get(a.person_id) === a)
  await insertRows(trx, 'address', ADDRESS, addresses, { conflict: '(person_id, channel, key) do nothing' })
  await insertRows(
    trx,
    'name_variant',
    { person_id: 'bigint', name_key: 'text', name: 'text', batch_id: 'bigint', at: 'timestamptz' },
    variants,
    { conflict: 'do nothing' },
  )
  await writeEntries(trx, entries, at)
}

const TOLD: Record<string, HandedType> = {
  industry: 'text',
  head_count: 'int',
  website: 'text',
  county: 'text',
  street: 'text',
  town: 'text',
  postcode: 'text',
  details: 'jsonb',
  address_key: 'text',
}
const ORGANISATION: Record<string, HandedType> = {
  id: 'bigint',
  name: 'text',
  name_key: 'text',
  key: 'bytea',
  batch_id: 'bigint',
  created_at: 'timestamptz',
  ...TOLD,
}

const PERSON: Record<string, HandedType> = {
  given: 'text',
  family: 'text',
  name: 'text',
  name_key: 'text',
  sort_key: 'text',
  role: 'text',
  organisation_id: 'bigint',
  relation: 'text',
  street: 'text',
  town: 'text',
  postcode: 'text',
  county: 'text',
  address_key: 'text',
  outside_id: 'text',
  tags: 'text[]',
  custom: 'jsonb',
}

const ADDRESS: Record<string, HandedType> = {
  person_id: 'bigint',
  channel: 'text',
  raw: 'text',
  value: 'text',
  parts: 'jsonb',
  key: 'bytea',
  domain_key: 'bytea',
  post_key: 'bytea',
  post_key_3: 'bytea',
  usable: 'boolean',
  why_unusable: 'text',
  country: 'text',
  position: 'int',
  batch_id: 'bigint',
}
