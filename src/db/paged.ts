import type { Knex } from './connection'

// biome-ignore lint/suspicious/noExplicitAny: what a query selects is known to whoever wrote it
type SelectedRow = any

/**
 * A page of what a query finds, and how many it finds altogether. The query has its conditions and selects nothing yet; `page` puts
 * what it finds in order and says what to select.
 */
export async function paged<Row = SelectedRow>(
  trx: Knex,
  query: Knex.QueryBuilder,
  { offset, limit }: { offset: number; limit: number },
  page: (query: Knex.QueryBuilder) => Knex.QueryBuilder,
): Promise<{ total: number; rows: Row[] }> {
  const [{ total }] = await query.clone().select(trx.raw('count(*)::int as total'))
  const rows = await page(query).offset(offset).limit(limit)
  return { total, rows }
}
