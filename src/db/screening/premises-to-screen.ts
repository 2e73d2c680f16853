import { cleanPostal, comparablePostal, type PostalParts } from '@/core/clean/postal'
import { countryCode } from '@/core/clean/country'
import type { CustomValues } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import { ownerPostal } from '@/core/clean/owner'
import type { OwnerKind } from '@/core/clean/premises'
import { FIELD } from '@/core/clean/standard-fields'
import { type Reason, REASONS } from '@/core/records/suppression'
import type { LetterOwner, LetterPerson, LetterPlace, ScreenedPremises } from '@/core/screening/premises'
import type { Knex } from '@/db/connection'
import { type KeyedPlace, placeOf } from '@/db/key'
import { heldOwners, heldPlaces, placesAsked } from '@/db/screening/premises-held'

interface PremisesRow {
  id: number
  name: string
  street: string | null
  town: string | null
  postcode: string | null
  roof_area: number | null
  owner: string | null
  owner_kind: OwnerKind | null
  details: CustomValues
  owner_person: number | null
  owner_organisation: number | null
  organisation_street: string | null
  organisation_town: string | null
  organisation_postcode: string | null
  organisation_details: CustomValues | null
  owner_key: string | null
}

/**
 * Some live premises as they are screened for letters as of an instant, in the order of their ids. `round` is the round that is being built,
 * and `list` its own; `zone` says which day a letter was written on, and `home` is the team's country (ISO 3166-1 alpha-2).
 */
export async function premisesToScreen(
  trx: Knex,
  ids: readonly number[],
  { at, round, list, zone, home }: { at: Date; round: number; list: number; zone: string; home: string },
): Promise<ScreenedPremises[]> {
  const rows = await premisesRows(trx, ids)
  const own = rows.map((row) => keyed({ postal: cleanPostal(row as never), country: row.details[FIELD.premisesCountry] }))
  const owners = rows.map((row) => keyed(ownersPostal(row)))
  const keys = [...own, ...owners].flatMap((place) => place.keys)
  const held = await heldPlaces(trx, keys, at)
  const written = await lettersBefore(trx, keys, { round, list })
  const asked = await placesAsked(
    trx,
    own.flatMap((place) => place.keys),
    at,
  )
  const heldOwner = await heldOwners(trx, ids, at)
  const there = await peopleThere(trx, ids)
  const people = await letterPeople(trx, [...there.values()].flat().concat(rows.flatMap((row) => row.owner_person ?? [])), {
    at,
    round,
    zone,
  })
  const place = ({ postal, country, form, keys: all }: Keyed): LetterPlace | null => {
    if (form === null) return null
    const hex = all.map((one) => one.toString('hex'))
    const reason = (by: 'post' | 'household') => hex.flatMap((one) => held.get(`${by} ${one}`) ?? [])[0] ?? null
    const sent = hex.flatMap((one) => written.get(one) ?? [])
    const code = countryCode(country)
    return {
      postal,
      country: code === null || code === home ? null : code,
      key: code === null || code === home ? form : `${code} ${form}`,
      held: { address: reason('post'), household: reason('household') },
      asked: hex.flatMap((one) => asked.get(one) ?? [])[0] ?? null,
      written: sent.reduce<string | null>((day, one) => (one.day !== null && (day === null || one.day > day) ? one.day : day), null),
      inRound: sent.find(({ open }) => open !== null)?.open ?? null,
      before: sent.some(({ before }) => before),
      cameBack: sent.some(({ back }) => back),
    }
  }
  return rows.map((row, i): ScreenedPremises => {
    const owner: LetterOwner | null =
      (row.owner && {
        name: row.owner,
        key: row.owner_key ?? fold(row.owner),
        kind: row.owner_kind,
        place: place(owners[i]),
        person: people.get(row.owner_person ?? -1) ?? null,
        organisation: row.owner_organisation,
        held: heldOwner.get(row.id) ?? people.get(row.owner_person ?? -1)?.held ?? null,
      }) ||
      null
    return {
      id: row.id,
      name: row.name,
      place: place(own[i]),
      people: (there.get(row.id) ?? []).flatMap((id) => people.get(id) ?? []),
      owner,
      takenOver: row.details[FIELD.transferDate] ?? null,
      size: row.roof_area ?? (Number(row.details[FIELD.floorArea]) || null),
    }
  })
}

interface Keyed extends KeyedPlace {
  postal: PostalParts
  country: string | null | undefined
}

const keyed = (of: Pick<Keyed, 'postal' | 'country'>): Keyed => ({ ...of, ...placeOf(of.postal) })

/** Where the post of an owner goes: as it stands with the premises, or else as their organisation has it. */
function ownersPostal(row: PremisesRow): { postal: PostalParts; country: string | null | undefined } {
  const told = cleanPostal(ownerPostal(row.details) as never)
  if (comparablePostal(told) !== null || row.owner_organisation === null) return { postal: told, country: row.details[FIELD.ownerCountry] }
  const of = { street: row.organisation_street, town: row.organisation_town, postcode: row.organisation_postcode }
  return { postal: cleanPostal(of as never), country: row.organisation_details?.[FIELD.orgCountry] }
}

