import { createServer } from 'node:net'
import { connect, setDb } from '@/db/connection'
import { asApp, prepare } from '@/db/prepare'
import type { Actor } from '@/usecases/team/actor'

/** Run by a test in a process of its own, with the secret of the previous release: migrates its data and says what stands. */
const owner = process.env.OWNER_DATABASE_URL as string
const password = process.env.ARCH_APP_PASSWORD as string
const port = await new Promise<number>((resolve) => {
  const server = createServer().listen(0, '127.0.0.1', () => {
    const { port: free } = server.address() as { port: number }
    server.close(() => resolve(free))
  })
})
process.env.ENGINE_PORT = String(port)
process.env.APP_DATABASE_URL = asApp(owner, password)
const migrations = await prepare(owner, password)
const db = connect(process.env.APP_DATABASE_URL, 4)
setDb(db)
const { serveEngine } = await import('@/engine/server')
const { listAccountFor } = await import('@/usecases/lists/list-account')
const { latestEdition } = await import('@/db/lists/list-rows')
const { screenRound } = await import('@/usecases/rounds/screen-round')
const engine = await serveEngine(db, port, process.env.ARCH_SECRET as string)
await engine.model.catchUp()
const lists = []
for (const { id, owner_id, name } of await db('list').orderBy('id').select('id', 'owner_id', 'name')) {
  const actor: Actor = { id: owner_id, name: 'x', post: 'coordinator' }
  const { totals, tabs } = (await listAccountFor(actor, { lines: (await latestEdition(id)).lines, view: { tab: 'on' } })).figures
  lists.push({ name, ...totals, balance: 0, on: tabs.on })
}
const rounds = []
for (const round of await db('round as r')
  .join('list as l', 'l.id', 'r.list_id')
  .whereNotNull('r.released_at')
  .select('r.id', 'r.figures', 'l.owner_id')) {
  const actor: Actor = { id: round.owner_id, name: 'x', post: 'coordinator' }
  const clear = await screenRound(actor, round.id, { tab: 'clear' })
  const held = await screenRound(actor, round.id, { tab: 'held' })
  rounds.push({ members: [clear.page.total, held.page.total], frozen: [round.figures.screening.anyone, round.figures.screening.heldBack] })
}
const count = async (query: PromiseLike<{ n?: string | number } | undefined>) => Number((await query)?.n)
const failed = await count(db('address').whereNotNull('failed_at').count('* as n').first())
const emails = await count(db('address').where({ channel: 'email', usable: true }).count('* as n').first())
const domainKeys = await count(db('address').where({ channel: 'email' }).whereNotNull('domain_key').count('* as n').first())
console.log(JSON.stringify({ migrations, lists, rounds, failed, emails, domainKeys }))
await engine.close()
await db.destroy()
process.exit(0)
