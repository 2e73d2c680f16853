import type { RequalifyFigures } from '@/core/rounds/requalify'
import type { ListFigures } from '@/core/lists/account'
import type { ScreeningFigures } from '@/core/screening/account'
import type { Rule } from '@/core/screening/rules'
import { db, type Knex } from '@/db/connection'

export interface RoundRow {
  id: number
  list_id: number
  number: number
  edition_id: number
  rules: Rule[]
  uses: Record<string, number>
  started_at: Date
  started_by: string
  requalified_at: Date | null
  screened_at: Date | null
  as_of: Date | null
  released_at: Date | null
  released_by: string | null
  closed_at: Date | null
  closed_by: string | null
  figures: RoundFigures | null
}

/** What a round keeps of its accounts when it is released. */
export interface RoundFigures {
  list: ListFigures
  screening: ScreeningFigures
  requalified: { listed: RequalifyFigures; clear: RequalifyFigures } | null
}

/** The last released round of a list, and its last round of any kind. */
export async function lastRounds(list: number, trx: Knex = db()): Promise<{ released: RoundRow | null; newest: RoundRow | null }> {
  const released = await trx('round').where({ list_id: list }).whereNotNull('released_at').orderBy('number', 'desc').first()
  const newest = await trx('round').where({ list_id: list }).orderBy('number', 'desc').first()
  return { released: released ?? null, newest: newest ?? null }
}
