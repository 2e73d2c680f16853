import type { LetterChoice } from '@/core/rounds/letter-choice'
import type { ReleasedLetter } from '@/core/rounds/letter-results'
import type { LettersMade, PremisesLetter } from '@/core/rounds/premises-letters'
import type { Reason } from '@/core/records/suppression'
import type { PremisesRule, ScreenedPremises } from '@/core/screening/premises'
import type { LetterOutcome, LettersStand } from '@/core/views/premises-round-views'
import type { Knex } from '@/db/connection'
import { placeOf } from '@/db/key'
import { askedThere } from '@/db/screening/premises-held'

/** A letter of a released round of premises. */
export interface LetterRowOf {
  number: number
  addressee: string
  street: string | null
  town: string | null
  postcode: string | null
  country: string | null
  people: number[]
  about: string
  posted_on: string | null
  outcome: LetterOutcome | null
  /** The premises it is about. */
  premises: number[]
}

/** Writes to whom the letters of a round of premises go. */
export async function updateChoice(trx: Knex, round: number, choice: LetterChoice): Promise<void> {
  await trx('round')
    .where({ id: round })
    .update({ letters: JSON.stringify(choice) })
}

/** Freezes the letters of a round, numbered in their order, and which premises each is about or why they get none. */
export async function insertLetters(
  trx: Knex,
  round: number,
  all: readonly ScreenedPremises[],
  { letters, held }: LettersMade,
): Promise<void> {
  const rows = letters.map(({ postal, ...letter }, i) => ({
    number: i + 1,
    addressee: letter.addressee,
    ...postal,
    country: letter.country,
    keys: placeOf(postal).keys.map((key) => key.toString('hex')),
    people: letter.people,
    organisation_id: letter.organisation,
    about: letter.about,
  }))
  await trx.raw(
    `insert into round_letter (round_id, number, addressee, street, town, postcode, country, keys, people, organisation_id, about)
     select ?, number, addressee, street, town, postcode, country, array(select decode(k, 'hex') from unnest(keys) k), people, organisation_id, about
     from jsonb_to_recordset(?::jsonb) as r(number int, addressee text, street text, town text, postcode text, country text, keys text[], people bigint[], organisation_id bigint, about text)`,
    [round, JSON.stringify(rows)],
  )
  const letterOf = new Map(letters.flatMap(({ premises }, i) => premises.map((id) => [id, i + 1])))
  const members = all.map(({ id, name }) => {
    const why = held.get(id)
    return {
      premises_id: id,
      name,
      letter: letterOf.get(id) ?? null,
      held_by: why?.rule ?? null,
      reason: why?.reason ?? null,
      detail: why?.detail ?? null,
    }
  })
  await trx.raw(
    `insert into round_premises (round_id, premises_id, name, letter, held_by, reason, detail)
     select ?, premises_id, name, letter, held_by, reason, detail
     from jsonb_to_recordset(?::jsonb) as r(premises_id bigint, name text, letter int, held_by text, reason text, detail text)`,
    [round, JSON.stringify(members)],
  )
}

/** Contacts to come of whoever the letters of a round name, so that no other round writes to them meanwhile. */
export async function insertNamedToCome(trx: Knex, round: number, letters: readonly PremisesLetter[], since: Date): Promise<void> {
  await trx.raw(`insert into contact_to_come (round_id, person_id, channel, since) select ?, p, 'post', ? from unnest(?::bigint[]) as p`, [
    round,
    since,
    [...new Set(letters.flatMap(({ people }) => people))],
  ] as never)
}

const LETTER = `w.number, w.addressee, w.street, w.town, w.postcode, w.country, w.people, w.about, to_char(w.posted_on, 'YYYY-MM-DD') as posted_on, w.outcome,
  array(select q.premises_id from round_premises q where q.round_id = w.round_id and q.letter = w.number order by q.premises_id) as premises`

/** Returns the letters of a round of premises in their order: a page of them, or those numbered. */
export async function lettersOf(
  trx: Knex,
  round: number,
  { offset = 0, limit = null, only = null }: { offset?: number; limit?: number | null; only?: readonly number[] | null } = {},
): Promise<LetterRowOf[]> {
  const { rows } = await trx.raw(
    `select ${LETTER} from round_letter w where w.round_id = ?${only ? ' and w.number = any(?::int[])' : ''} order by w.number offset ? limit ?`,
    [round, ...(only ? [[...only]] : []), offset, limit] as never,
  )
  return rows.map((row: LetterRowOf) => ({ ...row, people: row.people.map(Number), premises: row.premises.map(Number) }))
}

