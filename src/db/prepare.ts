import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { runMigrations } from 'graphile-worker'
import type { Knex } from 'knex'
import { connect } from './connection'

const FOLDER = fileURLToPath(new URL('./migrations', import.meta.url))

/**
 * Migrations in the order of their numbers. The first nineteen are TypeScript; from there on each is a file of SQL, whose way back
 * stands behind a line `-- down`, so that none of them changes when code does.
 */
export const migrationSource: Knex.MigrationSource<string> = {
  getMigrations: async () =>
    readdirSync(FOLDER)
      .filter((f) => /^\d{4}_.*\.(ts|sql)$/.test(f))
      .sort(),
  getMigrationName: (file) => file.replace(/\.(ts|sql)$/, ''),
  getMigration: async (file) => (file.endsWith('.sql') ? ofSql(file) : await import(`./migrations/${file.replace(/\.ts$/, '')}.ts`)),
}

function ofSql(file: string): Knex.Migration {
  const [up, down, ...more] = readFileSync(join(FOLDER, file), 'utf8').split(/^-- down$/m)
  if (down === undefined || more.length > 0) throw new Error(`${file}: a migration has one line “-- down”`)
  return { up: (knex) => knex.raw(up), down: (knex) => knex.raw(down) }
}

/**
 * Brings a database up to date: the application's role (with this password), the tables, the queue of jobs.
 * Returns the names of the migrations that were run. `owner` must be allowed to create roles.
 */
export async function prepare(owner: string, appPassword: string): Promise<string[]> {
  const knex = connect(owner, 2)
  try {
    await makeAppRole(knex, appPassword)
    await knex.raw('grant usage on schema public to arch_app')
    const [, ran] = await knex.migrate.latest({ migrationSource })
    // The queue of jobs is the one thing the application's role owns: its tables let nobody but their owner see a job.
    await knex.raw('create schema if not exists graphile_worker authorization arch_app')
    // Its installer asks to create the schema, which is there already, so it is let do that for as long as it takes.
    const [{ name }] = (await knex.raw('select current_database() as name')).rows
    await knex.raw('grant create on database ?? to arch_app', [name])
    await runMigrations({ connectionString: asApp(owner, appPassword) })
    await knex.raw('revoke create on database ?? from arch_app', [name])
    return ran as string[]
  } finally {
    await knex.destroy()
  }
}

/** The application's role, which owns nothing of the data, with this password. */
export async function makeAppRole(knex: Knex, password: string): Promise<void> {
  await knex.raw(`do $$ begin
    if not exists (select 1 from pg_roles where rolname = 'arch_app') then create role arch_app login; end if;
  end $$`)
  await knex.raw(`alter role arch_app with login nosuperuser nocreatedb nocreaterole password '${password.replaceAll("'", "''")}'`)
}

/** The same database in the application's role. */
export function asApp(owner: string, appPassword: string): string {
  const url = new URL(owner)
  url.username = 'arch_app'
  url.password = encodeURIComponent(appPassword)
  return url.toString()
}
