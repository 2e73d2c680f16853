import { spawnSync } from 'node:child_process'
import { closeSync, existsSync, mkdirSync, openSync, rmSync, statfsSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { told } from '@/app/requests/answer'
import type { Line } from '@/core/lists/line'
import type { Knex } from '@/db/connection'
import { troubleOf } from '@/db/trouble'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { createList } from '@/usecases/lists/create-list'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { releaseRound } from '@/usecases/rounds/release-round'
import { runBatch } from '@/usecases/intake/run-batch'
import { Cluster } from '../../support/cluster'
import { applicationOn } from '../../support/database'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startBatch } from '@/usecases/intake/start-batch'
import { startRound } from '@/usecases/rounds/start-round'

/** A file system of its own, small enough to be filled; only where this process may mount one. */
const folder = `.data-test/full-${process.pid}`
const disk = join(process.cwd(), folder)
mkdirSync(disk, { recursive: true })
const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=300m,mode=755', 'tmpfs', disk]).status === 0
const cluster = new Cluster(folder, process.env.ARCH_SECRET as string, 54940)
const ballast = join(disk, 'ballast')

let app: Knex
let ines: Actor
let owner: string
beforeAll(async () => {
  if (!mounted) return
  owner = cluster.start('postgres')
  process.env.ARCH_LOG = 'silent'
  const made = await applicationOn(owner)
  app = made.app
  ines = made.ines
}, 120_000)
afterAll(async () => {
  if (mounted) {
    await app.destroy().catch(() => {})
    makeRoom()
    spawnSync('bash', ['-c', `. bin/common.sh; DATA=${disk}; stop_cluster`, 'bin/start'])
    spawnSync('umount', [disk])
  }
  rmSync(disk, { recursive: true, force: true })
}, 60_000)

/** Fills the disk but for so many megabytes. */
function fill(leave: number): void {
  const file = openSync(ballast, 'w')
  const block = Buffer.alloc(1 << 20)
  for (;;) {
    const { bavail, bsize } = statfsSync(disk)
    if (bavail * bsize < (leave + 1) << 20) break
    writeSync(file, block)
  }
  closeSync(file)
}

const makeRoom = () => rmSync(ballast, { force: true })

/** Makes room; PostgreSQL, where it went away, is started again, or comes back by itself. */
async function roomAgain(): Promise<void> {
  makeRoom()
  for (let i = 0; ; i++) {
    try {
      expect(cluster.start('postgres')).toBe(owner)
      await app.raw('select 1')
      return
    } catch (error) {
      if (i === 50) throw error
      await new Promise((resolve) => setTimeout(resolve, 200))
    }
  }
}

const counts = async (tables: string[]) =>
  Object.fromEntries(await Promise.all(tables.map(async (table) => [table, Number((await app(table).count('* as n').first())?.n)])))

describe.skipIf(!mounted)('the disk of the database is full', () => {
  test('in the middle of an intake: it stops, says so, and goes on to the end once there is room', async () => {
    expect(existsSync(join(disk, 'pg'))).toBe(true)
    const rows = Array.from(
      { length: 8000 },
      (_, i) => `W${i},Worker Number${i},Estates lead,Org ${i % 300},w${i}@example.org,${i} Mill Lane,Thornmouth`,
    )
    const id = await receiveFile(ines, {
      name: 'long.csv',
      bytes: Buffer.from(`Id,Name,Role,Organisation,Email,Address,Town\n${rows.join('\n')}\n`),
    })
    const { kind, mapping } = await batchOf(id)
    await startBatch(ines, id, { kind, mapping }, {})
    fill(6)
    const error = await runBatch(id).then(
      () => null,
      (e: Error) => e,
    )
    expect(error).not.toBeNull()
    // A table that cannot grow is told as such; where the log of writes cannot, PostgreSQL itself goes away.
    expect(['full', 'away'], `${error?.name}: ${error?.message}`).toContain(troubleOf(error))
    expect(told(error)).toMatchObject({
      status: 503,
      message: expect.stringMatching(/database disk is full|database is not responding/),
    })
    await roomAgain()
    const stopped = await batchOf(id)
    expect(stopped.state).not.toBe('done')
    await runBatch(id)
    expect(await batchOf(id)).toMatchObject({ state: 'done', error: null, rows_done: 8000 })
    expect((await batchAccount(ines, id)).counts).toEqual({ new: 8000, same: 0, updated: 0, 'in doubt': 0, refused: 0 })
    expect(await counts(['person', 'address', 'organisation'])).toEqual({ person: 8000, address: 16_000, organisation: 300 })
  }, 120_000)

  test('in the middle of a release: nothing of it stays, and once there is room it is released once', async () => {
    const engine = await serveEngine(app, settings().ENGINE_PORT, settings().ARCH_SECRET)
    await engine.model.catchUp()
    const start: Line = { id: 's', verb: 'start', off: false, batch: null }
    const round = await startRound(ines, await createList(ines, 'Everybody', true, [start]))
    fill(1)
    const error = await releaseRound(ines, round).then(
      () => null,
      (e: Error) => e,
    )
    expect(['full', 'away'], `${error?.name}: ${error?.message}`).toContain(troubleOf(error))
    await roomAgain()
    const written = ['round_member', 'round_channel', 'round_file', 'contact_to_come']
    expect(await counts(written)).toEqual({ round_member: 0, round_channel: 0, round_file: 0, contact_to_come: 0 })
    await engine.model.catchUp()
    await releaseRound(ines, round)
    expect(await counts(written)).toEqual({ round_member: 8000, round_channel: 32_000, round_file: 4, contact_to_come: 16_000 })
    await engine.close()
  }, 120_000)
})
