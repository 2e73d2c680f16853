import { execFileSync, spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { connect, type Knex, setDb } from '@/db/connection'
import { asApp } from '@/db/prepare'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { Cluster } from '../../support/cluster'
import { broughtIn, freshDatabase, mapped, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { latestEdition } from '@/db/lists/list-rows'
import { batchAccount } from '@/usecases/intake/batch-account'
import { startRound } from '@/usecases/rounds/start-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { suppress } from '@/usecases/screening/suppress'

let t: TestDatabase
const file = `.data-test/care-${process.pid}.dump`
const restored = new Cluster(`.data-test/restore-${process.pid}`, process.env.ARCH_SECRET as string, 54980)
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})
afterAll(() => {
  restored.remove()
  for (const name of [file, `${file}.secret`]) rmSync(name, { force: true })
})

const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const run = (command: string, args: string[], env: Record<string, string>) =>
  spawnSync(command, args, { encoding: 'utf8', env: { ...process.env, ...env } })

/** Everything that is counted anywhere: lists, rounds and their files, batches, rows of every table. */
async function accounts(app: Knex, lists: number[], round: number, batch: number) {
  const figures = []
  for (const id of lists)
    figures.push((await listAccountFor(t.ines, { lines: (await latestEdition(id)).lines, view: { tab: 'on' } })).figures)
  const { rows: tables } = await app.raw(
    `select relname from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname not in ('change_log', 'worker_beat', 'knex_migrations', 'knex_migrations_lock', 'round_file_taken') order by 1`,
  )
  const counts: Record<string, number> = {}
  for (const { relname } of tables) {
    const allowed = (await app.raw(`select has_table_privilege(?, 'select') as may`, [relname])).rows[0].may
    if (allowed) counts[relname] = Number((await app(relname).count('* as n').first())?.n)
  }
  const files = await Promise.all(
    ['email', 'phone', 'post'].map(async (channel) =>
      (await roundFile(t.ines, round, channel, { asReleased: true })).bytes.toString('base64'),
    ),
  )
  return {
    figures,
    screening: (await screenRound(t.ines, round, { tab: 'held' })).figures,
    batch: (await batchAccount(t.ines, batch)).counts,
    counts,
    files,
  }
}

test('a backup brought back into an empty cluster gives every account as it was, and work under way goes on', async () => {
  const batch = await broughtIn(t.ines, 'first.csv', readFileSync('demo/files/pellow-prospects-first-month.csv'))
  await suppress(t.tam, { text: '@upper-marle-orchardbrook-library.example' }, { reason: 'opt-out', channels: ['email'], word: 'a letter' })
  const lists = [
    await createList(t.ines, 'Estates', true, [
      start,
      { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'role', any: ['estates', 'facilities'] } },
    ]),
    await createList(t.ines, 'Limited', false, [
      start,
      { id: 'l', verb: 'limit', off: false, most: 1, per: 'organisation', rank: 'easiest to reach' },
    ]),
  ]
  const round = await startRound(t.ines, lists[0])
  await releaseRound(t.ines, round)
  const waiting = await mapped(t.ines, 'second.csv', readFileSync('demo/files/pellow-prospects-second-month.csv'))
  const before = await accounts(t.app, lists, round, batch)

  const backup = run('bin/backup', [file], { DATABASE_URL: t.ownerUrl, ARCH_DATA: restored.folder })
  expect(backup.stderr + backup.stdout).toContain('Written:')
  expect(run('bin/backup', [file], { DATABASE_URL: t.ownerUrl, ARCH_DATA: restored.folder }).stderr).toContain('is there already')
  const back = run('bin/restore', [file], { DATABASE_URL: '', ARCH_DATA: restored.folder })
  expect(back.status, back.stderr).toBe(0)
  expect(back.stderr).toContain('Taken up again: 1 piece of work')
  // A second time it is refused: the database is not empty any more.
  expect(run('bin/restore', [file], { DATABASE_URL: '', ARCH_DATA: restored.folder }).stderr).toContain('is not empty')

  const owner = restored.start('arch_ledger')
  const app = connect(asApp(owner, process.env.ARCH_APP_PASSWORD as string), 4)
  setDb(app)
  const { ENGINE_PORT, ARCH_SECRET } = settings()
  const engine = await serveEngine(app, ENGINE_PORT + 1, ARCH_SECRET)
  settings().ENGINE_PORT = ENGINE_PORT + 1
  try {
    await engine.model.catchUp()
    expect(await accounts(app, lists, round, batch)).toEqual(before)
    // The ledger is still append-only, and the suppression still holds those who come in.
    await expect(app('entry').delete()).rejects.toThrow(/permission denied/)
    expect((await app.raw(`select count(*)::int as n from graphile_worker._private_jobs`)).rows[0].n).toBe(1)
    expect((await app('batch').where({ id: waiting }).first()).state).toBe('queued')
  } finally {
    settings().ENGINE_PORT = ENGINE_PORT
    await engine.close()
    await app.destroy()
    setDb(t.app)
  }
}, 180_000)

