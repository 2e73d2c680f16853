import type { Criterion } from '@/core/criteria/registry'
import type { FeedItem } from '@/core/changes/feed'
import type { Line } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { readDueChanges } from '@/usecases/changes/read-changes'
import { tellChanges } from '@/usecases/changes/tell-changes'
import { changesPage } from '@/usecases/changes/changes-page'
import { readFeed } from '@/usecases/changes/run-feed'
import { createList } from '@/usecases/lists/create-list'
import { keepAreas, moment, owner, people, random, record, ines, say, timed, ZONE } from './measuring'
import { page, questions, SHAPES, START } from './lists'

/** So many changes for each person, a sixth of them in the last ninety days; so many lists, and so many people on them together. */
const CHANGES = 3
const LISTS = 40
const FOLLOWED = 0.3

/** Changes at this size: asked for in a list, as somebody's account, told to lists after a batch of new ones, and read from a feed. */
export async function whatChanged(): Promise<void> {
  await fill()
  await asked()
  await told()
  await account()
  await feed()
}

/** Fills the ledger and the index of changes, as if everything had been read and told; triggers stand aside. */
async function fill(): Promise<void> {
  say(`Making ${(CHANGES * people).toLocaleString('en')} changes`)
  await owner.transaction(async (trx) => {
    await trx.raw(`set local session_replication_role = replica`)
    await trx.raw('truncate change_due')
    const [{ first }] = (await trx.raw('select coalesce(max(id), 0) + 1 as first from entry')).rows
    await trx.raw(
      `insert into entry (id, person_id, kind, at, recorded_at, actor_id) overriding system value
       select :first + n, 1 + n % :people, 'reported', now() - (n * 7919 % 1080) * interval '1 day', now() - (n * 7919 % 1080) * interval '1 day', 'feed'
       from generate_series(0::bigint, :all - 1) n`,
      { first, people, all: CHANGES * people } as never,
    )
    await trx.raw(
      `insert into change (person_id, kind_id, entry_id, reports, sources, after_day, by_day, sure, learned_at, state, told_at)
       select 1 + n % :people, k.ids[(1 + n * 31 % cardinality(k.ids))::int], :first + n, array[:first + n], 1,
         d.day - (n * 13 % 40)::int - 1, d.day, 'likely', d.at, case when n % 5 = 0 then 'handled' else 'open' end, d.at
       from generate_series(0::bigint, :all - 1) n cross join (select array_agg(id order by id) as ids from change_kind) k
         cross join lateral (select (now() - s.ago)::date as day, now() - s.ago as at from (select (case when n % 6 = 0 then n * 7919 % 90 else 90 + n * 7919 % 990 end) * interval '1 day' as ago) s) d`,
      { first, people, all: CHANGES * people } as never,
    )
    await trx.raw(`select setval(pg_get_serial_sequence('entry', 'id'), (select max(id) from entry))`)
    // As a bulk load is marked.
    await trx.raw(`insert into change_log (what, ids) values ('person', null)`)
  })
  await owner.raw('analyze change; analyze entry')
}

const changed = (days: number): Criterion => ({
  kind: 'changed',
  asks: ['confirm', 'opening'],
  kinds: [],
  days,
  by: 'happened',
  least: 1,
  state: 'unhandled',
})

/** A twelve-line list with a line about changes, edited again and again; and that line alone beside one SQL statement. */
async function asked(): Promise<void> {
  const [shape] = SHAPES
  const base = page(questions(shape, random))
  await keepAreas(base, shape)
  const keep = (days: number): Line => ({ id: 'changed', verb: 'keep', off: false, unknownAsYes: false, criterion: changed(days) })
  const ask = (lines: Line[]) => askEngine('list', { lines, named: {}, moment, view: { tab: 'on' }, page: { offset: 0, limit: 60 } })
  const [caught] = await timed(() => ask([START]))
  say(`the engine read them in ${Math.round(caught)} ms`)
  const times: number[] = []
  for (let i = 0; i < 60; i++) {
    await ask([...base, keep(30)])
    times.push((await timed(() => ask([...base, keep(31 + i)])))[0])
  }
  const sql: number[] = []
  for (const days of [30, 60, 90, 365]) {
    const [time, { rows }] = await timed(() =>
      owner.raw(
        `with told as (select c.person_id, count(*) filter (where c.after_day + 1 >= d.first) as sure from change c join change_kind k on k.id = c.kind_id
             cross join (select (to_timestamp(:asOf / 1000.0) at time zone :zone)::date - :days::int as first) d
           where c.person_id is not null and c.gone_at is null and k.asks in ('confirm', 'opening') and c.state in ('open', 'taken') and c.by_day >= d.first group by 1)
         select (count(*) filter (where t.sure > 0))::int as yes, (count(*) filter (where t.sure = 0))::int as unknown from told t join person p on p.id = t.person_id and p.state = 'live'`,
        { asOf: moment.asOf, zone: ZONE, days } as never,
      ),
    )
    sql.push(time)
    const { figures } = await ask([START, keep(days)])
    if (figures.totals.balance !== rows[0].yes || figures.lines[1].unknown !== rows[0].unknown)
      throw new Error(
        `the engine and the SQL disagree on ${days} days: ${figures.totals.balance}, ${figures.lines[1].unknown} and ${JSON.stringify(rows[0])}`,
      )
  }
  record('a line about changes in a twelve-line list, edited', times, 'p95 60 ms')
  record('that line alone as one SQL statement', sql, undefined, 'the same yes and unknown on 4 spans of days')
}

