import type { Knex } from '@/db/connection'

export type ChangeAct = 'take' | 'let go' | 'handle' | 'set aside' | 'reopen'

/** A change, locked, with who has it. */
export async function lockChange(trx: Knex, id: number) {
  return await trx('change as c')
    .leftJoin('user as u', 'u.id', 'c.state_by')
    .where('c.id', id)
    .forNoKeyUpdate('c')
    .first('c.id', 'c.state', 'c.state_by', 'c.state_at', 'c.gone_at', 'c.gone_why', 'u.name as by')
}

/** Records what a colleague did with a change, and moves the change to the state that follows from it. */
export async function writeAct(
  trx: Knex,
  id: number,
  act: ChangeAct,
  state: 'open' | 'taken' | 'handled' | 'set aside',
  actor: string,
  at: Date,
): Promise<void> {
  await trx('change_act').insert({ change_id: id, act, actor_id: actor, at })
  await trx('change').where({ id }).update({ state, state_by: actor, state_at: at })
}

/** What a colleague keeps of a change for themselves: the day until which they put it off, or null. */
export async function putOffRow(trx: Knex, id: number, me: string, until: string | null, at: Date): Promise<void> {
  await trx('change_mine')
    .insert({ change_id: id, user_id: me, put_off_until: until, put_off_at: at })
    .onConflict(['change_id', 'user_id'])
    .merge()
}

/** Lets go of every change somebody had taken. */
export async function letGoOf(trx: Knex, who: string, actor: string, at: Date): Promise<void> {
  const gone = await trx('change')
    .where({ state: 'taken', state_by: who })
    .update({ state: 'open', state_by: actor, state_at: at })
    .returning('id')
  if (gone.length > 0)
    await trx('change_act').insert(gone.map(({ id }: { id: number }) => ({ change_id: id, act: 'let go', actor_id: actor, at })))
}
