import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { SUBJECT_COLUMN } from '@/db/changes/change-rows'
import { insertRows } from '@/db/insert-rows'
import { now } from '@/runtime/clock'

/** How changes put their record on a list: by a proposal, or by an edition in the name of whoever set it up. */
export interface Placement {
  how: 'proposal' | 'edition'
  kinds: number[]
}

/** Returns which kinds of change put their subject on a list, and how; null where none does. */
export async function placementOf(trx: Knex, list: number): Promise<Placement | null> {
  const row = await trx('list_placement').where({ list_id: list }).first('how')
  if (!row) return null
  const kinds = await trx('list_placement_kind').where({ list_id: list }).orderBy('kind_id').select('kind_id')
  return { how: row.how, kinds: kinds.map(({ kind_id }) => kind_id) }
}

/** Writes how changes put their record on a list from now on; with no kinds, none does any more. */
export async function writePlacement(trx: Knex, list: number, by: string, { how, kinds }: Placement): Promise<void> {
  await trx('list_placement').where({ list_id: list }).delete()
  if (kinds.length === 0) return
  await trx('list_placement').insert({ list_id: list, how, set_by: by, set_at: now() })
  await trx('list_placement_kind').insert(kinds.map((kind) => ({ list_id: list, kind_id: kind })))
}

export interface PlacingList extends Placement {
  list: number
  name: string
  set_by: string
}

/** Lists on which changes put their record, with whoever set that up; those put away are not among them. */
export async function placingLists(trx: Knex): Promise<Omit<PlacingList, 'kinds'>[]> {
  return await trx('list_placement as p')
    .join('list as l', 'l.id', 'p.list_id')
    .whereNull('l.deleted_at')
    .whereNull('l.archived_at')
    .orderBy('p.list_id')
    .select('p.list_id as list', 'l.name', 'p.how', 'p.set_by')
}

/** A change that could put its record on a list. */
export interface ToPlace {
  change: number
  /** The record that stands, where its own was merged. */
  record: number
  kind: string
}

/**
 * Fresh changes of the kinds of a list's placement, learned of after it was set up, that are sure, that nobody set aside and that were not
 * dealt with for the list: so many at most, the oldest first. Those of records that are gone are not among them.
 */
export async function changesToPlace(trx: Knex, list: number, of: Subject, today: string, most: number): Promise<ToPlace[]> {
  const own = SUBJECT_COLUMN[of]
  const stands =
    of === 'person'
      ? `join person w on w.id = c.person_id join person r on r.id = coalesce(w.merged_into, w.id) and r.state = 'live'`
      : `join ${of} r on r.id = c.${own} and ${of === 'organisation' ? 'r.live' : `r.state = 'live'`}`
  const { rows } = await trx.raw<{ rows: ToPlace[] }>(
    `select c.id as change, r.id as record, k.name as kind
     from list_placement p join list_placement_kind pk using (list_id) join change c on c.kind_id = pk.kind_id and c.learned_at > p.set_at
       join change_kind k on k.id = c.kind_id ${stands}
     where p.list_id = :list and c.told_at is not null and c.gone_at is null and c.sure <> 'to be confirmed' and c.state <> 'set aside'
       and k.archived_at is null and (k.fresh_days is null or c.by_day >= :today::date - k.fresh_days)
       and not exists (select 1 from placed d where d.list_id = p.list_id and d.change_id = c.id)
     order by c.id limit :most`,
    { list, today, most } as never,
  )
  return rows
}

/** What proposals that still wait put on a list by changes: each with the changes behind it that still count, and their records. */
export async function waitingPlacements(trx: Knex, list: number, of: Subject): Promise<(ToPlace & { proposal: number })[]> {
  const record = of === 'person' ? 'coalesce(w.merged_into, w.id)' : `c.${SUBJECT_COLUMN[of]}`
  const { rows } = await trx.raw(
    `select d.change_id as change, ${record} as record, k.name as kind, d.proposal_id as proposal
     from placed d join list_proposal o on o.id = d.proposal_id and o.decision is null join change c on c.id = d.change_id
       join change_kind k on k.id = c.kind_id ${of === 'person' ? 'join person w on w.id = c.person_id' : ''}
     where d.list_id = ? and c.gone_at is null and c.state <> 'set aside' order by d.change_id for update of o`,
    [list],
  )
  return rows
}

/** Notes what became of changes for a list; of one that was dealt with before, what became of it now. */
export async function writePlaced(
  trx: Knex,
  list: number,
  changes: readonly number[],
  outcome: 'on already' | 'taken off before' | 'proposed' | 'put on',
  proposal: number | null = null,
): Promise<void> {
  await insertRows(
    trx,
    'placed',
    { list_id: 'bigint', change_id: 'bigint', outcome: 'text', proposal_id: 'bigint', at: 'timestamptz' },
    changes.map((change) => ({ list_id: list, change_id: change, outcome, proposal_id: proposal, at: now() })),
    {
      conflict: '(list_id, change_id) do update set outcome = excluded.outcome, proposal_id = excluded.proposal_id, at = excluded.at',
    },
  )
}