/** Forty lists of which each is asked whom ten thousand new changes concern. */
async function told(): Promise<void> {
  const shapes = Array.from({ length: LISTS }, (_, i) => SHAPES[i % SHAPES.length])
  for (const [i, shape] of shapes.entries()) {
    const lines = page(questions(shape, random))
    await keepAreas(lines, shape)
    await createList(ines, `News ${i}`, true, lines)
  }
  await bringChanges()
  const kind = (await owner('change_kind').where({ key: 'wrote' }).first('id')).id
  await owner.raw(
    `with made as (insert into entry (person_id, kind, at, recorded_at, actor_id) select 1 + n * 97 % :people, 'reported', now(), now(), 'feed' from generate_series(1, 10000) n returning id)
     insert into report (entry_id, kind_id, seen_on, stated, source) select id, :kind, now()::date, true, 'bench' from made`,
    { people, kind } as never,
  )
  const [reading] = await timed(() => readDueChanges())
  const [telling, found] = await timed(() => tellChanges())
  record('10,000 new changes read off the ledger', [reading])
  record(`the same told to ${LISTS} lists`, [telling], '5 s', `${found.toLocaleString('en')} told`)
}

/** The account and first page of somebody who follows a third of everybody through forty lists. */
async function account(): Promise<void> {
  const each = Math.round((people * FOLLOWED) / LISTS)
  await owner.raw(
    `insert into told (list_id, change_id, before, after, moved, learned_at)
     select l.id, c.id, true, true, true, c.learned_at from (select id, row_number() over (order by id) - 1 as n from list where name like 'News %') l
       join change c on c.person_id > l.n * :each and c.person_id <= (l.n + 1) * :each on conflict do nothing`,
    { each } as never,
  )
  await owner.raw('analyze told')
  await changesPage(ines, { tab: 'all', list: null, freshness: null, offset: 0 })
  await owner('follow').update({ since: new Date(), reach_days: 90 })
  const times: number[] = []
  let unhandled = 0
  for (let i = 0; i < 10; i++) {
    const [time, { account: own }] = await timed(() => changesPage(ines, { tab: 'all', list: null, freshness: null, offset: 0 }))
    times.push(time)
    unhandled = own.closing
  }
  record(
    `the account of changes of ${(each * LISTS).toLocaleString('en')} people through ${LISTS} lists`,
    times,
    'p95 150 ms',
    `${unhandled.toLocaleString('en')} unhandled`,
  )
}

/** Ten thousand items of a feed about people of the directory. */
async function feed(): Promise<void> {
  const some = await owner('person as p')
    .join('address as a', 'a.person_id', 'p.id')
    .where({ 'p.state': 'live', 'a.channel': 'email' })
    .orderBy('p.id')
    .limit(10_000)
    .select('p.name', 'a.value')
  const day = new Date(moment.asOf).toISOString().slice(0, 10)
  const items = some.map(
    ({ name, value }, i): FeedItem => ({
      id: `bench-${i}`,
      about: { person: name, organisation: '', email: value },
      happening: 'wrote',
      field: null,
      before: null,
      after: null,
      day,
      stated: true,
      text: `item ${i}`,
      link: null,
    }),
  )
  const [time] = await timed(() =>
    readFeed({
      name: 'bench',
      read: async (cursor) => {
        const from = Number(cursor ?? 0)
        return { items: items.slice(from, from + 500), next: String(from + 500), more: from + 500 < items.length }
      },
    }),
  )
  const { rows } = await owner.raw(`select outcome, count(*)::int as n from feed_item where feed = 'bench' group by 1`)
  record(
    '10,000 items of a feed, in pages of 500',
    [time],
    '5 s',
    rows.map((row: { outcome: string; n: number }) => `${row.n} ${row.outcome}`).join(', '),
  )
}
