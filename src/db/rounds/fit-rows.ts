import type { CheckPlan, Outcome } from '@/core/checks/plan'
import type { UnfitReason, Verdict } from '@/core/checks/patterns'
import type { StratumPart } from '@/core/checks/parts'
import type { Origin } from '@/core/checks/strata'
import type { Line } from '@/core/lists/line'
import type { Knex } from '@/db/connection'
import { seenBy } from '@/db/lists/list-rows'
import { insertRows } from '@/db/insert-rows'

export interface FitCheckRow {
  id: number
  round_id: number
  list_id: number
  number: number
  plan: CheckPlan
  basis: string
  strata: (Origin & { size: number; part?: StratumPart })[]
  /** Of the edition it was drawn from. */
  lines: Line[]
  edition: number
  drawn_at: Date
  drawn_by: string
  ended_at: Date | null
  ended_by: string | null
  outcome: Outcome | null
}

/** The newest fit check of a round; locked where it is to be changed. */
export async function newestFitCheck(trx: Knex, round: number): Promise<FitCheckRow | undefined> {
  return await checks(trx).where('c.round_id', round).orderBy('c.number', 'desc').first()
}

/** A fit check, locked to the end of the transaction. */
export async function lockFitCheck(trx: Knex, id: number): Promise<FitCheckRow | undefined> {
  if (!Number.isSafeInteger(id)) return undefined
  await trx('fit_check').where({ id }).forNoKeyUpdate().select('id')
  return await checks(trx).where('c.id', id).first()
}

const checks = (trx: Knex) =>
  trx('fit_check as c')
    .join('edition as e', 'e.id', 'c.edition_id')
    .leftJoin('user as d', 'd.id', 'c.drawn_by')
    .leftJoin('user as n', 'n.id', 'c.ended_by')
    .select(
      'c.id',
      'c.round_id',
      'c.list_id',
      'c.number',
      'c.plan',
      'c.basis',
      'c.strata',
      'e.lines',
      'e.number as edition',
      'c.drawn_at',
      'd.name as drawn_by',
      'c.ended_at',
      'n.name as ended_by',
      'c.outcome',
    )

/** Inserts a fit check with its plan, its seed and the sample that was drawn. */
export async function insertFitCheck(
  trx: Knex,
  check: {
    round_id: number
    list_id: number
    plan: CheckPlan
    seed: number
    edition_id: number
    basis: string
    strata: (Origin & { size: number; part?: StratumPart })[]
    drawn_at: Date
    drawn_by: string
  },
  sample: readonly { id: number; stratum: number }[],
): Promise<number> {
  const [{ id }] = await trx('fit_check')
    .insert({
      ...check,
      plan: JSON.stringify(check.plan),
      strata: JSON.stringify(check.strata),
      number: trx.raw('(select coalesce(max(number), 0) + 1 from fit_check where round_id = ?)', [check.round_id]),
    })
    .returning('id')
  await insertRows(
    trx,
    'fit_sample',
    { check_id: 'bigint', place: 'int', person_id: 'bigint', stratum: 'int' },
    sample.map((own, place) => ({ check_id: id, place, person_id: own.id, stratum: own.stratum })),
  )
  return id
}

/** Ends a fit check with its outcome. */
export async function updateEnded(trx: Knex, id: number, at: Date, by: string, outcome: Outcome): Promise<void> {
  await trx('fit_check').where({ id }).update({ ended_at: at, ended_by: by, outcome })
}

/** Somebody of a sample, with what a verdict rests on. Whoever was merged, withdrawn or erased is not `live`. */
export interface SampledRow {
  place: number
  person: number
  stratum: number
  live: boolean
  name: string
  role: string | null
  organisation: string | null
  organisation_id: number | null
  industry: string | null
  heads: number | null
  town: string | null
  relation: string | null
  tags: string[]
  /** The file they came in with. */
  file: string | null
  since: Date
}

