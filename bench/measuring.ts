import { type ChildProcess, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { connect, type Knex, setDb } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { asApp, prepare } from '@/db/prepare'
import { firstPolicy } from '@/core/screening/rules'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'
import { type Measured, median, quantile, steal } from './figures'
import { generate, generatePremises } from './generate'
import { type Codes, type page, Seeded, type Shape, shapeOf } from './lists'
export const [people, data, EDITS] = [Number(process.argv[2]), process.argv[3], Number(process.argv[4])]
export const only = process.argv[5]?.split(',')
export const say = (line: string) => process.stderr.write(`${line}\n`)
export const ZONE = 'Europe/London'
export const measured: Measured[] = []

export async function timed<T>(work: () => Promise<T>): Promise<[number, T]> {
  const began = performance.now()
  const result = await work()
  return [performance.now() - began, result]
}

export function record(name: string, times: number[], aim?: string, note?: string): void {
  measured.push({ name, times, aim, note })
  say(`${name}: median ${median(times).toFixed(1)} ms, p95 ${quantile(times, 0.95).toFixed(1)} ms`)
}

// A database of its own for each size, made once and copied for each run.
export const server = process.env.OWNER_DATABASE_URL as string
export const password = process.env.ARCH_APP_PASSWORD as string
export const template = `bench_${people}`
export const admin = connect(server, 1)
if ((await admin.raw('select 1 from pg_database where datname = ?', [template])).rows.length === 0) {
  say(`Making ${people.toLocaleString('en')} people and what belongs to them`)
  await admin.raw('drop database if exists bench_making with (force)')
  await admin.raw('create database bench_making')
  const url = Object.assign(new URL(server), { pathname: '/bench_making' }).toString()
  await prepare(url, password)
  const owner = connect(url, 2)
  await generate(owner, people, process.env.ARCH_SECRET as string, (line) => say(`  ${line}`))
  await owner.destroy()
  await admin.raw(`alter database bench_making rename to ${template}`)
}
{
  // One that an earlier release made is brought up to date once, and not in every copy of it.
  const url = Object.assign(new URL(server), { pathname: `/${template}` }).toString()
  process.env.APP_DATABASE_URL = asApp(Object.assign(new URL(server), { pathname: '/bench_run' }).toString(), password)
  await prepare(url, password)
  const owner = connect(url, 1)
  await generatePremises(owner, people, (line) => say(`  ${line}`))
  await owner.destroy()
}
await admin.raw('drop database if exists bench_run with (force)')
await admin.raw(`create database bench_run template ${template}`)
export const ownerUrl = Object.assign(new URL(server), { pathname: '/bench_run' }).toString()
process.env.APP_DATABASE_URL = asApp(ownerUrl, password)
await prepare(ownerUrl, password)
export const owner = connect(ownerUrl, 3)
export const app = connect(process.env.APP_DATABASE_URL, 6)
setDb(app)
export const ines: Actor = {
  id: await addMember(owner, { name: 'Ines Okafor', email: 'ines@brackenfold.example', post: 'coordinator', password: 'rain-on-the-roof' }),
  name: 'Ines Okafor',
  post: 'coordinator',
}
export const before = steal()

// The engine, as the application runs it.
export let engine: ChildProcess | undefined
process.on('exit', () => engine?.kill('SIGKILL'))
export async function startEngine(): Promise<number> {
  const began = performance.now()
  engine = spawn(process.execPath, ['--import', 'tsx', 'src/engine/main.ts'], { env: process.env, stdio: ['ignore', 'ignore', 'inherit'] })
  for (;;) {
    const ready = await askEngine('health', {}).then(
      (h) => h.ready,
      () => false,
    )
    if (ready) return performance.now() - began
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}
/** Resident memory of the engine in bytes: now, and at its highest (proc(5), /proc/PID/status). */
export function memory(): { now: number; highest: number } {
  const status = readFileSync(`/proc/${engine?.pid}/status`, 'utf8')
  const of = (field: string) => Number(new RegExp(`${field}:\\s+(\\d+)`).exec(status)?.[1]) * 1024
  return { now: of('VmRSS'), highest: of('VmHWM') }
}
export const mb = (bytes: number) => `${Math.round(bytes / 1_000_000)} MB`
export const started = await startEngine()
export const atStart = memory()
record(
  'engine start, contacts and keys included',
  [started],
  '25 s',
  `memory ${mb(atStart.now)}, at its highest while loading ${mb(atStart.highest)}; aim 900 MB`,
)

// The best one-scan SQL we can write: a flat table of integer-coded facts.
export async function flatTable(db: Knex): Promise<Codes> {
  const distinct = async (sql: string): Promise<string[]> =>
    (await db.raw(`select distinct w from (${sql}) d(w) where w is not null order by 1`)).rows.map((r: { w: string }) => r.w)
  const codes = {
    role: await distinct('select role from person'),
    industry: await distinct('select industry from organisation'),
    county: await distinct('select county from person union select county from organisation'),
    town: await distinct('select town from person union select town from organisation'),
    tag: await distinct('select unnest(tags) from person'),
  }
  for (const [name, words] of Object.entries(codes)) {
    await db.raw(`create temporary table code_${name} (word text primary key, code int)`)
    await db.raw(`insert into code_${name} select word, n - 1 from unnest(?::text[]) with ordinality as w(word, n)`, [words])
  }
  await db.raw(`
    create table bench_facts as
    select p.id::int as id, r.code as role, i.code as industry, c.code as county, t.code as town, o.head_count,
      (extract(epoch from f.last_at) * 1000)::float8 as last_at, coalesce(f.attempts, 0) as attempts, q.lon, q.lat, coalesce((select bit_or(1 << g.code) from code_tag g where g.word = any(p.tags)), 0) as tags,
      exists (select 1 from address a where a.person_id = p.id and a.channel = 'email' and a.usable) as has_email,
      exists (select 1 from address a where a.person_id = p.id and a.channel = 'phone' and a.usable) as has_phone,
      exists (select 1 from address a where a.person_id = p.id and a.channel = 'post' and a.usable) as has_post
    from person p left join organisation o on o.id = p.organisation_id left join facts f on f.person_id = p.id left join premises q on q.address_key = coalesce(p.address_key, o.address_key)
      left join code_role r on r.word = p.role left join code_industry i on i.word = o.industry
      left join code_county c on c.word = case when p.town is null and p.postcode is null and p.county is null then o.county else p.county end
      left join code_town t on t.word = case when p.town is null and p.postcode is null then o.town else p.town end
    where p.state = 'live';
    analyze bench_facts;`)
  return codes
}
/** Where everybody stands, as one number: the same from the engine and from SQL, or no time is printed. */
export function digest(ids: Int32Array, where: Uint8Array): number {
  let sum = 0
  for (let i = 0; i < ids.length; i++) sum += ((ids[i] * 2654435761) % 1000003) * (where[i] + 1)
  return sum
}

export const moment = { asOf: Date.now(), zone: ZONE }
export const screening = { ...moment, exceptRounds: [], letThrough: [] }
export const rules = firstPolicy().map((r) => (r.kind === 'register' ? { ...r, version: new Date().toISOString().slice(0, 10) } : r))
export const random = new Seeded(4711)

/** Keeps the areas that lines name, under the numbers they have there. */
export async function keepAreas(lines: ReturnType<typeof page>, shape: Shape): Promise<void> {
  for (const line of lines) {
    if (!('criterion' in line) || line.criterion.kind !== 'area') continue
    const [{ id, name }] = line.criterion.areas
    await owner('area')
      .insert({
        id,
        name,
        shape: JSON.stringify(shapeOf(id, shape)),
        shared: true,
        named: false,
        owner_id: ines.id,
        created_at: new Date(),
      })
      .onConflict('id')
      .ignore()
  }
}
