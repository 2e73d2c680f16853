import type { Knex } from '@/db/connection'

/** Whether the worker gave a sign of life within `most` seconds; null where the database does not answer. */
export async function workerUp(trx: Knex, most: number) {
  return await trx
    .raw(`select coalesce(max(at) > clock_timestamp() - interval '${most} seconds', false) as up from worker_beat`)
    .then(({ rows }) => (rows[0].up ? ('up' as const) : ('down' as const)))
    .catch(() => null)
}
