import { run } from 'graphile-worker'
import { connect, setDb } from '@/db/connection'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { taskList } from './tasks'

const { APP_DATABASE_URL } = settings()
const db = connect(APP_DATABASE_URL, 5)
setDb(db)
const runner = await run({
  connectionString: APP_DATABASE_URL,
  concurrency: 2,
  noHandleSignals: true,
  pollInterval: 1000,
  crontab: '17 3 * * * prune-change-log',
  taskList,
})
log.info('job worker is ready')

const beat = setInterval(() => {
  db.raw(`insert into worker_beat (name, at) values ('jobs', clock_timestamp()) on conflict (name) do update set at = excluded.at`).catch((error) =>
    log.warn({ message: error.message }, 'the database could not be told that the worker is alive'),
  )
}, 2000)

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, async () => {
    // A job that is cut off goes on from its last transaction when the worker is back.
    setTimeout(() => process.exit(0), 5000).unref()
    clearInterval(beat)
    await runner.stop()
    await db.destroy()
    process.exit(0)
  })
}
await runner.promise
