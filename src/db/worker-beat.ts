import type { Knex } from 'knex'

/** Workers that were not heard for longer than this are taken for dead, in seconds. They beat every two. */
const SILENCE = 6

/** Says that these workers are alive. */
export async function beat(db: Knex, workers: string[]): Promise<void> {
  await db.raw(
    `insert into worker_beat (name, at) select unnest(?::text[]), clock_timestamp() on conflict (name) do update set at = excluded.at`,
    [workers],
  )
}

/**
 * Lets go of what dead workers held. The queue itself waits four hours before it takes a job from a worker that was
 * killed; its jobs are safe to run twice at once, so there is no need to. Those of the caller are alive, however long a
 * machine that slept kept them from saying so.
 */
export async function unlockDead(db: Knex, own: string[]): Promise<string[]> {
  const { rows } = await db.raw<{ rows: { id: string }[] }>(
    `with held as (
       select locked_by as id from graphile_worker._private_jobs where locked_by is not null
       union select locked_by from graphile_worker._private_job_queues where locked_by is not null)
     select id from held where id not in (select name from worker_beat where at > clock_timestamp() - make_interval(secs => ?))
       and not id = any(?::text[])`,
    [SILENCE, own] as never,
  )
  const dead = rows.map((row) => row.id)
  if (dead.length > 0) await db.raw('select graphile_worker.force_unlock_workers(?::text[])', [dead])
  await db.raw(`delete from worker_beat where at < clock_timestamp() - interval '1 day'`)
  return dead
}
