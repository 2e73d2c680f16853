import { readdirSync, readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { migrationSource } from '@/db/prepare'
import { freshDatabase } from '../../support/database'

const FILES = readdirSync('src/db/migrations')

/** The first migrations are TypeScript; those that were handed out never change. */
const LAST_OF_TYPESCRIPT = 19

test('from the twentieth on, a migration is a file of SQL with its way back', () => {
  for (const file of FILES) {
    const number = Number(file.slice(0, 4))
    expect(file, 'four digits and a name').toMatch(/^\d{4}_[a-z0-9_]+\.(ts|sql)$/)
    if (number <= LAST_OF_TYPESCRIPT) continue
    expect(file).toMatch(/\.sql$/)
    expect(readFileSync(`src/db/migrations/${file}`, 'utf8').split(/^-- down$/m), file).toHaveLength(2)
  }
  expect(FILES.map((file) => Number(file.slice(0, 4))).sort((a, b) => a - b)).toEqual(FILES.map((_, i) => i + 1))
})

test('each is known by its name alone, so that a database does not run one twice', async () => {
  const files = await migrationSource.getMigrations([])
  const names = files.map((file) => migrationSource.getMigrationName(file))
  expect(new Set(names).size).toBe(FILES.length)
  expect(names).toEqual([...names].sort())
  expect(names.every((name) => !name.includes('.'))).toBe(true)
})

test('those of SQL go down and up again, and leave the database as it was', async () => {
  const t = await freshDatabase()
  const schema = async () =>
    (
      await t.owner.raw(
        `select table_name, column_name, data_type, is_nullable, column_default from information_schema.columns where table_schema = 'public' order by 1, 2`,
      )
    ).rows
  const checks = async () =>
    (
      await t.owner.raw(
        `select conrelid::regclass::text as of, conname, replace(pg_get_constraintdef(oid), ' NOT VALID', '') as says from pg_constraint where connamespace = 'public'::regnamespace order by 1, 2`,
      )
    ).rows
  const rights = async () =>
    (
      await t.owner.raw(
        `select table_name, privilege_type from information_schema.role_table_grants where grantee = 'arch_app' and table_schema = 'public' order by 1, 2`,
      )
    ).rows
  const functions = async () =>
    (
      await t.owner.raw(
        `select p.oid::regprocedure::text as name, pg_get_functiondef(p.oid) as says, has_function_privilege('arch_app', p.oid, 'execute') as may
         from pg_proc p join pg_language l on l.oid = p.prolang where p.pronamespace = 'public'::regnamespace and l.lanname in ('sql', 'plpgsql') order by 1`,
      )
    ).rows
  const indexes = async () => (await t.owner.raw(`select indexname, indexdef from pg_indexes where schemaname = 'public' order by 1`)).rows
  const all = async () => [await schema(), await checks(), await functions(), await indexes(), await rights()]
  // Down one after the other from the newest, and up again in their order: each meets what it was written for.
  const files = (await migrationSource.getMigrations([])).filter((name) => name.endsWith('.sql')).reverse()
  const before: { file: string; stood: unknown[] }[] = []
  for (const file of files) {
    const stood = await all()
    before.push({ file, stood })
    await (await migrationSource.getMigration(file)).down?.(t.owner)
    expect((await all()).slice(0, 4), `${file} takes something away`).not.toEqual(stood.slice(0, 4))
  }
  for (const { file, stood } of before.reverse()) {
    await (await migrationSource.getMigration(file)).up(t.owner)
    expect(await all(), `${file} brings it back`).toEqual(stood)
  }
})
