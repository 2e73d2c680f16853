import type { Knex } from 'knex'
import type { SessionLocks } from './session-locks'

/** Jobs that were taken so lately are left alone, in seconds: their pool may be about to say that it is there. */
const JUST_TAKEN = 5

/** The lock by which a pool of workers says that it is alive; the queue tells jobs that are taken by the name of their pool. */
export const poolLock = (pool: string): string => `pool ${pool}`

/** Says that this pool is there, for the page that tells of health. */
export async function beat(db: Knex, pool: string): Promise<void> {
  await db.raw(`insert into worker_beat (name, at) values (?, clock_timestamp()) on conflict (name) do update set at = excluded.at`, [pool])
  await db.raw(`delete from worker_beat where at < clock_timestamp() - interval '1 day'`)
}

/**
 * Lets go of the jobs of pools that are dead: those whose lock nobody holds. A pool that is paused holds its own, so nothing it
 * does is begun again beside it. Returns the names of the dead.
 */
export async function unlockDead(db: Knex, locks: SessionLocks): Promise<string[]> {
  const { rows } = await db.raw<{ rows: { pool: string }[] }>(
    'select locked_by as pool from graphile_worker.jobs where locked_by is not null group by 1 having max(locked_at) < clock_timestamp() - make_interval(secs => ?)',
    [JUST_TAKEN],
  )
  const dead: string[] = []
  for (const { pool } of rows) {
    // Held by us or by another that is alive, it cannot be taken.
    if (!(await locks.take(poolLock(pool)))) continue
    try {
      await db.raw('select graphile_worker.force_unlock_workers(array[?])', [pool])
      dead.push(pool)
    } finally {
      await locks.letGo(poolLock(pool))
    }
  }
  return dead
}

/** A job that has used up its tries, by what it was to do and the key it was enqueued by. */
export interface GivenUp {
  id: string
  task: string
  key: string
  why: string | null
}

/** Jobs that nobody will try again. */
export async function givenUp(db: Knex): Promise<GivenUp[]> {
  const { rows } = await db.raw(
    `select id::text, task_identifier as task, key, last_error as why from graphile_worker.jobs where attempts >= max_attempts and locked_at is null and key is not null`,
  )
  return rows
}

/** Takes a job out of the queue for good. */
export async function dropJob(db: Knex, id: string): Promise<void> {
  await db.raw('select graphile_worker.complete_jobs(array[?::bigint])', [id])
}

/** Keys of the jobs that stand in the queue, those that have used up their tries among them. */
export async function queuedKeys(db: Knex): Promise<Set<string>> {
  const { rows } = await db.raw<{ rows: { key: string }[] }>('select key from graphile_worker.jobs where key is not null')
  return new Set(rows.map((row) => row.key))
}
