import { ALL_RESULTS, OTHER_RESULT } from '@/core/records/results'
import { FIELD } from '@/core/clean/standard-fields'
import { CHANNELS, WAYS } from '@/core/records/channels'
import type { Suppression } from '@/core/records/suppression'

const MS = (column: string) => `(extract(epoch from ${column}) * 1000)::float8`
const INDEX = (words: readonly string[], column: string) => `(case ${column} ${words.map((w, i) => `when '${w}' then ${i}`).join(' ')} end)`

const RESULT = `coalesce(${INDEX(ALL_RESULTS, 'e.result')}, ${OTHER_RESULT})`

/** What stands for no instant where a null cannot: before every timestamp there is. */
export const NO_INSTANT = '-9223372036854775807'

/** Channels are read as their index in CHANNELS, ways of contact in WAYS; a set of channels as bits. */
const CHANNEL = (column: string) => INDEX(CHANNELS, column)
const BITS = `(${CHANNELS.map((c, i) => `(case when '${c}' = any(s.channels) then ${1 << i} else 0 end)`).join(' + ')})::int4`
const SUPPRESSION = `s.id, s.reason, ${BITS} as bits, ${MS('s.since')} as since, ${MS('s.until')} as until`

/** What is packed of an address, as core/columns/address-state.ts has it: whether it is shared, and the place of its state. */
const TRAITS = `(case a.channel
    when 'email' then (d.key is not null)::int | ((case c.state when 'verified' then 1 when 'uncertain' then 2 when 'bad' then 3 else 0 end) << 1)
    when 'phone' then a.shared::int | ((case when a.told is null then 0 when a.told = 'wrong number' then 2 when a.told = 'out of service' then 3 else 1 end) << 1)
    else 0 end)`
const ADDRESS = `address a left join email_check c on c.key = a.key and a.channel = 'email' left join personal_domain d on d.key = a.domain_key and a.channel = 'email'`

/** Joins the first live premises at an address in its comparable form, as q. */
const AT = (key: string) => `left join premises q on q.address_key = ${key} and q.state = 'live'
        and not exists (select 1 from premises e where e.address_key = q.address_key and e.state = 'live' and e.id < q.id)`

/** The country of a person, or else of their organisation, as it is recorded. */
export const COUNTRY = `coalesce(p.custom ->> '${FIELD.country}', o.details ->> '${FIELD.orgCountry}')`

/** Whether somebody has no address of their own at all: then their organisation's counts for them, and as a whole. */
const NOWHERE = '(p.street is null and p.town is null and p.postcode is null)'

/** Organisations, and premises with those of the directory who own them. */
export const ORGANISATIONS = `select o.id, o.live, o.name, o.industry, o.head_count, o.website, o.county, o.town, o.postcode, o.street, q.id as premises_id, o.batch_id, o.name_key as sort_key, nullif(o.details, '{}')::text as details
      from organisation o ${AT('o.address_key')} where {where}`
export const PREMISES = `select distinct on (s.id) s.id, s.state = 'live' as live, s.name, s.kind, s.lat, s.lon, s.roof_area, s.year_built, s.owner_kind, s.county, s.town, s.postcode, s.street,
        case when s.owner is not null then concat_ws('|', coalesce(s.owner_organisation_key, s.owner_name_key, lower(s.owner)), s.owner_address_key) end as owner_key,
        s.address_key, s.owner_address_key, p.id as owner_person, w.id as owner_organisation, s.name_key as sort_key, nullif(s.details, '{}')::text as details
      from premises s
        left join person p on p.name_key = s.owner_name_key and p.address_key = s.owner_address_key and p.state = 'live'
        left join organisation w on w.name_key = s.owner_organisation_key and w.live
      where {where} order by s.id, p.id, w.id`

/**
 * The rows a person's record is made of, one query a kind: `own` is the column that tells whose they are, and `{where}`
 * stands for the condition on it. They are read for some people (`personRecords`) or for everybody (`readEverybody`).
 */
