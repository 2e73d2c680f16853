import { spawn, spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, expect, test } from 'vitest'
import { connect } from '@/db/connection'
import { Cluster } from '../../support/cluster'
import { freePort } from '../../support/database'

/** Who knows which password, and where it stands. */

const SECRET = 'a-secret-of-an-installation-of-its-own-0001'
const cluster = new Cluster(`.data-test/secrets-${process.pid}`, SECRET, 55280)
const started = new Cluster(`.data-test/started-${process.pid}`, SECRET, 55380)
const bin = join(process.cwd(), started.folder, 'bin')
const appPassword = () =>
  spawnSync('bash', ['-c', `. bin/common.sh; ARCH_SECRET=${SECRET}; app_password`, 'bin/start'], { encoding: 'utf8' }).stdout.trim()
const passwordOf = (url: string) => decodeURIComponent(new URL(url).password)
const mode = (path: string) => (statSync(path).mode & 0o777).toString(8)

afterAll(() => {
  cluster.remove()
  started.remove()
})

/** Whether the owner of a cluster gets in by some password. */
async function owns(url: string, password: string): Promise<boolean> {
  const db = connect(Object.assign(new URL(url), { password, pathname: '/postgres' }).toString(), 1)
  try {
    return (await db.raw('select current_user as me')).rows[0].me === 'arch_owner'
  } catch {
    return false
  } finally {
    await db.destroy()
  }
}

test('the owner of the database has a password of its own, also in a cluster of a release where it had the application’s', async () => {
  const url = cluster.start('postgres')
  expect(passwordOf(url)).not.toBe(appPassword())
  expect(await owns(url, passwordOf(url))).toBe(true)
  expect(await owns(url, appPassword())).toBe(false)
  expect([mode(join(cluster.data, 'owner-password')), mode(join(cluster.data, 'secret')), mode(join(cluster.data, 'pg.log'))]).toEqual([
    '600',
    '600',
    '600',
  ])

  const db = connect(url, 1)
  await db.raw(`alter role arch_owner password '${appPassword()}'`)
  await db.destroy()
  rmSync(join(cluster.data, 'owner-password'))
  const again = cluster.start('postgres')
  expect(passwordOf(again)).not.toBe(appPassword())
  expect(await owns(again, passwordOf(again))).toBe(true)
  expect(await owns(again, appPassword())).toBe(false)
})

test('what goes wrong is logged without anybody’s row', async () => {
  const db = connect(cluster.start('postgres'), 1)
  await db.raw('create table if not exists held (email text primary key)')
  const wrong: Error[] = []
  for (const sql of [
    `insert into held values ('maud.ellery@example.org'), ('maud.ellery@example.org')`,
    `insert into held values (?), (?)`,
    `select 'maud.ellery@example.org'::int`,
  ])
    await db.raw(sql, sql.includes('?') ? ['maud.ellery@example.org', 'maud.ellery@example.org'] : []).catch((error) => wrong.push(error))
  await db.destroy()
  expect(wrong).toHaveLength(3)
  // One that was handed over apart from the statement stands nowhere in what a program may write down.
  expect(JSON.stringify([wrong[1].message, wrong[1].stack, { ...wrong[1] }])).not.toContain('maud.ellery')
  expect(readFileSync(join(cluster.data, 'pg.log'), 'utf8')).not.toContain('maud.ellery')
})

test('a backup under way shows no password on its command line', async () => {
  const url = cluster.start('postgres')
  const db = connect(url, 1)
  await db.raw('create table if not exists held (email text primary key)')
  const trx = await db.transaction()
  await trx.raw('lock table held in access exclusive mode')
  const file = join(cluster.data, 'shown.dump')
  const backup = spawn('bin/backup', [file], {
    env: { ...process.env, DATABASE_URL: url, ARCH_SECRET: SECRET, ARCH_DATA: cluster.folder },
    stdio: 'ignore',
  })
  const ended = new Promise((resolve) => backup.once('exit', resolve))
  let line = ''
  for (let i = 0; i < 200 && line === ''; i++) {
    await new Promise((resolve) => setTimeout(resolve, 50))
    line = spawnSync('pgrep', ['-af', `pg_dump.*${file}`], { encoding: 'utf8' }).stdout
  }
  const all = spawnSync('ps', ['-eo', 'args'], { encoding: 'utf8' }).stdout
  await trx.rollback()
  await db.destroy()
  expect(await ended).toBe(0)
  expect(line).toContain('--dbname=postgresql://arch_owner@')
  for (const secret of [passwordOf(url), appPassword(), SECRET]) expect(all).not.toContain(secret)
})

test('what runs after the migrations does not know the owner; the stand-ins know no database and no secret', async () => {
  mkdirSync(bin, { recursive: true })
  const real = spawnSync('bash', ['-c', 'command -v node'], { encoding: 'utf8' }).stdout.trim()
  // In place of each long-lived process one that writes down what it was given; the build is left out.
  writeFileSync(
    join(bin, 'node'),
    `#!/bin/bash
case "$*" in
  *"next build"*|*"bin/next build"*|*"/next build") exit 0 ;;
  *src/engine/main.ts*|*src/jobs/main.ts*|*src/standins/main.ts*|*"next start"*) env >"${bin}/$ARCH_PROCESS.env.part"; printf '%s\\n' "$*" >>"${bin}/$ARCH_PROCESS.env.part"; mv "${bin}/$ARCH_PROCESS.env.part" "${bin}/$ARCH_PROCESS.env"; exec sleep 60 ;;
esac
exec ${real} "$@"
`,
  )
  chmodSync(join(bin, 'node'), 0o755)
  const { OWNER_DATABASE_URL: _, APP_DATABASE_URL: __, ARCH_APP_PASSWORD: ___, DATABASE_URL: ____, ...rest } = process.env
  const child = spawn('bin/start', ['--empty'], {
    detached: true,
    env: {
      ...rest,
      PATH: `${bin}:${process.env.PATH}`,
      ARCH_DATA: started.folder,
      ARCH_SECRET: SECRET,
      PORT: String(await freePort()),
      ENGINE_PORT: String(await freePort()),
      ARCH_DIST: `${started.folder}/next`,
    },
    stdio: 'ignore',
  })
  const NAMES = ['engine', 'worker', 'sources', 'application']
  try {
    for (let i = 0; i < 900 && !NAMES.every((name) => existsSync(join(bin, `${name}.env`))); i++)
      await new Promise((resolve) => setTimeout(resolve, 100))
    const given = Object.fromEntries(NAMES.map((name) => [name, readFileSync(join(bin, `${name}.env`), 'utf8')]))
    const owner = readFileSync(join(started.data, 'owner-password'), 'utf8')
    for (const name of NAMES) {
      expect(given[name], name).not.toContain(owner)
      expect(given[name], name).not.toMatch(/OWNER_DATABASE_URL|ARCH_APP_PASSWORD/)
    }
    expect(given.application).toContain('APP_DATABASE_URL=')
    expect(given.sources).not.toMatch(/DATABASE_URL|ARCH_SECRET|postgres:|postgresql:/)
    const logs = readdirSync(started.data).filter((name) => name.endsWith('.log'))
    expect(logs).toEqual(expect.arrayContaining(['application.log', 'engine.log', 'pg.log', 'sources.log', 'worker.log']))
    for (const name of logs) expect(mode(join(started.data, name)), name).toBe('600')
  } finally {
    if (child.pid) process.kill(-child.pid, 'SIGKILL')
  }
}, 180_000)