/** Returns the sample of a check in its order, with what is shown of each person today. */
export async function sampledRows(trx: Knex, check: number): Promise<SampledRow[]> {
  const { rows } = await trx.raw(
    `select s.place, s.person_id as person, s.stratum, p.state = 'live' as live, p.name, p.role, o.name as organisation, o.id as organisation_id, o.industry, o.head_count as heads,
       p.town, p.relation, p.tags, b.file_name as file, p.created_at as since
     from fit_sample s join person p on p.id = s.person_id left join organisation o on o.id = p.organisation_id left join batch b on b.id = p.batch_id
     where s.check_id = ? order by s.place`,
    [check],
  )
  return rows
}

export interface VerdictRow {
  id: number
  check_id: number
  person_id: number
  by_id: string
  by: string
  verdict: Verdict
  reason: UnfitReason | null
  note: string | null
  facts: Buffer
  at: Date
  round: number
}

/** What stands of verdicts on some people as people of a list, the oldest first. */
export async function verdictRows(trx: Knex, list: number, people: readonly number[]): Promise<VerdictRow[]> {
  return await trx('fit_verdict as v')
    .join('fit_check as c', 'c.id', 'v.check_id')
    .join('round as r', 'r.id', 'c.round_id')
    .leftJoin('user as u', 'u.id', 'v.by_id')
    .where('v.list_id', list)
    .whereNull('v.taken_back_at')
    .whereRaw('v.person_id = any(?::bigint[])', [[...people]])
    .orderBy('v.id')
    .select(
      'v.id',
      'v.check_id',
      'v.person_id',
      'v.by_id',
      'u.name as by',
      'v.verdict',
      'v.reason',
      'v.note',
      'v.facts',
      'v.at',
      'r.number as round',
    )
}

/** Inserts a verdict. A later verdict of the same colleague on the same person replaces it by being later. */
export async function insertVerdict(
  trx: Knex,
  verdict: {
    check_id: number
    list_id: number
    person_id: number
    by_id: string
    verdict: Verdict
    reason: UnfitReason | null
    note: string | null
    relation_was: string | null
    relation_set: string | null
    facts: Buffer
    at: Date
  },
): Promise<number> {
  const [{ id }] = await trx('fit_verdict').insert(verdict).returning('id')
  return id
}

/** Takes back what somebody said of somebody in a check. Gives what it had set of how they stand to us; undefined where nothing was said. */
export async function takeBackVerdict(
  trx: Knex,
  check: number,
  person: number,
  by: string,
  at: Date,
): Promise<{ relation_was: string | null; relation_set: string | null } | undefined> {
  const [taken] = await trx('fit_verdict')
    .where({ check_id: check, person_id: person, by_id: by })
    .whereNull('taken_back_at')
    .update({ taken_back_at: at })
    .returning(['relation_was', 'relation_set'])
  return taken
}

/** Other lists of people that somebody may see, each with who was on it when changes were last told, as packed ids. */
export async function otherStandings(trx: Knex, list: number, who: string): Promise<{ id: number; name: string; members: Buffer }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, s.members from standing s join list l on l.id = s.list_id
     where l.id <> ? and l.subject = 'person' and l.deleted_at is null and l.archived_at is null and ${seenBy('l')} order by l.name, l.id`,
    [list, who],
  )
  return rows
}

/** Open rounds of other lists that somebody may see, in which a person is still to be contacted. */
export async function openRoundsOf(
  trx: Knex,
  list: number,
  person: number,
  who: string,
): Promise<{ id: number; called: string; list: string }[]> {
  const { rows } = await trx.raw(
    `select distinct r.id, called(r), l.name as list from contact_to_come t join person p on p.id = t.person_id join round r on r.id = t.round_id
       join list l on l.id = r.list_id
     where coalesce(p.merged_into, p.id) = ? and t.ended_at is null and r.closed_at is null and l.id <> ? and l.deleted_at is null and ${seenBy('l')} order by l.name, r.id`,
    [person, list, who],
  )
  return rows
}
