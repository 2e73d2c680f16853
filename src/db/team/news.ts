import type { Knex } from '@/db/connection'

/** Tells whoever has a list open that something about it was said, proposed or settled, or who may do what was changed. */
export async function tellTalk(trx: Knex, list: number): Promise<void> {
  await trx.raw(`select pg_notify('arch_news', ?)`, [JSON.stringify({ list })])
}

/** Tells whoever has a list open that somebody came to look at it, began to work on it or went. */
export async function tellHere(trx: Knex, list: number): Promise<void> {
  await trx.raw(`select pg_notify('arch_news', ?)`, [JSON.stringify({ list, here: true })])
}

/** Tells whoever began some work, wherever they are, that it has ended; once the caller's transaction is committed. */
export async function tellWork(trx: Knex, to: string, text: string, href: string): Promise<void> {
  await trx.raw(`select pg_notify('arch_news', ?)`, [JSON.stringify({ to, text: text.slice(0, 500), href })])
}
