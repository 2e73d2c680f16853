import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { connect } from '@/db/connection'
import { copyIn } from '@/db/copy-rows'
import { askEngine } from '@/engine/client'
import { moreLike } from '@/usecases/lists/more-like'
import { findPeople } from '@/usecases/directory/find-people'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { machine, median, steal, table } from './figures'
import { sizes } from './generate'
import { caseOf, edited, page, questions, shapeOf, SHAPES, START } from './lists'
import { decidedOnOne } from './one-record'
import { paint } from './paint'
import { startBatch } from '@/usecases/intake/start-batch'
import { presenceOf } from '@/usecases/lists/presence-of'
import { profileList } from '@/usecases/lists/profile-list'
import {
  EDITS,
  ZONE,
  admin,
  app,
  atStart,
  before,
  data,
  digest,
  flatTable,
  ines,
  keepAreas,
  mb,
  measured,
  memory,
  moment,
  only,
  owner,
  ownerUrl,
  people,
  random,
  record,
  rules,
  say,
  screening,
  timed,
} from './measuring'
import { proofs } from './proofs'
import { releases } from './releases'
import { screenings, wide } from './screenings'
import { whatChanged } from './what-changed'

/** A twelve-line list edited again and again: the engine, the same with nothing cached, and SQL. */
async function edits(): Promise<void> {
  const flat = connect(ownerUrl, 1)
  const codes = await flatTable(flat)
  let checked = 0
  for (const [s, shape] of SHAPES.entries()) {
    const base = questions(shape, random)
    await keepAreas(page(base), shape)
    const ask = (lines: ReturnType<typeof page>) =>
      askEngine('list', { lines, named: {}, moment, view: { tab: 'on' }, page: { offset: 0, limit: 60 } })
    await ask(page(base))
    const [warm, cold, sql, left, reordered]: number[][] = [[], [], [], [], []]
    const edits = Math.ceil((EDITS - s) / SHAPES.length)
    for (let e = 0; e < edits; e++) {
      // The list as it stood: an edit changes one line of what was answered before.
      await ask(page(base))
      const lines = page(edited(base, shape, random, e % base.length))
      await keepAreas(lines, shape)
      const [ours, answer] = await timed(() => ask(lines))
      const where = caseOf(lines, codes, moment.asOf, ZONE, shape)
      const [theirs, counts] = await timed(
        async () =>
          (await flat.raw(`select ${where} as stands, count(*)::int as n from bench_facts group by 1`)).rows as {
            stands: number
            n: number
          }[],
      )
      // The same lines in another order: arithmetic alone.
      const turned = [...lines.slice(0, 1), ...lines.slice(1).reverse()]
      const [turn, other] = await timed(() => ask(turned))
      reordered.push(turn)
      if (other.figures.totals.balance !== answer.figures.totals.balance) throw new Error('another order of keeps and drops left others')
      // Nothing cached: a record has changed since, so every question is asked anew.
      await app('person')
        .where({ id: 1 + e })
        .update({ role: `Changed ${e}` })
      await flat.raw('update bench_facts set role = null where id = ?', [1 + e])
      await app('person')
        .where({ id: 1 + e })
        .update({ role: null })
      const again = page(edited(base, shape, random, e % base.length))
      await keepAreas(again, shape)
      const [uncached] = await timed(() => ask(again))
      // The outputs are compared once the clock has stopped: every figure, and the deciding line of every record.
      const n = (code: number) => counts.find((c) => c.stands === code)?.n ?? 0
      const { standing } = await askEngine('release', { lines: again, named: {}, rules, moment: screening })
      const ids = new Int32Array(new Uint8Array(Buffer.from(standing.ids, 'base64')).buffer)
      const [own] = (
        await flat.raw(
          `select sum(((id::bigint * 2654435761) % 1000003) * (${caseOf(again, codes, moment.asOf, ZONE, shape)} + 1))::text as digest from bench_facts`,
        )
      ).rows
      const same =
        answer.figures.totals.balance === n(0) &&
        answer.figures.tabs.byLine.every((l, i) => l.leftOut === n(2 + 2 * i) && l.unknown === n(3 + 2 * i)) &&
        String(digest(ids, new Uint8Array(Buffer.from(standing.codes, 'base64')))) === own.digest
      if (!same)
        throw new Error(
          `the engine and the SQL disagree: ${answer.figures.tabs.byLine.map((l, i) => `line ${i + 1} out ${l.leftOut} and ${n(2 + 2 * i)}, unknown ${l.unknown} and ${n(3 + 2 * i)}`).join('; ')}; on ${answer.figures.totals.balance} and ${n(0)}, of ${JSON.stringify(again)}`,
        )
      if (e % 20 === 0)
        await decidedOnOne(
          app,
          again,
          new Map(areasIn(again).map((id) => [id, shapeOf(id, shape)])),
          moment,
          ids,
          new Uint8Array(Buffer.from(standing.codes, 'base64')),
          random,
        )
      checked++
      warm.push(ours)
      cold.push(uncached)
      sql.push(theirs)
      left.push(answer.figures.totals.balance)
    }
    const about = `${Math.round(median(left)).toLocaleString('en')} left`
    record(`account of a twelve-line list after an edit, ${shape.name}`, warm, people > 1_000_000 ? 'p95 150 ms' : 'p95 60 ms', about)
    record(`the same lines in another order, ${shape.name}`, reordered, '20 ms', about)
    record(`the same, nothing cached, ${shape.name}`, cold, '300 ms', about)
    record(`the same as one-scan SQL, ${shape.name}`, sql, undefined, `times ${(median(sql) / median(warm)).toFixed(1)} the engine’s`)
  }
  say(
    `${checked} edits: every figure and everybody’s deciding line the same from the engine and from SQL, and on a sample of records by the reference`,
  )
  await flat.destroy()
}

