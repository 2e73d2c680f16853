import { createHmac } from 'node:crypto'
import type { Knex } from 'knex'

/** How much there is for so many people: as many as a team of that size keeps (common practice, no source). */
export function sizes(people: number) {
  return { people, organisations: Math.round(people * 0.12), contacts: people * 5, suppressions: Math.round(people * 0.4) }
}

export const TOWNS = Array.from({ length: 60 }, (_, i) => `Town ${i}`)
export const INDUSTRIES = [
  'school',
  'clinic',
  'care home',
  'brewery',
  'dairy',
  'plant nursery',
  'housing body',
  'library',
  'leisure',
  'warehouse',
  'workshop',
  'shop',
  'hall',
  'farm',
]
export const COUNTIES = ['Pellow', 'Marle', 'Tarn', 'Wendle', 'Sedge']
export const ROLE_WORDS = [
  'Estates',
  'Facilities',
  'Premises',
  'Site',
  'Buildings',
  'Finance',
  'Practice',
  'Head',
  'Housing',
  'Operations',
  'Nursery',
  'Brewery',
  'Dairy',
  'Warehouse',
  'Workshop',
  'Owner',
  'Library',
  'Centre',
  'Business',
  'Asset',
]
export const RANKS_OF_ROLE = ['Manager', 'Lead', 'Officer', 'Director', 'Co-ordinator', 'Assistant', 'Trainee', 'Deputy', 'Adviser', 'Head']
export const TAGS = ['large roof', 'newsletter', 'spoke at fair', 'listed building', 'neighbour of a job']

const array = (words: readonly string[]) => `array[${words.map((w) => `'${w}'`).join(',')}]`

/** Where made-up premises lie, in degrees: west, south, east, north. */
export const BOX = [1.2, 55.2, 1.9, 55.55] as const

/** How many premises there are for so many people. */
const premisesFor = (people: number) => Math.round(people / 5)

/**
 * Puts people and organisations at premises with a position, where a database was made before there were any. Done once in
 * the database that runs are copied from.
 */
export async function generatePremises(owner: Knex, people: number, say: (line: string) => void): Promise<void> {
  if ((await owner('premises').limit(1)).length > 0) return
  const began = Date.now()
  const count = premisesFor(people)
  await owner.transaction(async (trx) => {
    await trx.raw(`set local session_replication_role = replica; set local synchronous_commit = off;
      create or replace function h(n bigint, salt int) returns int language sql immutable parallel safe as $$ select (hashint8extended(n, salt) & 1073741823)::int $$`)
    await trx.raw(`insert into premises (id, name, name_key, named, kind, street, town, postcode, address_key, lat, lon, roof_area, year_built, owner_kind, created_at)
      select n, 'House ' || n, 'house ' || n, true, (array['school','house','works','hall'])[1 + h(n, 60) % 4], n || ' Quay Street', 'Town ' || n % 60, 'PW1 1AB', 'premises ' || n,
        case when h(n, 61) % 25 > 0 then ${BOX[1]} + (h(n, 62) / 1073741824.0) * ${BOX[3] - BOX[1]} end, case when h(n, 61) % 25 > 0 then ${BOX[0]} + (h(n, 63) / 1073741824.0) * ${BOX[2] - BOX[0]} end,
        40 + h(n, 64) % 3000, 1800 + h(n, 65) % 220, (array['individual','company','trust','public body'])[1 + h(n, 66) % 4], now() from generate_series(1, ${count}) n`)
    await trx.raw(`update organisation set address_key = 'premises ' || 1 + h(id, 67) % ${count}`)
    await trx.raw(
      `update person set address_key = case when h(id, 68) % 20 > 0 then 'premises ' || 1 + h(id, 69) % ${count} else 'nowhere ' || id end`,
    )
    await trx.raw(`select setval(pg_get_serial_sequence('premises', 'id'), ${count})`)
  })
  await owner.raw('vacuum (full, analyze) person')
  await owner.raw('analyze')
  say(`premises: ${((Date.now() - began) / 1000).toFixed(1)} s`)
}

/**
 * Fills an empty, migrated database with made-up people by SQL alone, the same for the same seed: `h(n, salt)` is a hash
 * that stands for chance. Triggers are off while it runs; what they keep is worked out at the end.
 */
