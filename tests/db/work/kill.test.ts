import { type ChildProcess, spawn } from 'node:child_process'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { connect, type Knex } from '@/db/connection'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { createList } from '@/usecases/lists/create-list'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { releaseRound } from '@/usecases/rounds/release-round'
import { Cluster } from '../../support/cluster'
import { applicationOn } from '../../support/database'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startBatch } from '@/usecases/intake/start-batch'
import { startRound } from '@/usecases/rounds/start-round'

const cluster = new Cluster(`.data-test/kill-${process.pid}`, process.env.ARCH_SECRET as string, 54900)
let app: Knex
let ines: Actor
let worker: ChildProcess | undefined
let owner: string
beforeAll(async () => {
  owner = cluster.start('postgres')
  const made = await applicationOn(owner)
  app = made.app
  ines = made.ines
}, 120_000)
afterAll(async () => {
  worker?.kill('SIGKILL')
  await app.destroy().catch(() => {})
  cluster.remove()
}, 60_000)

/** The worker, started again when it dies, as bin/start does. */
function keepWorker(): void {
  worker = spawn(process.execPath, ['--import', 'tsx', 'src/jobs/main.ts'], {
    env: { ...process.env, ARCH_PROCESS: 'worker' },
    stdio: 'ignore',
  })
  worker.once('exit', (_code, signal) => signal !== 'SIGKILL' && setTimeout(keepWorker, 500))
}

async function until(what: () => Promise<boolean>, seconds: number): Promise<void> {
  for (let i = 0; i < seconds * 10; i++) {
    if (await what().catch(() => false)) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('waited in vain')
}

test('PostgreSQL killed in the middle of an intake: once it is back the intake goes on, and nothing is lost or doubled', async () => {
  const rows = Array.from(
    { length: 5000 },
    (_, i) => `W${i},Worker Number${i},Estates lead,Org ${i % 300},w${i}@example.org,${i} Mill Lane,Thornmouth`,
  )
  const id = await receiveFile(ines, {
    name: 'long.csv',
    bytes: Buffer.from(`Id,Name,Role,Organisation,Email,Address,Town\n${rows.join('\n')}\n`),
  })
  const { kind, mapping } = await batchOf(id)
  await startBatch(ines, id, { kind, mapping }, {})
  keepWorker()
  await until(async () => (await batchOf(id)).rows_done > 0, 40)
  cluster.kill()
  expect(cluster.start('postgres')).toBe(owner)
  await until(async () => (await batchOf(id)).state === 'done', 90)
  expect((await batchAccount(ines, id)).counts).toEqual({ new: 5000, same: 0, updated: 0, 'in doubt': 0, refused: 0 })
  for (const [table, count] of [
    ['person', 5000],
    ['address', 10_000],
    ['organisation', 300],
  ] as const)
    expect(Number((await app(table).count('id as n').first())?.n), table).toBe(count)
}, 180_000)

test('PostgreSQL killed in the middle of a release: it is released whole or not at all, and a second try makes it once', async () => {
  const engine = await serveEngine(app, settings().ENGINE_PORT, settings().ARCH_SECRET)
  await engine.model.catchUp()
  const start: Line = { id: 's', verb: 'start', off: false, batch: null }
  const round = await startRound(ines, await createList(ines, 'Everybody', true, [start]))
  const released = releaseRound(ines, round).then(
    () => 'released',
    () => 'broken',
  )
  // Wait until the release has begun to write, seen from outside its transaction by the locks it holds.
  const watch = connect(owner, 1)
  await until(
    async () =>
      (
        await watch.raw(
          `select 1 from pg_locks l join pg_class c on c.oid = l.relation where c.relname = 'round_member' and l.mode = 'RowExclusiveLock'`,
        )
      ).rows.length > 0,
    40,
  )
  await watch.destroy()
  cluster.kill()
  expect(await released).toBe('broken')
  expect(cluster.start('postgres')).toBe(owner)
  const traces = async () => {
    const of = async (table: string) => Number((await app(table).where({ round_id: round }).count('* as n').first())?.n)
    return {
      members: await of('round_member'),
      channels: await of('round_channel'),
      files: await of('round_file'),
      toCome: await of('contact_to_come'),
      entries: await of('entry'),
    }
  }
  await until(async () => Object.values(await traces()).every((n) => n === 0), 20)
  await until(async () => {
    await engine.model.catchUp()
    await releaseRound(ines, round)
    return true
  }, 60)
  expect(await traces()).toEqual({ members: 5000, channels: 20_000, files: 4, toCome: 10_000, entries: 10_000 })
  await expect(releaseRound(ines, round)).rejects.toThrow(/released already/)
  await engine.close()
}, 180_000)
