import { SUBJECT_NAMES } from '@/core/columns/subject'
import type { RoundIndexRow, RoundState } from '@/core/views/round-views'
import { nextPolicy, type Rule, validRules } from '@/core/screening/rules'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { latestEdition, type ListRow, seenBy } from '@/db/lists/list-rows'
import { lastRounds, type RoundRow } from '@/db/rounds/round-rows'

export const stateOf = (round: Pick<RoundRow, 'released_at' | 'closed_at'>): RoundState =>
  round.closed_at ? 'closed' : round.released_at ? 'released' : 'being built'

/** A round of a list this person may see; locked where it is to be changed, which is for those who may use the list. */
export async function roundFor(actor: Actor, id: number, trx: Knex = db(), lock = false): Promise<{ round: RoundRow; list: ListRow }> {
  const found = Number.isSafeInteger(id) ? await trx('round').where({ id }).first('list_id') : undefined
  if (!found) throw new Refused('There is no such round.', 'not found')
  // The list before the round, as everybody takes them.
  const list = await listFor(actor, found.list_id, lock ? 'use' : 'see', trx, lock)
  const query = trx('round').where({ id }).first()
  const round: RoundRow = await (lock ? query.forNoKeyUpdate() : query)
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
    const [{ id }] = await trx('round').insert(
      {
        list_id: listId,
        number: (newest?.number ?? 0) + 1,
        edition_id: edition.id,
        rules: JSON.stringify(nextPolicy(released?.rules ?? [])),
        started_at: now(),
        started_by: actor.id,
        requalified_at: now(),
      },
      'id',
    )
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
    await trx('round')
      .where({ id })
      .update({ rules: JSON.stringify(checked) })
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
  const due = await trx('contact_to_come').where({ round_id: round.id }).whereNull('ended_at').select('person_id', 'channel')
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
  await trx('contact_to_come').where({ round_id: round.id }).whereNull('ended_at').update({ ended_at: at })
  await trx('round').where({ id: round.id }).update({ closed_at: at, closed_by: actor.id })
}

/** Every round of the lists this person may see, the newest first. */
export async function roundIndex(actor: Actor): Promise<RoundIndexRow[]> {
  const { rows } = await db().raw(
    `select r.id, r.number, r.list_id, l.name, r.started_at, r.released_at, r.closed_at, u.name as by,
       (r.figures #>> '{screening,opening}')::int as listed, (r.figures #>> '{screening,anyone}')::int as clear,
       (select count(*) from contact_to_come t where t.round_id = r.id and t.ended_at is null)::int as to_come
     from round r join list l on l.id = r.list_id left join "user" u on u.id = coalesce(r.released_by, r.started_by)
     where l.deleted_at is null and ${seenBy('l')}
     order by r.closed_at is not null, coalesce(r.released_at, r.started_at) desc`,
    [actor.id],
  )
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
