import type { Knex } from 'knex'
import type { Address, Channel, Contact, ContactToCome, PersonRecord, Reason, Relation, ScreenedChannel, Suppression, Way } from '@/core/columns/person-record'
import { type ColumnType, copyRows } from './copy-rows'

const MS = (column: string) => `(extract(epoch from ${column}) * 1000)::float8`

/** One kind of row that a record is made of. `own` is the column that tells whose it is; rows come in the order given. */
interface Part {
  sql: string
  own: string
  order: string
  types: readonly ColumnType[]
}

const SUPPRESSION = `s.id, s.reason, s.channels, ${MS('s.since')}, ${MS('s.until')}`
const SUPPRESSION_TYPES = ['int8', 'text', 'text[]', 'float8', 'float8'] as const

/** Every part, as the columns of one query each. `{where}` stands for the condition on whose rows are read. */
const PARTS = {
  people: {
    sql: `select p.id, p.state, p.merged_into, p.role, p.organisation_id, o.industry, o.head_count,
        case when p.town is null and p.postcode is null and p.county is null then o.county else p.county end,
        case when p.town is null and p.postcode is null then o.town else p.town end,
        case when p.town is null and p.postcode is null then o.postcode else p.postcode end,
        p.relation, p.tags, p.sort_key
      from person p left join organisation o on o.id = p.organisation_id where {where}`,
    own: 'p.id',
    order: 'p.id',
    types: ['int8', 'text', 'int8', 'text', 'int8', 'text', 'int4', 'text', 'text', 'text', 'text', 'text[]', 'text'],
  },
  addresses: {
    sql: `select person_id, id, channel, usable, ${MS('failed_at')} from address where {where}`,
    own: 'person_id',
    order: 'person_id, position, id',
    types: ['int8', 'int8', 'text', 'bool', 'float8'],
  },
  onAddress: {
    sql: `select a.person_id, a.id, ${SUPPRESSION} from address a join suppression_key k on k.key = a.key join suppression_standing s on s.id = k.suppression_id where {where}
      union select a.person_id, a.id, ${SUPPRESSION} from address a join suppression_key k on k.key = a.domain_key join suppression_standing s on s.id = k.suppression_id where {where}`,
    own: 'a.person_id',
    order: '1, 3',
    types: ['int8', 'int8', ...SUPPRESSION_TYPES],
  },
  onPerson: {
    sql: `select s.person_id, ${SUPPRESSION} from suppression_standing s where {where}`,
    own: 's.person_id',
    order: 's.person_id, s.id',
    types: ['int8', ...SUPPRESSION_TYPES],
  },
  onOrganisation: {
    sql: `select p.id, ${SUPPRESSION} from suppression_standing s join person p on p.organisation_id = s.organisation_id where s.scope = 'organisation' and {where}
      union select p.id, ${SUPPRESSION} from suppression_standing s join suppression_key k on k.suppression_id = s.id join organisation o on o.key = k.key
        join person p on p.organisation_id = o.id where s.scope = 'organisation' and {where}`,
    own: 'p.id',
    order: '1, 2',
    types: ['int8', ...SUPPRESSION_TYPES],
  },
  contacts: {
    sql: `select e.person_id, ${MS('e.at')}, e.channel, e.actor_id from entry e
      where e.kind = 'contact' and {where} and not exists (select 1 from entry r where r.reverses_id = e.id)`,
    own: 'e.person_id',
    order: 'e.person_id, e.at, e.id',
    types: ['int8', 'float8', 'text', 'text'],
  },
  toCome: {
    sql: `select person_id, round_id, channel, ${MS('since')} from contact_to_come where ended_at is null and {where}`,
    own: 'person_id',
    order: 'person_id, round_id, channel',
    types: ['int8', 'int8', 'text', 'float8'],
  },
  batches: {
    sql: `select person_id, batch_id from batch_row where {where} and undone is null group by 1, 2`,
    own: 'person_id',
    order: 'person_id, batch_id',
    types: ['int8', 'int8'],
  },
} satisfies Record<string, Part>

type Rows = Record<keyof typeof PARTS, unknown[][]>

/** A record as it stands; one that is not live was withdrawn, or merged into another. */
export interface StandingRecord {
  live: boolean
  mergedInto: number | null
  record: PersonRecord
}

/**
 * Everything criteria and rules can ask about, for some people. What is known of records that were merged into one of
 * them counts as theirs. The caller gives a transaction where the parts must belong together. Rounds are left empty.
 */