async function premisesRows(trx: Knex, ids: readonly number[]): Promise<PremisesRow[]> {
  const { rows } = await trx.raw(
    `select q.id, q.name, q.street, q.town, q.postcode, q.roof_area, nullif(btrim(q.owner), '') as owner, q.owner_kind, q.details,
       p.id as owner_person, o.id as owner_organisation, o.street as organisation_street, o.town as organisation_town,
       o.postcode as organisation_postcode, o.details as organisation_details, coalesce('p ' || q.owner_name_key, 'o ' || q.owner_organisation_key) as owner_key
     from premises q
       left join lateral (select p.id from person p where p.name_key = q.owner_name_key and p.name_key <> '' and p.address_key = q.owner_address_key and p.state = 'live' order by p.id limit 1) p on true
       left join lateral (select o.* from organisation o where o.name_key = q.owner_organisation_key and o.live order by o.id limit 1) o on true
     where q.id = any(?::bigint[]) and q.state = 'live' order by q.id`,
    [[...ids]] as never,
  )
  return rows
}

interface SentBefore {
  day: string | null
  open: string | null
  before: boolean
  back: boolean
}

/** Of some keys of addresses, in hex, which letters of rounds went there or are about to: the last day, an open round, whether an earlier round of the list sent one, and whether the newest came back. */
async function lettersBefore(
  trx: Knex,
  keys: readonly Buffer[],
  { round, list }: { round: number; list: number },
): Promise<Map<string, SentBefore[]>> {
  if (keys.length === 0) return new Map()
  const { rows } = await trx.raw(
    `select encode(k.key, 'hex') as key, to_char(max(w.posted_on), 'YYYY-MM-DD') as day,
       min(l.name || ', round ' || called(r)) filter (where r.closed_at is null and r.id <> ? and w.posted_on is null and w.outcome is null) as open,
       (array_agg(w.outcome order by w.posted_on desc nulls last, r.id desc) filter (where w.posted_on is not null))[1] = 'came back' as back,
       bool_or(r.list_id = ? and r.id <> ? and w.outcome is distinct from 'stopped') as before
     from unnest(?::bytea[]) as k(key) join round_letter w on w.keys && array[k.key] join round r on r.id = w.round_id join list l on l.id = r.list_id
     where w.posted_on is not null or r.closed_at is null group by 1`,
    [round, list, round, [...new Map(keys.map((key) => [key.toString('hex'), key])).values()]] as never,
  )
  return new Map(rows.map(({ key, ...of }: SentBefore & { key: string }) => [key, [of]]))
}

/** Who of the directory is at the address of each of some premises. */
async function peopleThere(trx: Knex, ids: readonly number[]): Promise<Map<number, number[]>> {
  const { rows } = await trx.raw(
    `select q.id, array_agg(p.id order by p.sort_key, p.id) as people from premises q join person p on p.address_key = q.address_key and p.state = 'live'
     where q.id = any(?::bigint[]) and q.address_key is not null group by 1`,
    [[...ids]] as never,
  )
  return new Map(rows.map((row: { id: number; people: number[] }) => [row.id, row.people.map(Number)]))
}

/** Some people as letters could name them, each with the gravest reason why none may go to them, and when they were last written to. */
async function letterPeople(
  trx: Knex,
  ids: readonly number[],
  { at, round, zone }: { at: Date; round: number; zone: string },
): Promise<Map<number, LetterPerson>> {
  if (ids.length === 0) return new Map()
  const { rows } = await trx.raw(
    `with asked as materialized (select distinct id from unnest(?::bigint[]) as x(id)),
     family as materialized (select a.id as root, w.id from asked a cross join lateral (select a.id union all select m.id from person m where m.merged_into = a.id) w),
     held as materialized (
       select f.root, min(array_position(array[${REASONS.map((reason) => `'${reason}'`).join(', ')}], s.reason)) as reason
       from family f join suppression_touch t on t.person_id = f.id join suppression_standing s on s.id = t.suppression_id left join address a on a.id = t.address_id
       where 'post' = any(s.channels) and s.since <= ? and (s.until is null or s.until > ?) and (t.address_id is null or a.channel = 'post') group by 1),
     contacted as materialized (
       select distinct on (f.root) f.root, e.at, e.result from family f join entry e on e.person_id = f.id and e.kind = 'contact' and e.channel = 'post'
       where not exists (select 1 from entry r where r.reverses_id = e.id) order by f.root, e.at desc, e.id desc),
     due as materialized (
       select f.root, min(l.name || ', round ' || called(r)) as in_round from family f join contact_to_come t on t.person_id = f.id and t.channel = 'post' and t.ended_at is null and t.round_id <> ?
         join round r on r.id = t.round_id join list l on l.id = r.list_id group by 1)
     select p.id, p.given, p.family, p.name, p.sort_key as sort, p.organisation_id is not null as works, p.relation, h.reason, c.result,
       to_char(c.at at time zone ?, 'YYYY-MM-DD') as written,
       d.in_round
     from asked a join person p on p.id = a.id left join held h on h.root = p.id left join contacted c on c.root = p.id left join due d on d.root = p.id where p.state = 'live'`,
    [[...ids], at, at, round, zone] as never,
  )
  return new Map(
    rows.map(
      (
        row: Omit<LetterPerson, 'held' | 'inRound'> & { reason: number | null; result: string | null; in_round: string | null },
      ): [number, LetterPerson] => [
        row.id,
        {
          id: row.id,
          given: row.given,
          family: row.family,
          name: row.name,
          sort: row.sort,
          works: row.works,
          relation: row.relation,
          // A letter that came back says that they are not there.
          held: row.reason !== null ? (REASONS[row.reason - 1] as Reason) : row.result === 'returned' ? 'returned post' : null,
          written: row.written,
          inRound: row.in_round,
        },
      ],
    ),
  )
}
