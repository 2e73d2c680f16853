import { fold } from '@/core/clean/fold'
import type { Comparable } from '@/core/match/compare'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { insertRows } from '@/db/insert-rows'
import { tabled, type Weights } from '@/core/match/estimate'
import { SAME } from '@/core/match/pairs'

/** Everybody in the directory by what they are compared by. */
export async function everybody(trx: Knex): Promise<{ ids: number[]; records: Comparable[] }> {
  const { rows } = await trx.raw(
    `select p.id, p.given, p.family, o.name_key as organisation, p.address_key, p.town, p.postcode, a.emails, a.phones
     from person p left join organisation o on o.id = p.organisation_id
       left join (select person_id, array_agg(value) filter (where channel = 'email') as emails, array_agg(value) filter (where channel = 'phone') as phones
         from address where usable and channel in ('email', 'phone') group by 1) a on a.person_id = p.id
     where p.state = 'live' order by p.id`,
  )
  const ids: number[] = []
  const records: Comparable[] = []
  for (const r of rows) {
    ids.push(r.id)
    records.push({
      given: fold(r.given),
      family: fold(r.family),
      organisation: r.organisation ?? '',
      street: (r.address_key ?? '').split('|')[0],
      postcode: fold(r.postcode ?? ''),
      town: fold(r.town ?? ''),
      emails: r.emails ?? [],
      phones: r.phones ?? [],
    })
  }
  return { ids, records }
}

/** Returns the last search for duplicates, with who started it; undefined where none was made. */
export async function lastSearch(trx: Knex) {
  return await trx('doubles_search as s').leftJoin('user as u', 'u.id', 's.actor_id').orderBy('s.id', 'desc').first('s.*', 'u.name as by')
}

/** Returns how many pairs were decided each way. */
export async function decidedCounts(trx: Knex) {
  return await trx('likeness').whereNotNull('decided').groupBy('decided').select('decided', trx.raw('count(*)::int as n'))
}

/** Returns a pair of people in either order; undefined where no search found it. */
export async function pairRow(trx: Knex, a: number, b: number) {
  return await trx('likeness')
    .where({ a: Math.min(a, b), b: Math.max(a, b) })
    .first('a', 'b', 'chance', 'agreement', 'decided')
}

/** Locks a pair for a decision. `low` is the lower id. */
export async function lockPair(trx: Knex, low: number, high: number) {
  return await trx('likeness').where({ a: low, b: high }).forUpdate().first('decided')
}

/** Writes the decision on a pair: two people, or one with the id to keep. */
export async function updateDecided(trx: Knex, low: number, high: number, decision: string | { same: number }, actorId: string) {
  return await trx('likeness')
    .where({ a: low, b: high })
    .update({ decided: decision === 'different' ? 'different' : 'same', decided_by: actorId, decided_at: now() })
}

/** Reopens a pair that was decided as two people. */
export async function reopen(trx: Knex, a: number, b: number) {
  return await trx('likeness')
    .where({ a: Math.min(a, b), b: Math.max(a, b), decided: 'different' })
    .update({ decided: null, decided_by: null, decided_at: null })
}

/** Waits for other searches to begin or end, so that only one search runs at a time. */
export async function lockSearches(trx: Knex) {
  return await trx.raw('lock table doubles_search in share row exclusive mode')
}

/** Returns the search for duplicates that is queued or running, if any. */
export async function searchUnderWay(trx: Knex) {
  return await trx('doubles_search').whereIn('state', ['queued', 'running']).first('id')
}

/** Inserts a search for duplicates and returns its id. */
export async function insertSearch(trx: Knex, actorId: string) {
  return await trx('doubles_search').insert({ actor_id: actorId, started_at: now() }, 'id')
}

/** Returns a search for duplicates by its id. */
export async function searchRow(trx: Knex, id: number) {
  return await trx('doubles_search').where({ id }).first()
}

/** Marks a search as running, with how many people it compares. */
export async function beginSearch(trx: Knex, id: number, ids: number[]) {
  return await trx('doubles_search').where({ id }).update({ state: 'running', people: ids.length, done: 0 })
}

/** Keeps how many people a search has compared. */
export async function updateProgress(trx: Knex, id: number, done: number) {
  return await trx('doubles_search').where({ id }).update({ done })
}

/** Writes the pairs that a search found. A pair found before keeps its decision and takes the new chance. */
export async function writePairs(trx: Knex, rows: { a: number; b: number; chance: number; agreement: number[]; search_id: number }[]) {
  return await insertRows(
    trx,
    'likeness',
    { a: 'bigint', b: 'bigint', chance: 'real', agreement: 'smallint[]', search_id: 'bigint' },
    rows,
    {
      conflict: '(a, b) do update set chance = excluded.chance, agreement = excluded.agreement, search_id = excluded.search_id',
    },
  )
}

/** Sets the chance of undecided pairs that this search did not find to 0, so that they are no longer shown. */
export async function dropChances(trx: Knex, id: number) {
  return await trx('likeness').whereNot({ search_id: id }).whereNull('decided').update({ chance: 0 })
}

/** Marks a search as done, with how many pairs it compared and the weights it learned. */
export async function finishSearch(trx: Knex, id: number, compared: number, weights: Weights) {
  return await trx('doubles_search')
    .where({ id })
    .update({ state: 'done', done: 1, compared, weights: JSON.stringify(tabled(weights)), finished_at: now() })
}

/** Decides that two people who were merged and parted again are two. */
export async function decideDifferent(trx: Knex, keep: number, merged: number, actorId: string, at: Date) {
  return await trx('likeness')
    .where({ a: Math.min(keep, merged), b: Math.max(keep, merged) })
    .update({ decided: 'different', decided_by: actorId, decided_at: at })
}

export const OPEN = `l.decided is null and l.chance > 0 and exists (select 1 from person p where p.id = l.a and p.state = 'live') and exists (select 1 from person p where p.id = l.b and p.state = 'live')`

export const SHOWN = 60

/** Returns how many pairs wait for a decision, and how many of them are as good as certain. */
export async function openCounts(trx: Knex) {
  const { rows } = await trx.raw(
    `select count(*)::int as open, (count(*) filter (where l.chance >= ?))::int as sure from likeness l where ${OPEN}`,
    [SAME],
  )
  return rows
}

/** Returns the pairs that wait for a decision, most likely first, up to what a page shows. */
export async function openPairs(trx: Knex) {
  return await trx.raw(
    `select l.a, l.b, l.chance, pa.name as "aName", pb.name as "bName", oa.name as "aOrganisation", ob.name as "bOrganisation"
     from likeness l join person pa on pa.id = l.a join person pb on pb.id = l.b left join organisation oa on oa.id = pa.organisation_id left join organisation ob on ob.id = pb.organisation_id
     where ${OPEN} order by l.chance desc, l.a, l.b limit ${SHOWN}`,
  )
}

/** Returns the weights of the latest search that compared at least `most` people; undefined where there is none. */
export async function lastWeights(trx: Knex, most: number) {
  return await trx('doubles_search')
    .where({ state: 'done' })
    .where('people', '>=', most)
    .whereNotNull('weights')
    .orderBy('id', 'desc')
    .first('weights')
}
