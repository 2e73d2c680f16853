import { parse } from 'csv-parse/sync'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { copyIn } from '@/db/copy-rows'
import { addressKey } from '@/db/key'
import { askEngine } from '@/engine/client'
import { ReadModel } from '@/engine/read-model'
import type { serveEngine } from '@/engine/server'
import { createList } from '@/usecases/lists/create-list'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { freshDatabase, type TestDatabase } from '../../support/database'
import { said, startEngine } from '../../support/engine'
import { startRound } from '@/usecases/rounds/start-round'
import { closeRound } from '@/usecases/rounds/close-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { suppress } from '@/usecases/screening/suppress'

const PEOPLE = 6000
const MERGED = 7
/**
 * Everybody but the merged record, those whose address is not usable, and the one whose merged record opted out: more than
 * are marked one by one when contacts to come change in one statement.
 */
const CLEAR = PEOPLE - 1 - PEOPLE / 10 - 1
const start: Line = { id: 'start', verb: 'start', off: false, batch: null }

let t: TestDatabase
let engine: Awaited<ReturnType<typeof serveEngine>>
let first: number
beforeAll(async () => {
  t = await freshDatabase()
  const at = new Date('2026-01-10T09:00:00Z')
  await t.app.transaction(async (trx) => {
    await trx.raw(
      `insert into person (id, given, family, name, name_key, sort_key, role, state, merged_into, created_at)
       select n, 'Given', 'Family ' || n, 'Given Family ' || n, 'given family ' || n, 'family ' || lpad(n::text, 5, '0'), 'Estates lead', case when n = ? then 'merged' else 'live' end, case when n = ? then 1 end, ? from generate_series(1, ?::int) n`,
      [MERGED, MERGED, at, PEOPLE],
    )
    await copyIn(
      trx,
      'address',
      ['id', 'person_id', 'channel', 'raw', 'value', 'key', 'usable'],
      (function* () {
        for (let n = 1; n <= PEOPLE; n++) {
          const value = `p${n}@example.org`
          yield [n, n, 'email', value, value, `\\x${addressKey('email', value).toString('hex')}`, n % 10 === 0 ? 'false' : 'true']
        }
      })(),
    )
  })
  // What the merged record asked for counts for the one that stays.
  await suppress(t.tam, { person: 1 }, { reason: 'opt-out', channels: ['phone'], word: 'asked on the phone' })
  await t.app('suppression').insert({
    reason: 'opt-out',
    channels: ['email'],
    scope: 'person',
    person_id: MERGED,
    hint: 'x',
    since: at,
    word: 'before they were merged',
    actor_id: t.tam.id,
    recorded_at: at,
  })
  engine = await startEngine(t)
  first = await startRound(t.ines, await createList(t.ines, 'Everybody', true, [start]))
}, 120_000)

const clearFor = async (round: number) => (await screenRound(t.ines, round, { tab: 'clear' })).figures.clear.email

test('a round of thousands is released whole: members, channels, the file, contacts to come, the ledger', async () => {
  await releaseRound(t.ines, first)
  const counts = await t.app.raw(
    `select (select count(*)::int from round_member where round_id = :r) as members, (select count(*)::int from round_channel where round_id = :r) as channels,
       (select count(*)::int from contact_to_come where round_id = :r) as "toCome", (select count(*)::int from entry where round_id = :r and kind = 'listed') as listed, (select count(*)::int from entry where round_id = :r and kind = 'released') as released`,
    { r: first },
  )
  expect(counts.rows[0]).toEqual({ members: PEOPLE - 1, channels: 4 * (PEOPLE - 1), toCome: CLEAR, listed: PEOPLE - 1, released: CLEAR })
  const rows = parse((await roundFile(t.ines, first, 'email')).bytes, { columns: true }) as Record<string, string>[]
  expect(rows).toHaveLength(CLEAR)
  expect(rows.map((r) => r.Name)).toEqual([...rows.map((r) => r.Name)].sort((a, b) => Number(a.slice(13)) - Number(b.slice(13))))
  expect(rows.map((r) => r.Email)).not.toContain('p1@example.org')
  expect(rows[0]).toMatchObject({ 'Record number': '2', Name: 'Given Family 2', Email: 'p2@example.org' })
  const held = await t.app('round_member').where({ round_id: first, person_id: 1 }).first('held_by', 'evidence', 'why', 'card')
  expect(held.evidence).toMatchObject({ kind: 'suppression', reason: 'opt-out', of: 'person' })
  expect(held.card).toEqual({
    name: 'Given Family 1',
    given: 'Given',
    family: 'Family 1',
    role: 'Estates lead',
    organisation: null,
    sort: 'family 00001',
  })
})