/** Premises of a released round that got no letter, by one rule or by any. */
export async function heldPage(
  trx: Knex,
  round: number,
  rule: PremisesRule | null,
  page: { offset: number; limit: number },
): Promise<{ total: number; rows: { id: number; name: string; held_by: PremisesRule; reason: Reason | null; detail: string | null }[] }> {
  const query = () => {
    const all = trx('round_premises').where({ round_id: round }).whereNotNull('held_by')
    return rule === null ? all : all.where({ held_by: rule })
  }
  const [{ n }] = await query().count({ n: '*' })
  const rows = await query()
    .orderBy([{ column: 'name' }, { column: 'premises_id' }])
    .offset(page.offset)
    .limit(page.limit)
    .select('premises_id as id', 'name', 'held_by', 'reason', 'detail')
  return { total: Number(n), rows }
}

/** The premises that were on a released round, those with a letter and those without. */
export async function premisesIn(trx: Knex, round: number): Promise<number[]> {
  return (await trx('round_premises').where({ round_id: round }).orderBy('premises_id').select('premises_id')).map((row) => row.premises_id)
}

/** What became of the letters of a round, those aside that must not leave any more: by their numbers, they are stopped. */
export async function standOf(trx: Knex, round: number, held: readonly number[]): Promise<LettersStand> {
  const { rows } = await trx.raw(
    `select case when outcome is not null then outcome when posted_on is not null then 'posted' when number = any(?::int[]) then 'stopped' else 'toPost' end as stand,
       count(*)::int as n, to_char(min(posted_on), 'YYYY-MM-DD') as first, to_char(max(posted_on), 'YYYY-MM-DD') as last
     from round_letter where round_id = ? group by 1`,
    [[...held], round] as never,
  )
  const stand: LettersStand = { stopped: 0, toPost: 0, posted: 0, 'came back': 0, answered: 0, 'asked us to stop': 0, days: null }
  const days: string[] = []
  for (const row of rows as { stand: Exclude<keyof LettersStand, 'days'>; n: number; first: string | null; last: string | null }[]) {
    stand[row.stand] = row.n
    days.push(...[row.first ?? [], row.last ?? []].flat())
  }
  days.sort()
  return { ...stand, days: days.length > 0 ? [days[0], days[days.length - 1]] : null }
}

/** Every letter of a released round with what became of it, in their order; those of `held` that were not posted are stopped. */
export async function letterStands(trx: Knex, round: number, held: readonly number[]): Promise<ReleasedLetter[]> {
  const { rows } = await trx.raw(
    `select w.number, case when w.outcome is not null then w.outcome when w.posted_on is not null then 'nothing heard' when w.number = any(?::int[]) then 'stopped' else 'not posted' end as stand,
       w.street is null as erased, w.country, case when cardinality(w.people) > 0 then 'somebody by name' when w.organisation_id is not null then 'an organisation' else 'whoever is there' end as to,
       (select count(*) from round_premises q where q.round_id = w.round_id and q.letter = w.number)::int as premises, to_char(w.posted_on, 'YYYY-MM-DD') as "postedOn"
     from round_letter w where w.round_id = ? order by w.number`,
    [[...held], round] as never,
  )
  return rows
}

/**
 * Of the letters of a released round that were not posted yet, those that must not leave as of an instant, with the reason: a suppression of
 * the address they go to, of the household there, of whom they name, or of the organisation they go to. Where nobody else is named on
 * the envelope than whoever is there, somebody there who asked us to stop speaks for the house.
 */
export async function lettersHeld(trx: Knex, round: number, at: Date): Promise<Map<number, Reason>> {
  const { rows } = await trx.raw(
    `with letter as materialized (select number, keys, people, organisation_id from round_letter where round_id = :round and posted_on is null and outcome is null),
     named as materialized (select w.number, f.id from letter w cross join unnest(w.people) as p(id)
       cross join lateral (select coalesce(m.merged_into, m.id) as root from person m where m.id = p.id) r
       cross join lateral (select r.root as id union all select o.id from person o where o.merged_into = r.root) f),
     held as (
       select w.number, k.suppression_id as id from letter w cross join unnest(w.keys) as own(key) join suppression_key k on k.key = own.key and k.channel in ('post', 'household')
         join suppression s on s.id = k.suppression_id and s.scope <> 'person'
       union all select n.number, t.suppression_id from named n join suppression_touch t on t.person_id = n.id left join address a on a.id = t.address_id
         where t.address_id is null or a.channel = 'post'
       union all select w.number, s.id from letter w join suppression s on s.organisation_id = w.organisation_id
       union all select w.number, k.suppression_id from letter w join organisation o on o.id = w.organisation_id join suppression_key k on k.key = o.key and k.channel = 'organisation'),
     places as materialized (select w.number as ref, own.key from letter w cross join unnest(w.keys) as own(key)),
     asked as (
       select a.ref as number, a.id from (${askedThere('places')}) a
       where exists (select 1 from round r where r.id = :round and r.letters ->> 'to' = 'occupier' and r.letters ->> 'wording' in ('resident', 'name or resident')))
     select distinct on (h.number) h.number, s.reason from (
       select number, id, false as asked from held union all select number, id, true from asked) h join suppression_standing s on s.id = h.id
     where (not h.asked or s.reason in ('opt-out', 'complaint')) and 'post' = any(s.channels) and s.since <= :at and (s.until is null or s.until > :at) order by h.number, s.id`,
    { round, at } as never,
  )
  return new Map(rows.map((row: { number: number; reason: Reason }) => [row.number, row.reason]))
}

