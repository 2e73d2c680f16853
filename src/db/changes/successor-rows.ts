import type { Knex } from '@/db/connection'

/** People in the directory who have a name, but for one: so many as anybody can choose among. */
export async function likeNamed(trx: Knex, nameKey: string, but: number): Promise<number[]> {
  return await trx('person').where({ name_key: nameKey, state: 'live' }).whereNot({ id: but }).orderBy('id').limit(20).pluck('id')
}

/** A batch of one row that waits for a decision. Gives its number. */
export async function insertInDoubt(
  trx: Knex,
  row: {
    file: string
    header: string[]
    mapping: string[]
    raw: string[]
    reason: string
    candidates: number[]
    actor: string
    at: Date
  },
): Promise<number> {
  const [{ id }] = await trx('batch')
    .insert({
      kind: 'people',
      file_name: row.file.slice(0, 200),
      state: 'done',
      header: row.header,
      mapping: JSON.stringify(row.mapping),
      shaping: '{}',
      reading: JSON.stringify({ format: 'csv' }),
      choices: '{}',
      rows_total: 1,
      rows_done: 1,
      actor_id: row.actor,
      created_at: row.at,
      finished_at: row.at,
    })
    .returning('id')
  await trx('batch_row').insert({
    batch_id: id,
    row_no: 1,
    raw: row.raw,
    outcome: 'in doubt',
    reason: row.reason,
    candidates: row.candidates,
  })
  return id
}