describe('contacts to come of a round of thousands', () => {
  const marks = async () =>
    (await t.owner('change_log').where('at', '>', new Date(0)).orderBy('seq').select('what', 'ids')).filter((m) => m.what === 'to come')
  const same = async () => {
    await engine.model.catchUp()
    const fresh = new ReadModel(t.app)
    await fresh.catchUp()
    expect(said(engine.model)).toEqual(said(fresh))
  }

  test('are one mark, and the engine then says what one that has just read everything says', async () => {
    expect(await marks()).toEqual([{ what: 'to come', ids: [first] }])
    await same()
    expect(engine.model.columns.toCome.size).toBe(CLEAR)
  })

  test('close the channels of a second round until the first is closed', async () => {
    const second = await startRound(t.ines, await createList(t.ines, 'Everybody again', true, [start]))
    expect(await clearFor(second)).toBe(0)
    await closeRound(t.ines, first)
    expect(await marks()).toHaveLength(2)
    expect(await clearFor(second)).toBe(CLEAR)
    await same()
    expect((await askEngine('health', {})).people).toBe(PEOPLE - 1)
  })
})

describe('what a release writes is refused by the database', () => {
  test('where there is no such person, seat, or open channel', async () => {
    const other = await startRound(t.ines, await createList(t.ines, 'Yet another', true, [start]))
    const member = { round_id: other, card: '{}', why: 'x' }
    await expect(t.app('round_member').insert({ ...member, person_id: 999999 })).rejects.toThrow(/round_member of person 999999/)
    await expect(t.app('round_member').insert({ ...member, round_id: 999999, person_id: 2 })).rejects.toThrow(/round_member of person 2/)
    await expect(t.app('round_channel').insert({ round_id: other, person_id: 2, channel: 'email', closed_by: 0 })).rejects.toThrow(
      /round_channel of person 2/,
    )
    await t.app('round_member').insert({ ...member, person_id: 2 })
    await t.app('round_channel').insert({ round_id: other, person_id: 2, channel: 'email', closed_by: 0 })
    await expect(t.app('contact_to_come').insert({ round_id: other, person_id: 2, channel: 'email', since: new Date() })).rejects.toThrow(
      /contact_to_come of person 2/,
    )
  })

  test('and what it points at cannot be deleted, not even by the owner', async () => {
    for (const table of ['round', 'person', 'round_member', 'round_channel']) {
      await expect(t.owner(table).delete()).rejects.toThrow(`nothing is deleted from ${table}`)
      await expect(t.owner.raw(`truncate ${table} cascade`)).rejects.toThrow(/nothing is deleted from/)
    }
    expect((await t.app('person').count('* as n').first())?.n).toBe(PEOPLE)
  })
})

test('the planner knows how many people a round has as soon as it is released, although it knew of others only', async () => {
  await t.owner.raw('analyze')
  const round = await startRound(t.ines, await createList(t.ines, 'Everybody in one more', true, [start]))
  const expected = async () => {
    const rows: Record<string, number> = {}
    for (const table of ['round_member', 'round_channel', 'contact_to_come']) {
      const { rows: plan } = await t.app.raw(`explain (format json) select 1 from ${table} where round_id = ${round}`)
      rows[table] = plan[0]['QUERY PLAN'][0].Plan['Plan Rows']
    }
    return rows
  }
  expect(await expected()).toEqual({ round_member: 1, round_channel: 1, contact_to_come: 1 })
  await releaseRound(t.ines, round)
  const known = await expected()
  for (const [table, rows] of Object.entries({ round_member: PEOPLE - 1, round_channel: 4 * (PEOPLE - 1), contact_to_come: CLEAR })) {
    expect(known[table]).toBeGreaterThan(rows / 2)
    expect(known[table]).toBeLessThan(rows * 2)
  }
})
