import { connect } from './connection'
import { makeAppRole, prepare } from './prepare'

/**
 * Run by bin/restore. `before`: makes the database where it is missing, refuses one that is not empty, and makes the
 * application's role, which the backup gives its rights to. `after`: brings the data up to date and takes up again what
 * was under way when it was backed up.
 */
const [step] = process.argv.slice(2)
const { OWNER_DATABASE_URL: owner, ARCH_APP_PASSWORD: password } = process.env
if (!owner || !password) throw new Error('restore needs OWNER_DATABASE_URL and ARCH_APP_PASSWORD')
const say = (line: string) => process.stderr.write(`${line}\n`)

if (step === 'before') {
  const url = new URL(owner)
  const name = url.pathname.slice(1)
  const server = connect(Object.assign(new URL(owner), { pathname: '/postgres' }).toString(), 1)
  const exists = (await server.raw('select 1 from pg_database where datname = ?', [name])).rows.length > 0
  if (!exists) await server.raw('create database ??', [name])
  await server.destroy()
  const db = connect(owner, 1)
  const [{ tables }] = (await db.raw(`select count(*)::int as tables from information_schema.tables where table_schema = 'public'`)).rows
  if (tables > 0) {
    say(`The database ${name} is not empty: it holds ${tables} tables. A backup is only brought back into an empty one.`)
    process.exit(1)
  }
  await makeAppRole(db, password)
  await db.destroy()
} else {
  const ran = await prepare(owner, password)
  if (ran.length > 0) say(`Migrations run: ${ran.length}`)
  const db = connect(owner, 1)
  const unfinished = await db('batch').whereIn('state', ['queued', 'running', 'undoing']).orderBy('id').select('id', 'state')
  for (const { id, state } of unfinished) {
    const [job, key] = state === 'undoing' ? ['undo-batch', `undo-${id}`] : ['run-batch', `batch-${id}`]
    await db.raw(`select graphile_worker.add_job(?, ?::json, queue_name => 'intake', job_key => ?, max_attempts => 12)`, [job, JSON.stringify({ batch: id }), key])
  }
  if (unfinished.length > 0) say(`Taken up again: ${unfinished.length} batches that were under way`)
  await db.destroy()
}
