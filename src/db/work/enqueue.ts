import type { Knex } from 'knex'

/**
 * Puts a job in the queue in the caller's transaction: it exists when, and only when, the data it needs does. With `wait` it runs after so
 * many milliseconds.
 */
export async function enqueue<J extends keyof Jobs>(trx: Knex, job: J, payload: Jobs[J], wait = 0): Promise<void> {
  const { key, queue } = STANDS[job](payload)
  await trx.raw(
    `select graphile_worker.add_job(?, ?::json, queue_name => ?, job_key => ?, max_attempts => ?, run_at => now() + ? * interval '1 millisecond')`,
    [job, JSON.stringify(payload), queue, key, TRIES, wait] as never,
  )
}

/** Jobs by name, with what each is given. The names are all that use cases know of the jobs. */
export interface Jobs {
  'run-batch': { batch: number }
  'try-batch': { batch: number }
  'undo-batch': { batch: number }
  'run-enquiry': { enquiry: number }
  'find-doubles': { search: number }
  'compare-suppressions': { comparison: number }
  'read-feed': { feed: string }
  'send-mail': { run: number }
}

/** Of each job: the key it stands in the queue by, once for each thing it is about, and the queue in which it waits its turn. */
export const STANDS: { [J in keyof Jobs]: (of: Jobs[J]) => { key: string; queue: string | null } } = {
  'run-batch': ({ batch }) => ({ key: `batch-${batch}`, queue: 'intake' }),
  'try-batch': ({ batch }) => ({ key: `try-${batch}`, queue: 'intake' }),
  'undo-batch': ({ batch }) => ({ key: `undo-${batch}`, queue: 'intake' }),
  'run-enquiry': ({ enquiry }) => ({ key: `enquiry-${enquiry}`, queue: `enquiry-${enquiry}` }),
  'find-doubles': ({ search }) => ({ key: `doubles-${search}`, queue: null }),
  'compare-suppressions': ({ comparison }) => ({ key: `comparison-${comparison}`, queue: null }),
  'read-feed': ({ feed }) => ({ key: `feed-${feed}`, queue: null }),
  'send-mail': ({ run }) => ({ key: `mail-${run}`, queue: null }),
}

/** So often a job is tried, the last time some half an hour after the first. */
export const TRIES = 8
