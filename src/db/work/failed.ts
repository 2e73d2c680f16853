import type { Knex } from '@/db/connection'

export async function trialOf(trx: Knex, id: number) {
  return await trx('batch').where({ id, state: 'mapping' }).first('trial')
}
