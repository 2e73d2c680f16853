import knex, { type Knex } from 'knex'
import pg from 'pg'
import { outsideOfTransactions, runInside } from '@/runtime/inside-transaction'
import { settings } from '@/runtime/settings'

export type { Knex }

const INT8 = 20
const DATE = 1082
/** bigint[]; the driver’s own list of types leaves arrays out. */
const INT8_ARRAY = 1016 as typeof pg.types.builtins.INT8
pg.types.setTypeParser(INT8, Number)
pg.types.setTypeParser(DATE, (text) => text)
const parseArray = pg.types.getTypeParser(INT8_ARRAY)
pg.types.setTypeParser(INT8_ARRAY, (text) => (parseArray(text) as unknown as string[]).map(Number))

/**
 * What the planner is told. Reading here and there is little dearer than reading on, as on solid-state disks, or a join
 * over a thousand people goes through every suppression; and compiling a query takes longer than most of ours run.
 * Source of the figure: PostgreSQL manual, random_page_cost.
 */
const PLANNER = '-c random_page_cost=1.1 -c jit=off'

/** Opens a pool of connections. Whoever opens one destroys it. */
export function connect(url: string, most = 10): Knex {
  const pool = knex({
    client: 'pg',
    compileSqlOnError: false,
    connection: { connectionString: url, application_name: process.env.ARCH_PROCESS ?? 'app', options: PLANNER },
    pool: { min: 0, max: most },
  })
  // What went wrong is told and logged without anybody's row: PostgreSQL writes it into what goes with the message.
  pool.on('query-error', (error: { detail?: string; where?: string }) => {
    delete error.detail
    delete error.where
  })
  const { client } = pool
  const begin = client.transaction.bind(client)
  client.transaction = (work: (trx: Knex.Transaction) => unknown, ...how: unknown[]) =>
    begin((trx: Knex.Transaction) => runInside(() => work(trx)), ...how)
  return pool
}

const kept = globalThis as { archDb?: Knex }

/**
 * The application's own pool, in the application's role. Inside a transaction everything goes through its own connection, since what
 * goes through another one waits for the locks of the first, and sees nothing of it; the tests fail where that is forgotten.
 */
export function db(): Knex {
  if (process.env.VITEST) outsideOfTransactions('the pool is asked for')
  kept.archDb ??= connect(settings().APP_DATABASE_URL)
  return kept.archDb
}

/** For tests and scripts: another pool in place of the application's own. */
export function setDb(pool: Knex): void {
  kept.archDb = pool
}
