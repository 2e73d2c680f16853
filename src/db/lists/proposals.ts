import { allows, type ListRole } from '@/core/records/list-roles'
import type { Line } from '@/core/lists/line'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

export interface ProposalRow {
  id: number
  list_id: number
  based_on: number
  lines: Line[]
  note: string
  proposed_by: string
  proposed_at: Date
  decision: 'taken' | 'not taken' | 'taken back' | null
  reason: string | null
  edition: number | null
}

/** Locks the proposals to a list that wait for a decision. */
export async function lockOpenProposals(trx: Knex, list: number) {
  return await trx('list_proposal').where({ list_id: list }).whereNull('decision').orderBy('id').forUpdate()
}

/** Writes the decision on a proposal, unless somebody decided it before. `own`: only by whoever proposed it. */
export async function writeDecision(
  trx: Knex,
  id: number,
  to: {
    decision: 'taken' | 'not taken' | 'taken back' | null
    decided_by: string
    reason?: string | undefined
    edition?: number | undefined
  },
  own: boolean,
) {
  return await trx('list_proposal')
    .where({ id })
    .whereNull('decision')
    .update({ ...to, decided_at: now(), ...(own ? { told_at: now() } : {}) })
}

/** Returns all columns of a proposal. */
export async function proposalRow(trx: Knex, id: number) {
  return await trx('list_proposal').where({ id }).first()
}

/** Returns how many proposals to a list wait for a decision. */
export async function countOpen(trx: Knex, id: number) {
  return await trx('list_proposal').where({ list_id: id }).whereNull('decision').count('id as n').first()
}

/** Inserts a proposal to a list and returns its id. */
export async function insertProposal(
  trx: Knex,
  { id, basedOn, named, note, actorId }: { id: number; basedOn: number; named: Line[]; note: string; actorId: string },
) {
  return await trx('list_proposal').insert(
    {
      list_id: id,
      based_on: basedOn,
      lines: JSON.stringify(named),
      note: String(note).trim().slice(0, 500),
      proposed_by: actorId,
      proposed_at: now(),
    },
    'id',
  )
}

/**
 * Returns the proposals that a colleague sees on a list: their own until they have read the decision, and the open ones where they may
 * edit.
 */
export async function proposalRows(trx: Knex, id: number, actorId: string, role: ListRole | null) {
  return await trx('list_proposal as p')
    .leftJoin('user as u', 'u.id', 'p.proposed_by')
    .leftJoin('user as d', 'd.id', 'p.decided_by')
    .where({ list_id: id })
    .where((some) => {
      some.where((own) => own.where('p.proposed_by', actorId).whereNull('p.told_at').whereRaw(`p.decision is distinct from 'taken back'`))
      if (allows(role, 'edit')) some.orWhereNull('p.decision')
    })
    .orderBy('p.id')
    .select('p.*', 'u.name as by', 'd.name as decider')
}

/** Marks the decision on one's own proposal as read. */
export async function markTold(trx: Knex, proposal: number, actorId: string) {
  return await trx('list_proposal').where({ id: proposal, proposed_by: actorId }).whereNotNull('decision').update({ told_at: now() })
}