/** The letters that a file or labels of a released round leave out now: those that were stopped, and those that must not leave as of an instant. */
export async function lettersLeftOut(trx: Knex, round: number, at: Date): Promise<number[]> {
  const stopped = await trx('round_letter').where({ round_id: round, outcome: 'stopped' }).select('number')
  return [...stopped.map((row) => row.number), ...(await lettersHeld(trx, round, at)).keys()].sort((a, b) => a - b)
}

/** Locks letters of a round of premises, in the order of their numbers. */
export async function lockLetters(trx: Knex, round: number, only: readonly number[] | null): Promise<void> {
  await trx.raw(
    `select 1 from round_letter where round_id = ?${only ? ' and number = any(?::int[])' : ''} order by number for no key update`,
    [round, ...(only ? [[...only]] : [])] as never,
  )
}

/** Writes that letters were posted, by whom, and the entries that say so of each. */
export async function updatePosted(
  trx: Knex,
  round: number,
  { day, by, letters }: { day: string; by: string; letters: readonly { number: number; entries: readonly number[] }[] },
): Promise<void> {
  await trx.raw(
    `update round_letter w set posted_on = ?::date, posted_by = ?, entries = r.entries
     from jsonb_to_recordset(?::jsonb) as r(number int, entries bigint[]) where w.round_id = ? and w.number = r.number`,
    [day, by, JSON.stringify(letters), round],
  )
}

/** Marks letters as stopped. */
export async function updateStopped(trx: Knex, round: number, numbers: readonly number[], at: Date): Promise<void> {
  await trx('round_letter')
    .where({ round_id: round })
    .whereRaw('number = any(?::int[])', [[...numbers]])
    .update({ outcome: 'stopped', outcome_at: at })
}

/** Of the letters of a round that were posted and of which nothing was heard: their numbers, and the entries of their posting. */
export async function postedUnheard(trx: Knex, round: number): Promise<{ number: number; entries: number[] }[]> {
  const rows = await trx('round_letter')
    .where({ round_id: round })
    .whereNotNull('posted_on')
    .whereNull('outcome')
    .orderBy('number')
    .select('number', 'entries')
  return rows.map(({ number, entries }) => ({ number, entries: entries.map(Number) }))
}

/** Takes back that letters were posted. */
export async function clearPosted(trx: Knex, round: number, numbers: readonly number[]): Promise<void> {
  await trx('round_letter')
    .where({ round_id: round })
    .whereRaw('number = any(?::int[])', [[...numbers]])
    .update({ posted_on: null, posted_by: null, entries: [] })
}

/** Letters that were stopped are to be posted again, unless they still must not leave. */
export async function clearStopped(trx: Knex, round: number): Promise<void> {
  await trx('round_letter').where({ round_id: round, outcome: 'stopped' }).update({ outcome: null, outcome_at: null })
}

/** What became of a letter, and the entries that say so; null: nothing yet. */
export async function updateOutcome(
  trx: Knex,
  round: number,
  number: number,
  { outcome, at, entries }: { outcome: LetterOutcome | null; at: Date | null; entries: readonly number[] },
): Promise<void> {
  await trx('round_letter')
    .where({ round_id: round, number })
    .update({ outcome, outcome_at: at, outcome_entries: [...entries] })
}

/** Returns the entries that the outcome of a letter made, so that they can be reversed. */
export async function outcomeEntries(trx: Knex, round: number, number: number): Promise<number[]> {
  const row = await trx('round_letter').where({ round_id: round, number }).first('outcome_entries')
  return (row?.outcome_entries ?? []).map(Number)
}

/** Of some people, who is live, or whom they were merged into. */
export async function liveRoots(trx: Knex, people: readonly number[]): Promise<Map<number, number>> {
  const { rows } = await trx.raw(
    `select p.id, r.id as root from person p join person r on r.id = coalesce(p.merged_into, p.id) and r.state = 'live' where p.id = any(?::bigint[])`,
    [[...people]] as never,
  )
  return new Map(rows.map((row: { id: number; root: number }) => [row.id, row.root]))
}

/** Of whom some entries are, those that were reversed aside. */
export async function subjectsOf(
  trx: Knex,
  entries: readonly number[],
): Promise<{ id: number; person_id: number | null; premises_id: number | null }[]> {
  return await trx('entry as e')
    .whereRaw('e.id = any(?::bigint[])', [[...entries]])
    .whereNotExists(trx('entry as r').select(trx.raw('1')).whereRaw('r.reverses_id = e.id'))
    .orderBy('e.id')
    .select('e.id', 'e.person_id', 'e.premises_id')
}
