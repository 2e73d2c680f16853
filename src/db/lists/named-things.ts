import type { Knex } from '@/db/connection'

/** Returns a query for names by id, from any table. */
export const namesIn = (trx: Knex, table: string, ids: number[], column: string) =>
  trx(table)
    .whereIn('id', ids)
    .select('id', `${column} as name`)
    .then((rows) => new Map<number, string>(rows.map((row) => [row.id, row.name])))