export async function generate(owner: Knex, people: number, secret: string, say: (line: string) => void): Promise<void> {
  const { organisations, contacts, suppressions } = sizes(people)
  const key = createHmac('sha256', secret).update('address').digest('hex')
  await owner.raw('create extension if not exists pgcrypto')
  await owner.transaction(async (trx) => {
    const run = async (what: string, sql: string) => {
      const began = Date.now()
      await trx.raw(sql.replaceAll('?', '\\?'))
      say(`${what}: ${((Date.now() - began) / 1000).toFixed(1)} s`)
    }
    await run(
      'begin',
      `
      set local session_replication_role = replica;
      set local synchronous_commit = off;
      create or replace function h(n bigint, salt int) returns int language sql immutable parallel safe as $$ select (hashint8extended(n, salt) & 1073741823)::int $$;
      create or replace function k(what text) returns bytea language sql immutable parallel safe as $$ select hmac(convert_to(what, 'UTF8'), decode('${key}', 'hex'), 'sha256') $$;`,
    )
    await run(
      'organisations',
      `
      insert into organisation (id, name, name_key, key, industry, head_count, county, street, town, postcode, created_at)
      select n, 'Works ' || n, 'works ' || n, k('organisation:works ' || n),
        case when h(n, 1) % 20 > 0 then (${array(INDUSTRIES)})[1 + h(n, 2) % ${INDUSTRIES.length}] end,
        case when h(n, 3) % 6 > 0 then (array[4, 22, 130, 600, 2400])[1 + h(n, 4) % 5] end,
        (${array(COUNTIES)})[1 + h(n, 5) % ${COUNTIES.length}], (1 + h(n, 6) % 120) || ' Mill Lane', (${array(TOWNS)})[1 + h(n, 7) % ${TOWNS.length}], 'PW' || (1 + h(n, 8) % 40) || ' 1AB', now() - interval '700 days'
      from generate_series(1, ${organisations}) n`,
    )
    await run(
      'people',
      `
      insert into person (id, given, family, name, name_key, sort_key, role, organisation_id, relation, town, county, postcode, street, address_key, tags, batch_id, created_at)
      select n, 'Given' || h(n, 10) % 2000, 'Family' || h(n, 11) % 40000, 'Given' || h(n, 10) % 2000 || ' Family' || h(n, 11) % 40000,
        'given' || h(n, 10) % 2000 || '|family' || h(n, 11) % 40000, 'family' || h(n, 11) % 40000 || ' given' || h(n, 10) % 2000,
        case when h(n, 12) % 25 > 0 then (${array(ROLE_WORDS)})[1 + h(n, 13) % ${ROLE_WORDS.length}] || ' ' || (${array(RANKS_OF_ROLE)})[1 + h(n, 14) % ${RANKS_OF_ROLE.length}] || case when h(n, 15) % 3 = 0 then ' grade ' || h(n, 16) % 100 else '' end end,
        case when h(n, 17) % 12 > 0 then 1 + h(n, 18) % ${organisations} end,
        case when h(n, 19) % 5 > 0 then (array['prospect','prospect','prospect','customer','former customer','supplier'])[1 + h(n, 20) % 6] end,
        case when h(n, 21) % 25 > 0 then (${array(TOWNS)})[1 + h(n, 22) % ${TOWNS.length}] end,
        case when h(n, 23) % 10 > 0 then (${array(COUNTIES)})[1 + h(n, 24) % ${COUNTIES.length}] end,
        'PW' || (1 + h(n, 25) % 40) || ' ' || h(n, 26) % 9 || 'AB', (1 + h(n, 27) % 160) || ' Quay Street', (1 + h(n, 27) % 160) || ' quay street|pw',
        case when h(n, 28) % 8 = 0 then array[(${array(TAGS)})[1 + h(n, 29) % ${TAGS.length}]] else '{}' end, 1 + n % 10, now() - interval '600 days'
      from generate_series(1, ${people}) n`,
    )
    await run(
      'addresses',
      `
      insert into address (id, person_id, channel, raw, value, parts, key, domain_key, usable, position)
      select 3 * n + 0, n, 'email', e, e, null::jsonb, k('email:' || e), k('domain:d' || h(n, 32) % 5000 || '.example'), h(n, 33) % 40 > 0, 0
        from (select n, 'p' || n || '@d' || h(n, 32) % 5000 || '.example' as e from generate_series(1, ${people}) n where h(n, 30) % 10 < 7) p
      union all select 3 * n + 1, n, 'phone', e, e, null, k('phone:' || e), null::bytea, true, 0
        from (select n, '+4411349' || lpad((case when h(n, 35) % 4 = 0 then n % 1000 else n end)::text, 7, '0') as e from generate_series(1, ${people}) n where h(n, 34) % 10 < 6) p
      union all select 3 * n + 2, n, 'post', e, e, null, k('post:' || e), null::bytea, true, 0
        from (select n, (1 + h(n, 27) % 160) || ' Quay Street, ' || n / 3 as e from generate_series(1, ${people}) n where h(n, 36) % 20 > 0) p`,
    )
    await run(
      'contacts',
      `
      insert into entry (id, person_id, kind, at, recorded_at, actor_id, channel, result)
      select n, 1 + (power((h(n, 40) / 1073741824.0), 1.6) * ${people - 1})::bigint, 'contact', d, d, 'actor-' || h(n, 41) % 12, (array['phone','phone','email','email','post','direct'])[1 + h(n, 42) % 6], (array['sent','no answer','spoke','voicemail','replied'])[1 + h(n, 43) % 5]
      from (select n, now() - (h(n, 44) % 94608000) * interval '1 second' as d from generate_series(1, ${contacts}) n) c`,
    )
    await run(
      'suppressions',
      `
      insert into suppression (id, reason, channels, scope, person_id, hint, since, word, actor_id, recorded_at)
      select n, case when n % 40 < 30 then 'register' when n % 40 < 37 then 'opt-out' when n % 40 < 38 then 'complaint' else 'other' end,
        case when n % 40 < 30 then array['phone'] when n % 40 < 36 then array['email'] else array['email','phone','post','direct'] end,
        case when n % 40 < 30 then 'phone' when n % 40 < 36 then 'email' else 'person' end,
        case when n % 40 >= 36 then 1 + h(n, 50) % ${people} end, 'x', now() - (h(n, 51) % 900) * interval '1 day', 'made up', 'actor-1', now()
      from generate_series(1, ${suppressions}) n;
      insert into suppression_key (suppression_id, channel, key)
      select n, 'phone', k('phone:+4411349' || lpad((h(n, 52) % ${people * 2})::text, 7, '0')) from generate_series(1, ${suppressions}) n where n % 40 < 30
      union all select n, 'email', k('email:p' || p || '@d' || h(p, 32) % 5000 || '.example') from (select n, (1 + h(n, 53) % ${people})::bigint as p from generate_series(1, ${suppressions}) n where n % 40 between 30 and 35) e;
      insert into register_file (name, version, recorded_at) values ('register', current_date - 3, now())`,
    )
    await run(
      'batches',
      `
      insert into batch (id, kind, file_name, state, reading, header, mapping, actor_id, created_at, rows_total, rows_done)
      select n, 'people', 'batch-' || n || '.csv', 'done', '{"format":"csv","encoding":"UTF-8","delimiter":",","headerRow":1}', '{Id}', '["outsideId"]', 'actor-1', now() - interval '600 days', 0, 0 from generate_series(1, 10) n;
      insert into batch_row (batch_id, row_no, raw, outcome, person_id) select 1 + n % 10, n, '{}', 'new', n from generate_series(1, ${people}) n where n % 4 = 0`,
    )
    await run(
      'facts',
      `
      insert into facts (person_id, last_at, last_channel, last_result, last_by, attempts)
      select distinct on (person_id) person_id, at, channel, result, actor_id, count(*) over (partition by person_id) from entry where kind = 'contact' order by person_id, at desc, id desc;
      select setval(pg_get_serial_sequence('person', 'id'), ${people}), setval(pg_get_serial_sequence('organisation', 'id'), ${organisations}), setval(pg_get_serial_sequence('address', 'id'), ${people * 3 + 3}),
        setval(pg_get_serial_sequence('entry', 'id'), ${contacts}), setval(pg_get_serial_sequence('suppression', 'id'), ${suppressions}), setval(pg_get_serial_sequence('batch', 'id'), 10)`,
    )
  })
  const began = Date.now()
  await owner.raw('analyze')
  say(`analyze: ${((Date.now() - began) / 1000).toFixed(1)} s`)
}
