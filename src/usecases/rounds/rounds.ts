import type { Subject } from '@/core/records/subject'
import type { RoundState } from '@/core/views/round-views'
import { type Rule, validRules } from '@/core/screening/rules'
import { slugOf } from '@/core/text/slug'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import type { ListRow } from '@/db/lists/list-rows'
import { listOfRound, type RoundRow, roundRow } from '@/db/rounds/round-rows'

/** Returns how far a round is: being built, released or closed. */
export const stateOf = (round: Pick<RoundRow, 'released_at' | 'closed_at'>): RoundState =>
  round.closed_at ? 'closed' : round.released_at ? 'released' : 'being built'

/** What a round is called after the word: "4", or "4, supplement 1"; as `called` in the database. */
export const calledOf = ({ number, supplement }: Pick<RoundRow, 'number' | 'supplement'>): string =>
  supplement === 0 ? String(number) : `${number}, supplement ${supplement}`

/** The same as the beginning of a file's name: "round-4-supplement-1". */
export const roundSlug = (round: Pick<RoundRow, 'number' | 'supplement'>): string => slugOf(`round ${calledOf(round)}`, 'round')

/** A round of people whose list this person may see; locked where it is to be changed, which is for those who may use the list. */
export async function roundFor(actor: Actor, id: number, trx: Knex = db(), lock = false): Promise<{ round: RoundRow; list: ListRow }> {
  const found = await anyRoundFor(actor, id, trx, lock)
  if (found.list.subject !== 'person') throw new Refused('This round sends letters to premises. It has no people of its own.', 'not found')
  return found
}

/** The same of a round of people or of premises. */
export async function anyRoundFor(actor: Actor, id: number, trx: Knex = db(), lock = false): Promise<{ round: RoundRow; list: ListRow }> {
  const found = Number.isSafeInteger(id) ? await listOfRound(trx, id) : undefined
  if (!found) throw new Refused('There is no such round.', 'not found')
  // The list before the round, as everybody takes them.
  const list = await listFor(actor, found.list_id, lock ? 'use' : 'see', trx, lock)
  const round: RoundRow = await roundRow(trx, id, lock)
  if (round.supplement > 0 && round.closed_at && !round.released_at)
    throw new Refused('This supplement was dropped before it was released.', 'not found')
  return { round, list }
}

/** Whether a round goes to people or sends letters to premises. */
export const subjectOfRound = async (actor: Actor, id: number): Promise<Subject> => (await anyRoundFor(actor, id)).list.subject

/** Rules as they were sent. Throws Refused where they are none. */
export function rulesMeant(raw: unknown): Rule[] {
  try {
    return validRules(raw)
  } catch (error) {
    throw new Refused(`The rules were not changed. ${(error as Error).message}.`)
  }
}
