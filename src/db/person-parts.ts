import { CHANNELS, type Suppression, WAYS } from '@/core/columns/person-record'

const MS = (column: string) => `(extract(epoch from ${column}) * 1000)::float8`
const INDEX = (words: readonly string[], column: string) => `(case ${column} ${words.map((w, i) => `when '${w}' then ${i}`).join(' ')} end)`

/** What stands for no instant where a null cannot: before every timestamp there is. */
export const NO_INSTANT = '-9223372036854775807'

/** Channels are read as their index in CHANNELS, ways of contact in WAYS; a set of channels as bits. */
const CHANNEL = (column: string) => INDEX(CHANNELS, column)
const BITS = `(${CHANNELS.map((c, i) => `(case when '${c}' = any(s.channels) then ${1 << i} else 0 end)`).join(' + ')})::int4`
const SUPPRESSION = `s.id, s.reason, ${BITS} as bits, ${MS('s.since')} as since, ${MS('s.until')} as until`

/**
 * The rows a person's record is made of, one query a kind: `own` is the column that tells whose they are, and `{where}`
 * stands for the condition on it. They are read for some people (`personRecords`) or for everybody (`readEverybody`).
 */
export const PARTS = {
  people: {
    sql: `select p.id, p.state, p.merged_into, p.given, p.family, o.name_key as organisation_name, p.role, p.organisation_id, o.industry, o.head_count,
        case when p.town is null and p.postcode is null and p.county is null then o.county else p.county end as county,
        case when p.town is null and p.postcode is null then o.town else p.town end as town,
        case when p.town is null and p.postcode is null then o.postcode else p.postcode end as postcode,
        p.relation, p.tags, p.sort_key, nullif(p.custom, '{}')::text as custom
      from person p left join organisation o on o.id = p.organisation_id where {where}`,
    own: 'p.id',
    order: 'id',
  },
  addresses: {
    sql: `select person_id, id, ${CHANNEL('channel')} as channel, usable, ${MS('failed_at')} as failed, position from address where {where}`,
    own: 'person_id',
    order: 'person_id, position, id',
  },
  onAddress: {
    sql: `select a.person_id, a.id as address, ${SUPPRESSION} from address a join suppression_key k on k.key = a.key join suppression_standing s on s.id = k.suppression_id where {where}
      union all select a.person_id, a.id, ${SUPPRESSION} from address a join suppression_key k on k.key = a.domain_key join suppression_standing s on s.id = k.suppression_id
        where s.scope in ('domain', 'post') and not exists (select 1 from suppression_key v where v.suppression_id = s.id and v.key = a.key) and {where}`,
    own: 'a.person_id',
    order: 'person_id, id',
  },
  onPerson: {
    sql: `select s.person_id, ${SUPPRESSION} from suppression_standing s where s.person_id is not null and {where}`,
    own: 's.person_id',
    order: 'person_id, id',
  },
  onOrganisation: {
    sql: `select p.id as person_id, ${SUPPRESSION} from suppression_standing s join person p on p.organisation_id = s.organisation_id where s.scope = 'organisation' and {where}
      union select p.id, ${SUPPRESSION} from suppression_standing s join suppression_key k on k.suppression_id = s.id join organisation o on o.key = k.key
        join person p on p.organisation_id = o.id where s.scope = 'organisation' and {where}`,
    own: 'p.id',
    order: 'person_id, id',
  },
  contacts: {
    sql: `select e.person_id, ${MS('e.at')} as at, ${INDEX(WAYS, 'e.channel')} as way, e.actor_id as by from entry e
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
  /** int8 person, int8 address, int4 channel, int4 position, int4 usable, instant of its failure or `NO_INSTANT`. */
  addresses: `select string_agg(int8send(person_id) || int8send(id) || int4send(${CHANNEL('channel')}) || int4send(position) || int4send(usable::int) || coalesce(timestamptz_send(failed_at), int8send(${NO_INSTANT})), '')
    from address where {where} group by id / 4096`,
  /** int8 person, instant, int4 way, int4 actor. */
  contacts: `select string_agg(int8send(e.person_id) || timestamptz_send(e.at) || int4send(${INDEX(WAYS, 'e.channel')}) || int4send(a.place::int), '')
    from entry e join unnest({actors}) with ordinality as a(id, place) on a.id = e.actor_id
    where e.kind = 'contact' and {where} and e.id not in (select r.reverses_id from entry r where r.reverses_id is not null) group by e.id / 4096`,
} as const

export type PartName = keyof typeof PARTS

export const channelsOfBits = (bits: number): Suppression['channels'] => CHANNELS.filter((_, i) => bits & (1 << i))
