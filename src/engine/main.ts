import { connect } from '@/db/connection'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { serveEngine } from './server'

const { APP_DATABASE_URL, ENGINE_PORT, ARCH_SECRET } = settings()
const db = connect(APP_DATABASE_URL, 5)
const { model, close } = await serveEngine(db, ENGINE_PORT, ARCH_SECRET)
log.info({ port: ENGINE_PORT }, 'engine listens')

// Every request catches up by itself; this keeps what it then has to read small, and gets the engine going after an outage.
const keepUp = setInterval(() => {
  model.catchUp().catch((error) => log.warn({ message: error.message }, 'the database could not be heard'))
}, 1000)

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, async () => {
    // Nothing here is worth waiting for long: it can all be read again.
    setTimeout(() => process.exit(0), 2000).unref()
    clearInterval(keepUp)
    await close()
    await db.destroy()
    process.exit(0)
  })
}