export async function personRecords(trx: Knex, ids: number[]): Promise<StandingRecord[]> {
  if (ids.length === 0) return []
  const merged: { id: number; merged_into: number }[] = await trx('person').whereRaw('merged_into = any(?::bigint[])', [ids]).select('id', 'merged_into')
  const rootOf = new Map(merged.map((m) => [m.id, m.merged_into]))
  const rows = {} as Rows
  for (const [name, part] of Object.entries(PARTS) as [keyof typeof PARTS, Part][]) {
    const whose = name === 'people' ? ids : [...ids, ...rootOf.keys()]
    const sql = `${part.sql.replaceAll('{where}', `${part.own} = any(?::bigint[])`)} order by ${part.order}`
    const marks = sql.split('?').length - 1
    const { rows: found } = await trx.raw(named(sql, part.types.length), Array.from({ length: marks }, () => whose) as never)
    rows[name] = found.map((row: Record<string, unknown>) => part.types.map((_, i) => row[`c${i}`]))
    if (name !== 'people') for (const row of rows[name]) row[0] = rootOf.get(row[0] as number) ?? row[0]
  }
  return recordsFrom(rows)
}

/** The query with its columns called c0, c1 and so on, which two of them would otherwise share names. */
const named = (sql: string, count: number) => `select * from (${sql}) as part(${Array.from({ length: count }, (_, i) => `c${i}`).join(', ')})`

/**
 * The same for a range of ids, read in bulk; records merged into another are left to `personRecords`. Must be a transaction.
 */
export async function personRecordsBetween(trx: Knex, from: number, to: number): Promise<StandingRecord[]> {
  const rows = {} as Rows
  for (const [name, part] of Object.entries(PARTS) as [keyof typeof PARTS, Part][]) {
    const found: unknown[][] = []
    await copyRows(trx, `${part.sql.replaceAll('{where}', `${part.own} between ${Number(from)} and ${Number(to)}`)} order by ${part.order}`, part.types, (row) => found.push(row))
    rows[name] = found
  }
  return recordsFrom(rows)
}

function recordsFrom(rows: Rows): StandingRecord[] {
  const addresses = new Map<number, Address[]>()
  const byId = new Map<number, Address>()
  for (const [person, id, channel, usable, failedAt] of rows.addresses) {
    const address: Address = { id: id as number, channel: channel as ScreenedChannel, usable: usable as boolean, failedAt: failedAt as number | null, suppressions: [] }
    byId.set(address.id, address)
    push(addresses, person as number, address)
  }
  for (const [, address, ...suppression] of rows.onAddress) byId.get(address as number)?.suppressions.push(suppressionOf(suppression))
  const suppressions = new Map<number, Suppression[]>()
  for (const [person, ...suppression] of [...rows.onPerson, ...rows.onOrganisation]) push(suppressions, person as number, suppressionOf(suppression))
  const contacts = new Map<number, Contact[]>()
  for (const [person, at, channel, by] of rows.contacts) push(contacts, person as number, { at: at as number, channel: channel as Way, by: by as string })
  const toCome = new Map<number, ContactToCome[]>()
  for (const [person, round, channel, since] of rows.toCome) push(toCome, person as number, { round: round as number, channel: channel as ScreenedChannel, since: since as number })
  const batches = new Map<number, number[]>()
  for (const [person, batch] of rows.batches) push(batches, person as number, batch as number)
  return rows.people.map(([id, state, mergedInto, role, organisation, industry, headCount, county, town, postcode, relation, tags, sortKey]) => {
    const own = id as number
    return {
      live: state === 'live',
      mergedInto: mergedInto as number | null,
      record: {
        id: own,
        role: role as string | null,
        organisation: organisation as number | null,
        industry: industry as string | null,
        headCount: headCount as number | null,
        county: county as string | null,
        town: town as string | null,
        postcode: postcode as string | null,
        relation: relation as Relation | null,
        tags: tags as string[],
        addresses: addresses.get(own) ?? NONE,
        contacts: contacts.get(own) ?? NONE,
        toCome: toCome.get(own) ?? NONE,
        suppressions: suppressions.get(own) ?? NONE,
        batches: [...new Set(batches.get(own) ?? NONE)],
        rounds: NONE,
        sortKey: sortKey as string,
      },
    }
  })
}

const NONE: never[] = []

function suppressionOf([id, reason, channels, since, until]: unknown[]): Suppression {
  return { id: id as number, reason: reason as Reason, channels: channels as Channel[], since: since as number, until: until as number | null }
}

function push<V>(map: Map<number, V[]>, key: number, value: V): void {
  const known = map.get(key)
  if (known) known.push(value)
  else map.set(key, [value])
}

/** Who was on a released round and who of them was clear; seats of merged records belong to the one that stays. */
export async function roundMembers(trx: Knex, rounds: number[] | 'all'): Promise<{ list: number; number: number; people: number[]; clear: boolean[] }[]> {
  const found = await trx('round').whereNotNull('released_at').modify((q) => rounds !== 'all' && q.whereIn('id', rounds)).orderBy('id').select('id', 'list_id', 'number')
  const all = []
  for (const { id, list_id, number } of found) {
    const people: number[] = []
    const clear: boolean[] = []
    await copyRows(trx, `select coalesce(p.merged_into, p.id), m.held_by is null from round_member m join person p on p.id = m.person_id where m.round_id = ${Number(id)}`, ['int8', 'bool'], ([person, isClear]) => {
      people.push(person as number)
      clear.push(isClear as boolean)
    })
    all.push({ list: list_id as number, number: number as number, people, clear })
  }
  return all
}
