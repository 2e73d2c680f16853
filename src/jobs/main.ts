import { EventEmitter } from 'node:events'
import { run, type WorkerEvents } from 'graphile-worker'
import { connect, setDb } from '@/db/connection'
import { beat, unlockDead } from '@/db/worker-beat'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { sweepFolders } from '@/usecases/batch-file'
import { taskList } from './tasks'

const { APP_DATABASE_URL } = settings()
const db = connect(APP_DATABASE_URL, 5)
setDb(db)

const workers = new Set<string>()
const events = new EventEmitter() as WorkerEvents
events.on('worker:create', ({ worker }) => workers.add(worker.workerId))
const runner = await run({
  connectionString: APP_DATABASE_URL,
  concurrency: 2,
  noHandleSignals: true,
  pollInterval: 1000,
  crontab: '17 3 * * * prune-change-log',
  events,
  taskList,
})
log.info('job worker is ready')
sweepFolders().then((swept) => swept > 0 && log.info({ swept }, 'took away what killed processes left'), () => {})

async function alive(): Promise<void> {
  await beat(db, [...workers])
  const dead = await unlockDead(db, [...workers])
  if (dead.length > 0) log.warn({ workers: dead.length }, 'took over from workers that died')
}

const beating = setInterval(() => {
  alive().catch((error) => log.warn({ message: error.message }, 'the database could not be told that the worker is alive'))
}, 2000)

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, async () => {
    // A job that is cut off goes on from its last transaction when the worker is back.
    setTimeout(() => process.exit(0), 5000).unref()
    clearInterval(beating)
    await runner.stop()
    await db.destroy()
    process.exit(0)
  })
}
await runner.promise
