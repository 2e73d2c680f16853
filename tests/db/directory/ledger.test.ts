import { beforeAll, expect, test } from 'vitest'
import { migrationSource } from '@/db/prepare'
import { connect } from '@/db/connection'
import { recordContact } from '@/usecases/contact/record-contact'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'

let t: TestDatabase
let person: number
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(t.ines, 'one.csv', 'Name,Email\nMaud Ellery,maud@example.org\n')
  person = (await t.app('person').first('id')).id
  await recordContact(t.tam, person, { channel: 'phone', result: 'spoke', note: 'call again in May' })
})

test.each([
  'entry',
  'entry_value',
  'edition',
  'round_member',
  'round_channel',
  'round_file',
  'round_standing',
  'suppression',
  'suppression_key',
  'suppression_lift',
  'batch_file',
  'register_file',
])('invariant 6: the application’s role may neither change, delete nor empty %s', async (table) => {
  const { rows } = await t.owner.raw(
    `select privilege_type from information_schema.role_table_grants where grantee = 'arch_app' and table_name = ?`,
    [table],
  )
  expect(rows.map((r: { privilege_type: string }) => r.privilege_type).sort()).toEqual(['INSERT', 'SELECT'])
  await expect(t.app(table).delete()).rejects.toThrow(/permission denied/)
  await expect(t.app.raw(`truncate ${table}`)).rejects.toThrow(/permission denied/)
})

test('an entry cannot be updated by the application', async () => {
  await expect(t.app('entry').update({ result: 'other' })).rejects.toThrow(/permission denied/)
  await expect(t.app('entry_value').update({ note: null })).rejects.toThrow(/permission denied/)
})

test('the application’s role owns no table of the ledger and cannot make itself a new role', async () => {
  const { rows } = await t.owner.raw(`select tablename from pg_tables where schemaname = 'public' and tableowner = 'arch_app'`)
  expect(rows).toEqual([])
  await expect(t.app.raw('create role other')).rejects.toThrow(/permission denied/)
})

test('personal values stand beside the ledger, not in it', async () => {
  const columns = (await t.owner.raw(`select column_name from information_schema.columns where table_name = 'entry'`)).rows.map(
    (r: { column_name: string }) => r.column_name,
  )
  for (const personal of ['before', 'after', 'note', 'name']) expect(columns).not.toContain(personal)
  const entry = await t.app('entry').where({ person_id: person, kind: 'contact' }).first()
  expect(JSON.stringify(entry)).not.toContain('May')
  expect(await t.app('entry_value').where({ id: entry.value_id }).first('note')).toEqual({ note: 'call again in May' })
})

test('the facts of a person move with the entry that moves them', async () => {
  expect(await t.app('facts').where({ person_id: person }).first()).toMatchObject({
    last_channel: 'phone',
    last_result: 'spoke',
    last_by: t.tam.id,
    attempts: 1,
  })
  await recordContact(t.ines, person, { channel: 'email', result: 'sent', date: '2026-05-01' })
  expect(await t.app('facts').where({ person_id: person }).first()).toMatchObject({ last_channel: 'phone', last_by: t.tam.id, attempts: 2 })
})

test('migrations go down to nothing and up again', async () => {
  const knex = connect(t.ownerUrl, 2)
  await knex.migrate.rollback({ migrationSource }, true)
  const left = (await knex.raw(`select table_name from information_schema.tables where table_schema = 'public' and table_name !~ '^knex_'`))
    .rows
  expect(left).toEqual([])
  await knex.migrate.latest({ migrationSource })
  expect(await knex('person').select()).toEqual([])
  await knex.destroy()
})
