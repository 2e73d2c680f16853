import { connect } from '@/db/connection'
import { asApp, prepare } from '@/db/prepare'
import { TEMPLATE } from './names'

/** Run by bin/test with `empty`: makes the template that every database test starts from. With `demo`: the one with the county. */
const server = process.env.OWNER_DATABASE_URL as string
const password = process.env.ARCH_APP_PASSWORD as string
const urlOf = (name: string) => Object.assign(new URL(server), { pathname: `/${name}` }).toString()
const admin = connect(server, 1)
const demo = process.argv.includes('demo')
const { rows } = await admin.raw(`select datname from pg_database where datname ~ ?`, [
  demo ? '^(arch_demo|arch_e2e(_[a-z]+)?)$' : '^(t_[0-9a-f]{12}|arch_template)$',
])
for (const { datname } of rows) await admin.raw(`drop database ${datname} with (force)`)

// Settings are read once, by the first migration that makes keys.
process.env.APP_DATABASE_URL = asApp(urlOf('arch_demo'), password)
const make = async (name: string) => {
  await admin.raw(`create database ${name}`)
  const owner = urlOf(name)
  await prepare(owner, password)
  return owner
}
if (!demo) await make(TEMPLATE)
else {
  const owner = await make('arch_demo')
  const { loadDemo } = await import('../../demo/load')
  await loadDemo(owner, (line) => console.log(`  ${line}`))
  const db = connect(owner, 1)
  await db('setting').insert({ name: 'began', value: 'demo' })
  await db.raw('analyze')
  await db.destroy()
}
await admin.destroy()
process.exit(0)
