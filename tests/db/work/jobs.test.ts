import { type ChildProcess, spawn } from 'node:child_process'
import { createServer, type Server } from 'node:http'
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest'
import { settings } from '@/runtime/settings'
import { SessionLocks } from '@/db/work/session-locks'
import { givenUp, poolLock, unlockDead } from '@/db/work/worker-pools'
import { batchOf } from '@/usecases/intake/batch-for'
import { prepareCheck } from '@/usecases/sources/check-emails'
import { createList } from '@/usecases/lists/create-list'
import { startBatchAgain } from '@/usecases/intake/start-batch-again'
import { takeUpWork } from '@/usecases/work/take-up-work'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { workFailed } from '@/usecases/work/work-failed'
import { broughtIn, freePort, freshDatabase, mapped, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { startSearch } from '@/usecases/directory/start-search'
import { batchAccount } from '@/usecases/intake/batch-account'
import { openEnquiry } from '@/usecases/sources/open-enquiry'
import { beginEnquiry } from '@/usecases/sources/begin-enquiry'

/** One job, one runner: against real workers, and a source that is slow and counts how often it was asked about each address. */

let t: TestDatabase
let source: Server
const asked: string[] = []
let slow = 150
const workers: ChildProcess[] = []
const startWorker = () => {
  const worker = spawn(process.execPath, ['--import', 'tsx', 'src/jobs/main.ts'], {
    env: { ...process.env, ARCH_PROCESS: 'worker' },
    stdio: 'ignore',
  })
  workers.push(worker)
  return worker
}

beforeAll(async () => {
  process.env.SOURCES_PORT = String(await freePort())
  t = await freshDatabase()
  source = createServer((request, response) => {
    let body = ''
    request.on('data', (part) => (body += part))
    request.on('end', () => {
      if (request.url === '/prices')
        return response.end(
          JSON.stringify({
            currency: 'GBP',
            fetch: 4,
            fill: { verified: 6, uncertain: 3, bad: 0, nothing: 0 },
            check: { verified: 1, uncertain: 0, bad: 0, nothing: 0 },
          }),
        )
      const { emails } = JSON.parse(body) as { emails: string[] }
      asked.push(...emails)
      setTimeout(() => response.end(JSON.stringify(emails.map((email) => ({ email, state: 'verified', why: 'it takes mail' })))), slow)
    })
  })
  await new Promise<void>((resolve) => source.listen(settings().SOURCES_PORT, '127.0.0.1', resolve))
  await startEngine(t)
})
afterEach(() => {
  for (const worker of workers.splice(0)) worker.kill('SIGKILL')
})
afterAll(() => new Promise((resolve) => source.close(resolve)))

/** Waits until it is so: so many seconds where nothing else runs, and four times as many beside other tests. */
async function until(what: () => Promise<boolean>, seconds: number): Promise<void> {
  for (let i = 0; i < seconds * 80; i++) {
    if (await what()) return
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error('waited in vain')
}

let made = 0
/** A check of so many addresses that nobody checked yet, begun. */
async function check(count: number): Promise<number> {
  const k = ++made
  const batch = await broughtIn(
    t.ines,
    `check-${k}.csv`,
    `Name,Email\n${Array.from({ length: count }, (_, i) => `Given${k} Family${i},c${k}x${i}@check.example`).join('\n')}\n`,
    { byKeysAlone: true },
  )
  const id = await prepareCheck(t.ines, { batch, name: 'a file' } as never)
  await beginEnquiry(t.ines, id, null)
  asked.length = 0
  return id
}
const done = async (id: number) => (await openEnquiry(t.ines, id)).state === 'done'

test('a long job is run once, however many workers there are', async () => {
  const id = await check(1200)
  startWorker()
  startWorker()
  await until(() => done(id), 40)
  expect(asked).toHaveLength(1200)
  expect(new Set(asked).size).toBe(1200)
  expect((await openEnquiry(t.ines, id)).cost).toBe(1200)
}, 60_000)

test('one that is paused is not taken for dead: nothing is asked about twice, and it goes on when it wakes', async () => {
  const id = await check(800)
  const worker = startWorker()
  await until(async () => asked.length > 50, 20)
  worker.kill('SIGSTOP')
  await new Promise((resolve) => setTimeout(resolve, 500))
  const atPause = asked.length
  startWorker()
  // Longer than a job is left alone after it was taken, and than several looks at who is dead.
  await new Promise((resolve) => setTimeout(resolve, 9000))
  expect(asked.length).toBe(atPause)
  worker.kill('SIGCONT')
  await until(() => done(id), 40)
  expect(new Set(asked).size).toBe(800)
  expect(asked).toHaveLength(800)
}, 90_000)

test('one that is killed is taken over from, and no more than what it was asking about is asked about again', async () => {
  const id = await check(800)
  const worker = startWorker()
  await until(async () => asked.length > 50, 20)
  worker.kill('SIGKILL')
  startWorker()
  await until(() => done(id), 40)
  expect(new Set(asked).size).toBe(800)
  expect(asked.length).toBeLessThanOrEqual(850)
  expect((await openEnquiry(t.ines, id)).cost).toBe(800)
}, 90_000)

test('a job that is put in the queue once more while it runs waits for its end', async () => {
  slow = 300
  const id = await check(400)
  startWorker()
  await until(async () => asked.length > 0, 20)
  await t.app.raw(`select graphile_worker.add_job('run-enquiry', ?::json, queue_name => 'another', job_key => ?, max_attempts => 8)`, [
    JSON.stringify({ enquiry: id }),
    `enquiry-${id}`,
  ])
  await until(() => done(id), 30)
  slow = 150
  expect(asked).toHaveLength(400)
}, 60_000)

describe('locks of a session', () => {
  test('are held by one at a time, in one process and in two, and end with their connection', async () => {
    const url = settings().APP_DATABASE_URL
    const [a, b] = [await SessionLocks.open(url, () => {}), await SessionLocks.open(url, () => {})]
    expect([await a.take('x'), await a.take('x'), await b.take('x'), await b.take('y')]).toEqual([true, false, false, true])
    await a.letGo('x')
    expect(await b.take('x')).toBe(true)
    const order: string[] = []
    let begun = false
    const first = a.during('z', async () => {
      begun = true
      await new Promise((resolve) => setTimeout(resolve, 300))
      order.push('first')
    })
    await until(async () => begun, 5)
    await b.during('z', async () => void order.push('second'))
    await first
    expect(order).toEqual(['first', 'second'])
    await b.close()
    // The database hears of it a moment later.
    await until(() => a.take('x'), 5)
    await a.close()
  })

  test('whoever loses them is told', async () => {
    const lost: string[] = []
    const locks = await SessionLocks.open(settings().APP_DATABASE_URL, (why) => lost.push(why))
    await locks.take('mine')
    await t.owner.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'locks' and datname = current_database()`,
    )
    await until(async () => lost.length > 0, 5)
    const other = await SessionLocks.open(settings().APP_DATABASE_URL, () => {})
    expect(await other.take('mine')).toBe(true)
    await other.close()
  })

  test('a pool whose lock nobody holds is dead; one that was taken only just now is left alone', async () => {
    const locks = await SessionLocks.open(settings().APP_DATABASE_URL, () => {})
    const other = await SessionLocks.open(settings().APP_DATABASE_URL, () => {})
    // Pools of earlier tests may be dead as well.
    const dead = async () => (await unlockDead(t.app, locks)).filter((pool) => ['slept', 'own'].includes(pool))
    await t.app.raw(`select graphile_worker.add_job('prune-change-log', job_key => 'held-1')`)
    const lockedAt = (seconds: number) =>
      t.app.raw(
        `update graphile_worker._private_jobs set locked_by = 'slept', locked_at = now() - make_interval(secs => ?) where key = 'held-1'`,
        [seconds],
      )
    await lockedAt(2)
    expect(await dead()).toEqual([])
    await lockedAt(600)
    await other.take(poolLock('slept'))
    expect(await dead()).toEqual([])
    await locks.take(poolLock('own'))
    await t.app.raw(`update graphile_worker._private_jobs set locked_by = 'own' where key = 'held-1'`)
    expect(await dead()).toEqual([])
    await t.app.raw(`update graphile_worker._private_jobs set locked_by = 'slept' where key = 'held-1'`)
    await other.close()
    expect(await dead()).toEqual(['slept'])
    await locks.close()
  })
})

describe('work that has used up its tries', () => {
  const usedUp = (key: string) =>
    t.app.raw(`update graphile_worker._private_jobs set attempts = max_attempts, last_error = 'it broke' where key = ?`, [key])

  test('a batch: failed, said why, told, blocks nothing, and is started again to its end', async () => {
    const id = await mapped(t.ines, 'fails.csv', 'Name,Email\nFay Ling,fay@fails.example\n')
    await usedUp(`batch-${id}`)
    expect((await givenUp(t.app)).map((g) => [g.task, g.key])).toContainEqual(['run-batch', `batch-${id}`])
    startWorker()
    await until(async () => (await batchOf(id)).state === 'failed', 20)
    expect((await batchOf(id)).error).toMatch(/not all in.*Start it again, or undo it/)
    await until(async () => (await givenUp(t.app)).length === 0, 10)
    await expect(startBatchAgain(t.tam, id)).rejects.toThrow(/coordinators and managers/)
    await startBatchAgain(t.ines, id)
    await expect(startBatchAgain(t.ines, id)).rejects.toThrow(/Only a batch that failed/)
    await until(async () => (await batchOf(id)).state === 'done', 20)
    expect((await batchAccount(t.ines, id)).counts.new).toBe(1)
    expect((await batchOf(id)).error).toBeNull()
  }, 60_000)

  test('an undo, a trial, an enquiry and a search say so and can be begun again; what ended otherwise is left alone', async () => {
    const id = await broughtIn(t.ines, 'undone.csv', 'Name,Email\nUna Done,una@fails.example\n')
    await undoBatch(t.ines, id)
    await workFailed('undo-batch', id)
    expect(await batchOf(id)).toMatchObject({ state: 'done', error: expect.stringMatching(/Undo it again to go on/) })
    await undoBatch(t.ines, id)
    await workFailed('run-batch', id)
    expect((await batchOf(id)).state).toBe('undoing')
    const enquiry = await check(2)
    await workFailed('run-enquiry', enquiry)
    expect(await openEnquiry(t.ines, enquiry)).toMatchObject({ state: 'failed', note: expect.stringMatching(/can go on from there/) })
    await beginEnquiry(t.ines, enquiry, null)
    const search = await startSearch(t.ines)
    await expect(startSearch(t.ines)).rejects.toThrow(/already/)
    await workFailed('find-doubles', search)
    await startSearch(t.ines)
  })
})

test('what is under way without a job is taken up, whatever its kind, and nothing twice', async () => {
  await t.app.raw(`select graphile_worker.complete_jobs(array(select id from graphile_worker.jobs))`)
  const batch = await mapped(t.ines, 'queued.csv', 'Name,Email\nQue Ued,que@fails.example\n')
  const undone = await broughtIn(t.ines, 'to-undo.csv', 'Name,Email\nTo Undo,to@fails.example\n')
  await undoBatch(t.ines, undone)
  const enquiry = await check(2)
  await createList(t.ines, 'None of it', false)
  await t.app.raw(`select graphile_worker.complete_jobs(array(select id from graphile_worker.jobs))`)
  const taken = await takeUpWork()
  // Feeds are read by the clock, whatever else is under way.
  const keys = async () =>
    (
      await t
        .app('graphile_worker.jobs' as never)
        .whereRaw(`task_identifier <> 'read-feeds'`)
        .select('key')
    ).map((j: { key: string }) => j.key)
  const all = await keys()
  for (const key of [`batch-${batch}`, `undo-${undone}`, `enquiry-${enquiry}`]) expect(all).toContain(key)
  expect(all).toHaveLength(taken)
  expect(await takeUpWork()).toBe(0)
})
