import { type ChildProcess, spawn } from 'node:child_process'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { health } from '@/usecases/work/health'
import { batchOf } from '@/usecases/intake/batch-for'
import { freshDatabase, mapped, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { batchAccount } from '@/usecases/intake/batch-account'

let t: TestDatabase
let worker: ChildProcess | undefined
beforeAll(async () => {
  t = await freshDatabase()
})
afterAll(() => {
  worker?.kill('SIGKILL')
})

const startWorker = () =>
  spawn(process.execPath, ['--import', 'tsx', 'src/jobs/main.ts'], { env: { ...process.env, ARCH_PROCESS: 'worker' }, stdio: 'ignore' })

/** Waits until it is so: so many seconds where nothing else runs, and four times as many beside other tests. */
async function until(what: () => Promise<boolean>, seconds: number): Promise<void> {
  for (let i = 0; i < seconds * 80; i++) {
    if (await what()) return
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error('waited in vain')
}

test('a worker killed in the middle of an intake is taken over from: nothing is lost or doubled', async () => {
  const rows = Array.from(
    { length: 6000 },
    (_, i) => `W${i},Worker Number${i},Bursar,Org ${i % 300},w${i}@example.org,${i} Mill Lane,Thornmouth`,
  )
  const id = await mapped(t.ines, 'long.csv', `Id,Name,Role,Organisation,Email,Address,Town\n${rows.join('\n')}\n`)
  worker = startWorker()
  await until(async () => (await batchOf(id)).rows_done > 0, 30)
  worker.kill('SIGKILL')
  const killedAt = (await batchOf(id)).rows_done
  expect(killedAt).toBeLessThan(6000)
  worker = startWorker()
  await until(async () => (await batchOf(id)).state === 'done', 45)
  expect((await batchAccount(t.ines, id)).counts).toEqual({ new: 6000, same: 0, updated: 0, 'in doubt': 0, refused: 0 })
  for (const [table, count] of [
    ['person', 6000],
    ['address', 12_000],
    ['organisation', 300],
  ] as const)
    expect((await t.app(table).count('id as n').first())?.n, table).toBe(count)
  expect((await t.app('entry').where({ kind: 'created' }).count('id as n').first())?.n).toBe(6000)
}, 90_000)

test('health says who is there', async () => {
  expect(await health()).toEqual({ ok: false, database: 'up', worker: 'up', engine: 'down' })
  await startEngine(t)
  expect(await health()).toEqual({ ok: true, database: 'up', worker: 'up', engine: 'up' })
})
