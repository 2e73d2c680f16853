import { connect } from '@/db/connection'
import { asApp, prepare } from '@/db/prepare'
import { settings } from '@/runtime/settings'

/**
 * Run by bin/start: `keep` brings the database up to date and loads the demo county into a new one, `demo` begins again
 * with it, `empty` begins again without. Says what it does on standard error; prints the application's connection.
 */
const [mode = 'keep'] = process.argv.slice(2)
const { OWNER_DATABASE_URL: server, ARCH_APP_PASSWORD: password } = process.env
if (!server || !password) throw new Error('set-up needs OWNER_DATABASE_URL and ARCH_APP_PASSWORD')
const name = process.env.DATABASE_URL ? new URL(server).pathname.slice(1) : 'arch_ledger'
const owner = Object.assign(new URL(server), { pathname: `/${name}` }).toString()
process.env.OWNER_DATABASE_URL = owner
process.env.APP_DATABASE_URL = asApp(owner, password)

const say = (line: string) => process.stderr.write(`${line}\n`)

try {
  settings()
} catch (error) {
  say((error as Error).message)
  process.exit(1)
}

if (!process.env.DATABASE_URL) {
  const admin = connect(server, 1)
  const exists = (await admin.raw('select 1 from pg_database where datname = ?', [name])).rows.length > 0
  if (exists && mode !== 'keep') {
    say('Beginning again: the old data goes')
    await admin.raw(`drop database ${name} with (force)`)
  }
  if (!exists || mode !== 'keep') await admin.raw(`create database ${name}`)
  await admin.destroy()
} else if (mode !== 'keep') {
  say('Beginning again on the server of DATABASE_URL: its tables go')
  const admin = connect(owner, 1)
  await admin.raw('drop schema if exists graphile_worker cascade; drop schema public cascade; create schema public')
  await admin.destroy()
}

const ran = await prepare(owner, password)
if (ran.length > 0) say(`Migrations run: ${ran.length}`)

const db = connect(owner, 2)
const isNew = (await db('setting').where({ name: 'began' }).first()) === undefined
if (isNew) {
  if (mode !== 'empty') {
    say('Loading the demo county')
    const { loadDemo } = await import('./load')
    await loadDemo(owner, say)
  } else {
    const { firstPerson } = await import('@/db/team/first-member')
    say(await firstPerson(db))
  }
  await db('setting').insert({ name: 'began', value: mode === 'empty' ? 'empty' : 'demo' })
}
await db.raw('analyze')
await db.destroy()
process.stdout.write(process.env.APP_DATABASE_URL as string)
process.exit(0)
