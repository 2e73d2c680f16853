import { SUBJECT_NAMES } from '@/core/records/subject'
import type { RoundIndexRow, RoundState } from '@/core/views/round-views'
import { type Rule, validRules } from '@/core/screening/rules'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { latestEdition, type ListRow } from '@/db/lists/list-rows'
import { insertRound, lastRounds, listOfRound, type RoundRow, roundRow, roundRows, updateClosed, updateRules } from '@/db/rounds/round-rows'
import { endToCome, openToCome } from '@/db/rounds/contacts-to-come'

export const stateOf = (round: Pick<RoundRow, 'released_at' | 'closed_at'>): RoundState =>
  round.closed_at ? 'closed' : round.released_at ? 'released' : 'being built'

/** A round of a list this person may see; locked where it is to be changed, which is for those who may use the list. */
export async function roundFor(actor: Actor, id: number, trx: Knex = db(), lock = false): Promise<{ round: RoundRow; list: ListRow }> {
  const found = Number.isSafeInteger(id) ? await listOfRound(trx, id) : undefined
  if (!found) throw new Refused('There is no such round.', 'not found')
  // The list before the round, as everybody takes them.
  const list = await listFor(actor, found.list_id, lock ? 'use' : 'see', trx, lock)
  const round: RoundRow = await roundRow(trx, id, lock)
  return { round, list }
}

/**
 * Begins the next round of a list, with the rules of the one before. A round of the list that is still out ends with it;
 * one that is still being built is gone on with.
 */
export async function startRound(actor: Actor, listId: number): Promise<number> {
  mustCoordinate(actor, 'Starting a round')
  return db().transaction(async (trx) => {
    const list = await listFor(actor, listId, 'use', trx, true)
    if (list.subject !== 'person')
      throw new Refused(
        `A round goes to people, and this is a list of ${SUBJECT_NAMES[list.subject]}. Make a list of people with a line that names this one.`,
      )
    const { released, newest } = await lastRounds(listId, trx)
    if (newest && !newest.released_at) return newest.id
    if (newest && !newest.closed_at) await endRound(trx, actor, newest)
    const edition = await latestEdition(listId, trx)
    const [{ id }] = await insertRound(trx, { listId, newest, editionId: edition.id, released, actorId: actor.id })
    return id
  })
}

/** Rules as they were sent. Throws Refused where they are none. */
export function rulesMeant(raw: unknown): Rule[] {
  try {
    return validRules(raw)
  } catch (error) {
    throw new Refused(`The rules were not changed. ${(error as Error).message}.`)
  }
}

/** Changes the rules of a round that is being built. */
export async function setRules(actor: Actor, id: number, rules: unknown): Promise<void> {
  mustCoordinate(actor, 'Changing the rules of a round')
  const checked = rulesMeant(rules)
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: its rules are frozen.')
    await updateRules(trx, id, checked)
  })
}

/** Closes a round that is out. Contacts it did not make get an entry each that says so. */
export async function closeRound(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Closing a round')
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (!round.released_at) throw new Refused('The round is not released yet, so there is nothing to close.')
    if (round.closed_at) throw new Refused('The round is closed already.')
    await endRound(trx, actor, round)
  })
}

async function endRound(trx: Knex, actor: Actor, round: RoundRow): Promise<void> {
  const at = now()
  const due = await openToCome(trx, round.id)
  await writeEntries(
    trx,
    due.map((d) => ({
      person: d.person_id,
      kind: 'not worked' as const,
      at,
      actor: actor.id,
      channel: d.channel,
      round: round.id,
      list: round.list_id,
    })),
    at,
  )
  await endToCome(trx, round.id, at)
  await updateClosed(trx, round.id, at, actor.id)
}

/** Every round of the lists this person may see, the newest first. */
export async function roundIndex(actor: Actor): Promise<RoundIndexRow[]> {
  const rows = await roundRows(db(), actor.id)
  return rows.map((row: never) => indexRow(row))
}

function indexRow(row: {
  id: number
  number: number
  list_id: number
  name: string
  started_at: Date
  released_at: Date | null
  closed_at: Date | null
  by: string
  listed: number | null
  clear: number | null
  to_come: number
}): RoundIndexRow {
  return {
    id: row.id,
    number: row.number,
    listId: row.list_id,
    list: row.name,
    state: stateOf(row),
    at: (row.closed_at ?? row.released_at ?? row.started_at).toISOString(),
    by: row.by,
    listed: row.listed,
    clear: row.clear,
    toCome: row.to_come,
  }
}
