import { randomBytes } from 'node:crypto'
import { createServer } from 'node:net'
import { afterAll } from 'vitest'
import type { BatchOptions } from '@/core/views/intake-views'
import { connect, type Knex, setDb } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { asApp, prepare } from '@/db/prepare'
import { pinClock } from '@/runtime/clock'
import { forgetSettings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { TEMPLATE } from './names'
import { startBatch } from '@/usecases/intake/start-batch'

export interface TestDatabase {
  /** The owner’s connection; only for looking behind the curtain. */
  owner: Knex
  /** The application’s own, in its role. */
  app: Knex
  ownerUrl: string
  ines: Actor
  tam: Actor
  marek: Actor
}

/** A database of its own for a test file, from the template, with three people and the clock at a fixed instant. */
export async function freshDatabase(at = '2026-06-15T09:00:00Z'): Promise<TestDatabase> {
  const server = process.env.OWNER_DATABASE_URL
  const password = process.env.ARCH_APP_PASSWORD
  if (!server || !password) throw new Error('database tests run through bin/test, which starts PostgreSQL for them')
  const name = `t_${randomBytes(6).toString('hex')}`
  const admin = connect(server, 1)
  await admin.raw(`create database ${name} template ${TEMPLATE}`)
  await admin.destroy()
  const ownerUrl = Object.assign(new URL(server), { pathname: `/${name}` }).toString()
  process.env.APP_DATABASE_URL = asApp(ownerUrl, password)
  process.env.ENGINE_PORT = String(await freePort())
  process.env.ARCH_LOG = 'silent'
  forgetSettings()
  const owner = connect(ownerUrl, 4)
  const app = connect(process.env.APP_DATABASE_URL, 8)
  setDb(app)
  pinClock(new Date(at))
  const member = async (name: string, post: Actor['post']): Promise<Actor> => ({
    id: await addMember(owner, {
      name,
      post,
      email: `${name.split(' ')[0].toLowerCase()}@brackenfold.example`,
      password: 'rain-on-the-roof',
    }),
    name,
    post,
  })
  afterAll(async () => {
    await app.destroy()
    await owner.destroy()
    const again = connect(server, 1)
    await again.raw(`drop database ${name} with (force)`)
    await again.destroy()
  })
  return {
    owner,
    app,
    ownerUrl,
    ines: await member('Ines Okafor', 'coordinator'),
    tam: await member('Tam Reyes', 'caller'),
    marek: await member('Marek Dunn', 'manager'),
  }
}

/** The application on a cluster of its own, made ready from nothing: its pool, and a coordinator. */
export async function applicationOn(owner: string): Promise<{ app: Knex; ines: Actor }> {
  const password = process.env.ARCH_APP_PASSWORD as string
  // Before anything reads the settings, which are read once.
  process.env.APP_DATABASE_URL = asApp(owner, password)
  process.env.ENGINE_PORT = String(await freePort())
  await prepare(owner, password)
  const ownerDb = connect(owner, 1)
  const id = await addMember(ownerDb, {
    name: 'Ines Okafor',
    email: 'ines@brackenfold.example',
    post: 'coordinator',
    password: 'rain-on-the-roof',
  })
  await ownerDb.destroy()
  const app = connect(process.env.APP_DATABASE_URL, 6)
  setDb(app)
  pinClock(new Date('2026-06-15T10:00:00Z'))
  return { app, ines: { id, name: 'Ines Okafor', post: 'coordinator' } }
}

export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}

/** Receives a file and starts bringing it in, by its guessed mapping; once more where it came in before. */
export async function mapped(
  actor: Actor,
  name: string,
  csv: string | Buffer,
  options: BatchOptions & { kind?: 'people' | 'contacts' | 'suppressions' | 'premises' } = {},
): Promise<number> {
  const { kind, ...rest } = options
  const id = await receiveFile(actor, { name, bytes: Buffer.from(csv as string), kind })
  const batch = await batchOf(id)
  await startBatch(actor, id, batch, { again: true, ...rest })
  return id
}

/** Brings a file in, all of it. */
export async function broughtIn(...args: Parameters<typeof mapped>): Promise<number> {
  const id = await mapped(...args)
  await runBatch(id)
  return id
}
