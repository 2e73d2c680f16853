import { EventEmitter } from 'node:events'
import { run, type WorkerEvents } from 'graphile-worker'
import { connect, setDb } from '@/db/connection'
import { SessionLocks } from '@/db/work/session-locks'
import { beat, dropJob, givenUp, poolLock, unlockDead } from '@/db/work/worker-pools'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { sweepFolders } from '@/runtime/temp-folder'
import { numberOfKey } from '@/usecases/work/enqueue'
import { takeUpWork } from '@/usecases/work/take-up-work'
import { workFailed } from '@/usecases/work/work-failed'
import { taskList } from './tasks'
import { watchChanges } from './watch-changes'
import type { Jobs } from '@/db/work/enqueue'

const { APP_DATABASE_URL } = settings()
const db = connect(APP_DATABASE_URL, 5)
setDb(db)

// Whoever loses its locks is taken for dead by the others, so it must be.
const locks = await SessionLocks.open(APP_DATABASE_URL, (why) => {
  log.error({ why }, 'the worker lost its locks and ends; it is started again')
  process.exit(1)
})

let pool: string | null = null
const events = new EventEmitter() as WorkerEvents
events.on('pool:create', ({ workerPool }) => {
  pool = workerPool.id
  locks.take(poolLock(pool)).catch(() => {})
})
const runner = await run({
  connectionString: APP_DATABASE_URL,
  concurrency: 2,
  noHandleSignals: true,
  pollInterval: 1000,
  crontab: '17 3 * * * prune-change-log\n*/15 * * * * read-feeds\n*/15 * * * * send-digests',
  events,
  taskList: taskList(locks),
})
log.info('job worker is ready')
takeUpWork().then(
  (taken) => taken > 0 && log.info({ taken }, 'took up what was under way without a job'),
  (error) => log.warn({ message: error.message }, 'what was under way could not be looked up'),
)
const endWatching = watchChanges(locks)
const sweep = () =>
  sweepFolders().then(
    (swept) => swept > 0 && log.info({ swept }, 'took away what killed processes left'),
    () => {},
  )
void sweep()
setInterval(sweep, 10 * 60_000).unref()

async function alive(): Promise<void> {
  if (pool) await beat(db, pool)
  const dead = await unlockDead(db, locks)
  if (dead.length > 0) log.warn({ pools: dead.length }, 'took over from workers that died')
  for (const { id, task, key } of await givenUp(db)) {
    await workFailed(task as keyof Jobs, numberOfKey(key))
    await dropJob(db, id)
  }
}

const beating = setInterval(() => {
  alive().catch((error) => log.warn({ message: error.message }, 'the database could not be told that the worker is alive'))
}, 2000)

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, async () => {
    // A job that is cut off goes on from its last transaction when the worker is back.
    setTimeout(() => process.exit(0), 5000).unref()
    clearInterval(beating)
    endWatching()
    await runner.stop()
    await locks.close()
    await db.destroy()
    process.exit(0)
  })
}
await runner.promise
