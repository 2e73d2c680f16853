import type { Knex } from 'knex'

/** Jobs by name, with what each is given. The names are all that use cases know of the jobs. */
export interface Jobs {
  'run-batch': { batch: number }
  'try-batch': { batch: number }
  'undo-batch': { batch: number }
  'run-enquiry': { enquiry: number }
  'find-doubles': { search: number }
}

/** Puts a job in the queue in the caller's transaction: it exists when, and only when, the data it needs does. */
export async function enqueue<J extends keyof Jobs>(trx: Knex, job: J, payload: Jobs[J], options: { queue?: string; key?: string } = {}): Promise<void> {
  await trx.raw('select graphile_worker.add_job(?, ?::json, queue_name => ?, job_key => ?, max_attempts => 12)', [
    job,
    JSON.stringify(payload),
    options.queue ?? null,
    options.key ?? null,
  ] as never)
}
