import { connect, setDb } from '@/db/connection'
import { settings } from '@/runtime/settings'
import { takeUpWork } from '@/usecases/work/take-up-work'

/** Run by bin/restore once the data is back: takes up again what was under way when it was backed up. */
const db = connect(settings().APP_DATABASE_URL, 2)
setDb(db)
const taken = await takeUpWork()
if (taken > 0)
  process.stderr.write(`Taken up again: ${taken} ${taken === 1 ? 'piece of work that was' : 'pieces of work that were'} under way\n`)
await db.destroy()