const areasIn = (lines: ReturnType<typeof page>): number[] =>
  lines.flatMap((line) => ('criterion' in line && line.criterion.kind === 'area' ? line.criterion.areas.map((a) => a.id) : []))

/** 1,000 changed records, from commit until an account shows them. */
async function changes(): Promise<void> {
  const changes: number[] = []
  for (let i = 0; i < 20; i++) {
    const word = `Keeper of number ${i}`
    await app('person')
      .whereBetween('id', [1 + i * 1000, 1000 + i * 1000])
      .where({ state: 'live' })
      .update({ role: word })
    const ask = () =>
      askEngine('list', {
        lines: [START, { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'role', any: [word] } }],
        named: {},
        moment,
        view: { tab: 'on' },
        page: { offset: 0, limit: 60 },
      })
    const [time] = await timed(async () => {
      while ((await ask()).total < 1000);
    })
    changes.push(time)
  }
  record('1,000 changed records, from commit until they show', changes, '250 ms')
}

/** Pages, through the use cases. */
async function pages(): Promise<void> {
  const letters = 'abcdefghijklmnopqrstuvwxyz'
  const firstPages: number[] = []
  for (let i = 0; i < 30; i++) firstPages.push((await timed(() => findPeople(ines, '')))[0])
  record('first page of the directory', firstPages, '100 ms')
  const finds: number[] = []
  for (let i = 0; i < 60; i++) {
    const typed = `family${random.below(40000)}`.slice(0, 3 + random.below(8)) + (i % 3 === 0 ? ` ${letters[random.below(26)]}` : '')
    finds.push((await timed(() => findPeople(ines, typed)))[0])
  }
  record('find as you type', finds, '100 ms')
  const listPages: number[] = []
  for (let i = 0; i < 30; i++) listPages.push((await timed(() => listAccountFor(ines, { lines: wide, view: { tab: 'on' } })))[0])
  record('first page of a list', listPages, '100 ms')
}

