import { type ChildProcess, spawn } from 'node:child_process'
import { mkdirSync, openSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { connect } from '@/db/connection'
import { asApp } from '@/db/prepare'

const county = process.env.E2E_COUNTY ?? 'both'
/** What the names of an application's files begin with. */
const files = join(process.cwd(), '.data-test', `e2e-${county}`)

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}

/** Starts the real application over a copy of the demo county, on ports of its own; what dies is started again. */
export default async function start(): Promise<() => Promise<void>> {
  const server = process.env.OWNER_DATABASE_URL as string
  const admin = connect(server, 1)
  await admin.raw(`drop database if exists arch_e2e_${county} with (force)`)
  await admin.raw(`create database arch_e2e_${county} template arch_demo`)
  await admin.destroy()
  const owner = Object.assign(new URL(server), { pathname: `/arch_e2e_${county}` }).toString()
  const port = await freePort()
  process.env.E2E_URL = `http://localhost:${port}`
  process.env.E2E_FILES = files
  // Who was signed in to another database is not signed in to this one.
  rmSync(`${files}-sessions`, { recursive: true, force: true })
  mkdirSync(`${files}-sessions`, { recursive: true })
  rmSync(`${files}-mail.jsonl`, { force: true })
  process.env.E2E_CLOCK = `${files}-clock`
  process.env.E2E_OWNER_URL = owner
  writeFileSync(process.env.E2E_CLOCK, new Date().toISOString())
  // As bin/start does: what runs from here on does not know whose the database is.
  const { OWNER_DATABASE_URL: _, ARCH_APP_PASSWORD: __, DATABASE_URL: ___, ...given } = process.env
  const env = {
    ...given,
    APP_DATABASE_URL: asApp(owner, process.env.ARCH_APP_PASSWORD as string),
    PORT: String(port),
    ENGINE_PORT: String(await freePort()),
    SOURCES_PORT: String(await freePort()),
    MAIL_PORT: String(await freePort()),
    MAIL_LOG: `${files}-mail.jsonl`,
    ARCH_CLOCK_FILE: process.env.E2E_CLOCK,
    ARCH_DIST: '.next-test',
    NODE_ENV: 'production' as const,
  }
  let stopping = false
  const children = new Map<string, ChildProcess>()
  const run = (name: string, args: string[]) => {
    const out = openSync(`${files}-${name}.log`, 'a')
    const child = spawn(process.execPath, args, { env: { ...env, ARCH_PROCESS: name }, stdio: ['ignore', out, out] })
    children.set(name, child)
    writeFileSync(`${files}-${name}.pid`, String(child.pid))
    child.once('exit', () => !stopping && setTimeout(() => run(name, args), 500))
  }
  run('engine', ['--import', 'tsx', 'src/engine/main.ts'])
  run('worker', ['--import', 'tsx', 'src/jobs/main.ts'])
  run('sources', ['--import', 'tsx', 'src/standins/main.ts'])
  run('application', ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)])
  const until = Date.now() + 60_000
  for (;;) {
    const up = await fetch(`${process.env.E2E_URL}/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (up) break
    if (Date.now() > until) throw new Error(`the application did not come up; see ${files}-*.log`)
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
  return async () => {
    stopping = true
    const ended = [...children.values()].map(
      (child) => new Promise((resolve) => (child.exitCode === null ? child.once('exit', resolve) : resolve(null))),
    )
    for (const child of children.values()) child.kill('SIGTERM')
    await Promise.race([Promise.all(ended), new Promise((resolve) => setTimeout(resolve, 6000))])
    for (const child of children.values()) child.kill('SIGKILL')
  }
}