describe('the previous release', () => {
  test('its demo data is brought up to date by migrations, and nothing of it is lost', async () => {
    const name = `t_previous_${process.pid}`
    const server = process.env.OWNER_DATABASE_URL as string
    const owner = Object.assign(new URL(server), { pathname: `/${name}` }).toString()
    const admin = connect(server, 1)
    await admin.raw(`create database ${name}`)
    // Figures name their rules by id since 0021; what they say is the same.
    const counts = `select (select count(*) from person) as people, (select count(*) from entry) as entries, (select count(*) from address) as addresses, (select count(*) from suppression) as suppressions,
      (select count(*) from round_member) as members, (select string_agg(sha256, ',' order by round_id, channel) from round_file) as files, (select md5(string_agg(regexp_replace(figures::text, '"rule": ("[^"]*"|\\d+)(, ){0,1}', '', 'g'), '' order by id)) from round) as figures,
      (select md5(string_agg(lines::text, '' order by id)) from edition) as editions`
    try {
      execFileSync('/usr/lib/postgresql/15/bin/pg_restore', ['--no-owner', '--dbname', owner, 'tests/releases/0006-demo.dump'], {
        stdio: ['ignore', 'ignore', 'ignore'],
      })
    } catch {
      // The queue's own schema belongs to a role that this user may not give things to; it is made anew.
    }
    const db = connect(owner, 2)
    const before = (await db.raw(counts)).rows[0]
    expect(before.people).toBeGreaterThan(2000)
    await db.raw('drop schema if exists graphile_worker cascade')
    await db.destroy()
    const env = {
      OWNER_DATABASE_URL: owner,
      DATABASE_URL: owner,
      ARCH_SECRET: 'previous-release-fixture-secret-0001',
      ARCH_APP_PASSWORD: process.env.ARCH_APP_PASSWORD as string,
      ARCH_LOG: 'warn',
    }
    const out = run(process.execPath, ['--import', 'tsx', 'tests/support/check-previous.ts'], env)
    expect(out.status, out.stderr).toBe(0)
    const said = JSON.parse(out.stdout.trim().split('\n').at(-1) as string)
    const again = connect(owner, 1)
    expect((await again.raw(counts)).rows[0]).toEqual(before)
    await again.destroy()
    expect(said.migrations).toEqual([
      '0007_whole',
      '0008_whole_rounds',
      '0009_formats',
      '0010_doubles',
      '0011_registers',
      '0012_intake_in_full',
      '0013_enquiries',
      '0014_premises',
      '0015_second_post_keys',
      '0016_lists_in_full',
      '0017_sharing',
      '0018_contact_marks',
      '0019_nothing_leaks',
      '0020_column_sets',
      '0021_policies',
      '0022_direct_messages',
      '0023_countries',
      '0024_last_moment',
      '0025_suppressions_in_full',
      '0026_erasure',
      '0027_opt_outs_carried',
      '0028_registers_close_phones',
      '0029_measured_rounds',
      '0030_soft_bounces',
      '0031_comparisons',
      '0032_changes',
      '0033_tasks',
      '0034_openers',
      '0035_fit_checks',
      '0036_introductions',
      '0037_placements',
      '0038_has_left',
      '0039_results',
      '0040_letters',
      '0041_file_layouts',
      '0042_shares',
      '0043_only_new',
      '0044_digests',
      '0045_premises_rounds',
      '0046_planned_weeks',
      '0047_territories',
      '0048_supplements',
      '0049_steps',
      '0050_names_of_others',
    ])
    expect(said.lists).toHaveLength(6)
    for (const list of said.lists) expect(list.balance - list.out - list.unknown + list.in).toBe(list.on)
    // Every frozen round still says what it said when it was released.
    for (const round of said.rounds) expect(round.members).toEqual(round.frozen)
    expect(said.rounds.length).toBeGreaterThan(5)
    expect(said.failed).toBeGreaterThan(10)
    expect(said.domainKeys).toBe(said.emails)
    await admin.raw(`drop database ${name} with (force)`)
    await admin.destroy()
  }, 120_000)
})