export const PARTS = {
  people: {
    sql: `select p.id, p.state, p.merged_into, p.given, p.family, p.role, p.organisation_id, q.id as premises_id,
        case when ${NOWHERE} and p.county is null then o.county else p.county end as county,
        case when ${NOWHERE} then o.town else p.town end as town,
        case when ${NOWHERE} then o.postcode else p.postcode end as postcode,
        case when ${NOWHERE} then o.street else p.street end as street,
        p.relation, p.tags, p.sort_key, nullif(p.custom, '{}')::text as custom, (extract(epoch from l.at) * 1000)::float8 as changed, ${COUNTRY} as country, o.details ->> '${FIELD.offLimits}' as off_limits
      from person p left join organisation o on o.id = p.organisation_id left join last_change l on l.person_id = p.id
      ${AT(`coalesce(p.address_key, case when p.street is null and p.postcode is null and (p.town is null or lower(p.town) = lower(o.town)) then o.address_key end)`)} where {where}`,
    own: 'p.id',
    order: 'id',
  },
  addresses: {
    sql: `select a.person_id, a.id, ${CHANNEL('a.channel')} as channel, a.usable, ${MS('a.failed_at')} as failed, a.position, ${TRAITS} as traits, ${MS('c.at')} as checked, (('x' || encode(substring(a.key from 1 for 7), 'hex'))::bit(56)::bigint >> 4) as key, a.country from ${ADDRESS} where {where}`,
    own: 'a.person_id',
    order: 'person_id, position, id',
  },
  onAddress: {
    sql: `select t.person_id, t.address_id as address, ${SUPPRESSION} from suppression_touch t join suppression_standing s on s.id = t.suppression_id where t.address_id is not null and {where}`,
    own: 't.person_id',
    order: 'person_id, id',
  },
  softBounces: {
    sql: `select a.person_id, a.id as address, ${MS('b.at')} as at from address a cross join lateral unnest(a.soft) as b(at) where a.soft is not null and {where}`,
    own: 'a.person_id',
    order: 'person_id, address, at',
  },
  onPerson: {
    sql: `select t.person_id, ${SUPPRESSION} from suppression_touch t join suppression_standing s on s.id = t.suppression_id where t.address_id is null and {where}`,
    own: 't.person_id',
    order: 'person_id, id',
  },
  contacts: {
    sql: `select e.person_id, ${MS('e.at')} as at, ${INDEX(WAYS, 'e.channel')} as way, e.actor_id as by, e.result, e.round_id as round from entry e
      where e.kind = 'contact' and {where} and not exists (select 1 from entry r where r.reverses_id = e.id)`,
    own: 'e.person_id',
    order: 'person_id, at, way',
  },
  toCome: {
    sql: `select person_id, round_id, ${CHANNEL('channel')} as channel, ${MS('since')} as since from contact_to_come where ended_at is null and {where}`,
    own: 'person_id',
    order: 'person_id, round_id, channel',
  },
  batches: {
    sql: 'select person_id, batch_id from batch_row where {where} and person_id is not null and undone is null group by 1, 2',
    own: 'person_id',
    order: 'person_id, batch_id',
  },
} as const

/** Who made contacts, each once: their places are what `PACKED.contacts` numbers them by. */
export const CONTACT_ACTORS = `select distinct actor_id from entry where kind = 'contact'`

/**
 * The two parts with most rows, many rows packed into one value: fields of fixed width side by side, as COPY sends them in
 * binary. One by one, rows cost more to send and to take apart than to read. `{actors}` stands for an array of actors.
 */
export const PACKED = {
  /** int8 person, int8 address, int4 of channel, usable and traits, int4 position, instant of its failure and of its check, each or `NO_INSTANT`, the first 8 bytes of its key, and two letters of its country. */
  addresses: `select string_agg(int8send(a.person_id) || int8send(a.id) || int4send(${CHANNEL('a.channel')} | (a.usable::int << 8) | (${TRAITS} << 16)) || int4send(a.position) || coalesce(timestamptz_send(a.failed_at), int8send(${NO_INSTANT})) || coalesce(timestamptz_send(c.at), int8send(${NO_INSTANT})) || substring(a.key from 1 for 8) || coalesce(convert_to(a.country, 'UTF8'), '\\x2020'), '')
    from ${ADDRESS} where {where} group by a.id / 4096`,
  /** int8 person, instant, int4 of way and result, int4 actor. */
  contacts: `select string_agg(int8send(e.person_id) || timestamptz_send(e.at) || int4send(${INDEX(WAYS, 'e.channel')} | (${RESULT} << 8)) || int4send(a.place::int), '')
    from entry e join unnest({actors}) with ordinality as a(id, place) on a.id = e.actor_id
    where e.kind = 'contact' and {where} and e.id not in (select r.reverses_id from entry r where r.reverses_id is not null) group by e.id / 4096`,
} as const

/**
 * How the database packs best where it has as many processors as a small machine: rows go straight to their pack. The plan it
 * would take shares them among workers and sorts them first, and takes twice the processor time of all together.
 */
export const PACKING = 'set local enable_sort = off; set local max_parallel_workers_per_gather = 0'

export type PartName = keyof typeof PARTS

/** Returns the channels whose bits are set, in the order of `CHANNELS`. */
export const channelsOfBits = (bits: number): Suppression['channels'] => CHANNELS.filter((_, i) => bits & (1 << i))