/** An intake of so many rows, all of it, by keys alone or by likeness too: the time in milliseconds, the bytes by which this process grew, and the most it took up. */
async function intake(rows: number, byKeysAlone = true): Promise<{ time: number; grown: number; highest: number }> {
  const at = Date.now()
  const csv = [
    'Id,First name,Last name,Job title,Organisation,Email,Phone,Address,Town,Postcode',
    ...Array.from({ length: rows }, (_, i) =>
      i % 5 === 0
        ? `,Given${i % 2000},Family${i % 40000},Estates Manager,Works ${1 + (i % 1000)},,,,,`
        : `N${at}-${i},New${i % 700},Comer${i % 9000},Facilities Lead,Works ${1 + ((i * 7) % sizes(people).organisations)},n${at}.${i}@example.org,,${i % 160} Quay Street,Town ${i % 60},PW1 1AB`,
    ),
  ].join('\r\n')
  const id = await receiveFile(ines, { name: `bench-${rows}.csv`, bytes: Buffer.from(csv), kind: 'people' })
  const { mapping } = await batchOf(id)
  global.gc?.()
  const start = process.memoryUsage().rss
  let highest = start
  const watch = setInterval(() => (highest = Math.max(highest, process.memoryUsage().rss)), 50)
  await startBatch(ines, id, { kind: 'people', mapping }, byKeysAlone ? { byKeysAlone } : {})
  const [time] = await timed(() => runBatch(id))
  clearInterval(watch)
  return { time, grown: highest - start, highest }
}
async function intakes(): Promise<void> {
  const small = await intake(20_000)
  const large = await intake(100_000)
  // The same rows by COPY into a table of plain text, with nothing done to them: what storing alone takes.
  const rows = Array.from({ length: 100_000 }, (_, i) => [
    `C${i}`,
    `New${i % 700}`,
    `Comer${i % 9000}`,
    'Facilities Lead',
    `Works ${i % 1000}`,
    `n${i}@example.org`,
    '',
    `${i % 160} Quay Street`,
    `Town ${i % 60}`,
    'PW1 1AB',
  ])
  const [copied] = await timed(() =>
    app.transaction(async (trx) => {
      await trx.raw('create temporary table plain (a text, b text, c text, d text, e text, f text, g text, h text, i text, j text)')
      await copyIn(trx, 'plain', ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j'], rows)
    }),
  )
  record('the same rows by a plain COPY', [copied])
  record(
    'intake of 100,000 rows, matched by keys',
    [large.time],
    '60 s',
    `memory grew by ${mb(large.grown)} with 100,000 rows and by ${mb(small.grown)} with 20,000`,
  )
  const scored = await intake(100_000, false)
  record('intake of 100,000 rows, matched by likeness too', [scored.time], '3 min for the matching', `memory grew by ${mb(scored.grown)}`)
}

/** Only when asked for: it takes a quarter of an hour and leaves a million people more. */
async function millions(): Promise<void> {
  const all = await intake(1_000_000)
  record(
    'intake of 1,000,000 rows, matched by keys',
    [all.time],
    undefined,
    `at its highest the process took up ${mb(all.highest)} (aim 500 MB)`,
  )
}

/** What stands beside a list: of how many each question is unknown, its profile, those most like it. A record changes before each. */
async function helps(): Promise<void> {
  const [presences, profiles, likes]: number[][] = [[], [], []]
  for (let i = 0; i < 12; i++) {
    const lines = wide.map((line) =>
      'criterion' in line && line.criterion.kind === 'contacted' ? { ...line, criterion: { ...line.criterion, days: 90 + i } } : line,
    )
    await app('person')
      .where({ id: 500 + i })
      .update({ role: `Helped ${i}` })
    presences.push((await timed(() => presenceOf(ines, { lines })))[0])
    profiles.push((await timed(() => profileList(ines, { lines })))[0])
    likes.push((await timed(() => moreLike(ines, { lines })))[0])
  }
  record('of how many each question is unknown, before it is added', presences)
  record('profile of a list beside the directory', profiles)
  record('those most like a list, a page of them', likes)
}

/** From a key press to the numbers on the screen: the application in Chromium, over the same engine. */
async function paints(): Promise<void> {
  const lines = page(questions(SHAPES[1], random))
  await keepAreas(lines, SHAPES[1])
  const list = await createList(ines, 'Painted', true, lines)
  const { edits, undone } = await paint({ ...process.env, ARCH_DIST: '.next-bench' }, Number(process.env.ENGINE_PORT) + 7, list, lines, 40)
  record('from Enter in a line’s form to painted numbers', edits, 'p95 150 ms', 'in Chromium, the form’s own counting before it left out')
  record('from Ctrl Z to painted numbers', undone, 'p95 150 ms')
}

const PARTS: Record<string, () => Promise<void>> = {
  edits,
  screenings,
  changes,
  pages,
  helps,
  paints,
  proofs,
  releases,
  intakes,
  'what-changed': whatChanged,
  millions,
}
for (const part of only ?? Object.keys(PARTS).filter((name) => name !== 'millions')) await PARTS[part]()

const after = steal()
const stolen = (100 * (after.stolen - before.stolen)) / (after.all - before.all)
const atEnd = memory()
const versions = { ...machine(), postgresql: (await app.raw('show server_version')).rows[0].server_version as string }
const text = [
  `${people.toLocaleString('en')} people, ${sizes(people).organisations.toLocaleString('en')} organisations, ${sizes(people).contacts.toLocaleString('en')} contacts, ${sizes(people).suppressions.toLocaleString('en')} suppressions.`,
  `${versions.cpu}, ${versions.cores} cores, ${versions.memory}; Node.js ${versions.node}, PostgreSQL ${versions.postgresql}; ${stolen.toFixed(1)} % of the processor stolen by the host.`,
  `Engine memory at the end ${mb(atEnd.now)}, at its highest ${mb(atEnd.highest)}.`,
  '',
  table(measured),
  '',
].join('\n')
console.log(text)
writeFileSync(
  join(data, `bench-${people}.json`),
  JSON.stringify({ at: new Date().toISOString(), people, versions, stolen, memory: { start: atStart, end: atEnd }, measured }, null, 1),
)
for (const pool of [app, owner, admin]) await pool.destroy()
process.exit(0)
