import { type OpenerCandidate, type OpenersGot, chooseOpener, NO_OPENERS } from '@/core/changes/choose-opener'
import { datePlusDays } from '@/core/calendar/local-day'
import { fold } from '@/core/clean/fold'
import type { FieldWords } from '@/core/text/field-words'
import type { Knex } from '@/db/connection'
import { type OpenerRow, openerRows, openersGot, type OpenerWish, openerWishes } from '@/db/rounds/opener-rows'
import { fieldWords } from '@/usecases/directory/custom-fields'

/** Further back no change gives an opener where its kind says nothing of how long it stays useful. */
const LONGEST = 3650

/**
 * The openers that people of a list would get on a day, by person, from the database as the transaction sees it. `people` is a query for
 * ids. Whoever has no fresh change of a kind the list takes openers from is not in it.
 */
export async function openersFor(
  trx: Knex,
  list: number,
  people: string,
  today: string,
): Promise<Map<number, { change: number; text: string }>> {
  const wishes = new Map((await openerWishes(trx, list)).map((wish) => [wish.kind, wish]))
  const chosen = new Map<number, { change: number; text: string }>()
  if (wishes.size === 0) return chosen
  const days = Math.max(...[...wishes.values()].map(({ freshDays }) => freshDays ?? LONGEST))
  const words = await fieldWords(trx)
  const candidates = new Map<number, OpenerCandidate[]>()
  for (const row of await openerRows(trx, list, people, datePlusDays(today, -days))) {
    const wish = wishes.get(row.kind)
    const candidate = wish && candidateOf(row, wish, words)
    if (candidate) candidates.set(row.person, [...(candidates.get(row.person) ?? []), candidate])
  }
  if (candidates.size === 0) return chosen
  const got = await gotBy(trx, people)
  for (const [person, own] of candidates) {
    const opener = chooseOpener(own, got.get(person) ?? NO_OPENERS, today)
    if (opener) chosen.set(person, opener)
  }
  return chosen
}

function candidateOf(row: OpenerRow, wish: OpenerWish, words: FieldWords): OpenerCandidate | null {
  const opener = wish.own ?? wish.ofKind
  if (opener === null) return null
  const { field } = row
  const told = field === null ? null : words.told({ field, before: row.before, after: row.after })
  const isOwn = field === 'role' || field === 'organisation'
  return {
    change: row.change,
    asks: wish.asks,
    sure: row.sure,
    state: row.state,
    after: row.after_day,
    by: row.by_day,
    freshDays: wish.freshDays,
    opener,
    holds: isOwn ? fold(row.now ?? '') === fold(row.after ?? '') : !row.later,
    words: {
      before: row.before === null ? null : (told?.before ?? null),
      after: row.after === null ? null : (told?.after ?? null),
      organisation: row.organisation,
      given: row.given,
    },
  }
}

async function gotBy(trx: Knex, people: string): Promise<Map<number, OpenersGot>> {
  const got = new Map<number, { changes: Set<number>; texts: Set<string> }>()
  for (const { person, change, text } of await openersGot(trx, people)) {
    const own = got.get(person) ?? { changes: new Set(), texts: new Set() }
    own.changes.add(change)
    if (text !== null) own.texts.add(text)
    got.set(person, own)
  }
  return got
}
