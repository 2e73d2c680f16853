import { connect } from './connection'
import { asApp, makeAppRole, prepare } from './prepare'

/**
 * Run by bin/restore. `before`: makes the database where it is missing, refuses one that is not empty, and makes the
 * application's role, which the backup gives its rights to. `after`: brings the data up to date, and prints the connection of the application's role.
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
  process.stdout.write(asApp(owner, password))
}
