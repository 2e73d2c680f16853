import {
  type LetterClosing,
  type LetterResults,
  letterPart,
  letterResultsOf,
  POSTED_STANDS,
  type LetterStand,
  type ReleasedLetter,
} from '@/core/rounds/letter-results'
import { LETTER_RESULTS_HEADING, letterResultsRows } from '@/core/text/letter-results-csv'
import { slugOf } from '@/core/text/slug'
import type { LetterResultsPage, LetterResultsView, LetterRow } from '@/core/views/premises-round-views'
import { db, type Knex } from '@/db/connection'
import { lettersOf, letterStands } from '@/db/rounds/premises-round-rows'
import { closingsOf, releasedRounds } from '@/db/rounds/result-rows'
import type { RoundRow } from '@/db/rounds/round-rows'
import { writeCsv } from '@/formats/write-csv'
import { PAGE } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import type { Actor } from '@/usecases/team/actor'
import { mustBeOut, resultsHead } from './round-results'
import { choiceOf, premisesRoundFor } from './premises-rounds'
import { roundSlug } from './rounds'
import { heldOf, letterRow } from './screen-premises-round'

/** So many rounds of the list stand beside it. */
const MOST_BEFORE = 6

/** What came of a released round of letters as it is known now, beside what it had come to when it was closed and the rounds before it. */
export async function letterResults(actor: Actor, id: number): Promise<LetterResultsPage> {
  const { round, list } = await premisesRoundFor(actor, id)
  return {
    ...(await resultsHead(actor, round, list)),
    number: round.number,
    results: await resultsIn(db(), round),
    closing: (await closingsOf<LetterClosing>(db(), [id])).get(id) ?? null,
    before: await before(list.id, round.number),
    hasEarlier: round.number > 1,
  }
}

/** The letters behind a figure of a round's results, in their order. */
export async function resultLetters(
  actor: Actor,
  id: number,
  view: LetterResultsView,
  offset = 0,
): Promise<{ total: number; letters: LetterRow[] }> {
  const { round } = await premisesRoundFor(actor, id)
  mustBeOut(round)
  const held = await heldOf(db(), round)
  const numbers = (await letterStands(db(), id, [...held.keys()])).filter((letter) => isIn(letter, view)).map(({ number }) => number)
  const letters = await lettersOf(db(), id, { only: numbers.slice(offset, offset + PAGE) })
  return { total: numbers.length, letters: letters.map((letter) => letterRow(letter, held)) }
}

/** The account as a CSV file to keep: figures alone, and nobody's name. */
export async function letterResultsFile(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await premisesRoundFor(actor, id)
  await listFor(actor, list.id, 'use')
  mustBeOut(round)
  return {
    name: `${slugOf(list.name, 'list')}-${roundSlug(round)}-results.csv`,
    bytes: await writeCsv(LETTER_RESULTS_HEADING, letterResultsRows(await resultsIn(db(), round))),
  }
}

/** What a round of letters has come to, to be kept when it is closed. */
export async function letterClosingOf(trx: Knex, round: RoundRow): Promise<LetterClosing> {
  const { counts, cost } = await resultsIn(trx, round)
  return { counts, cost }
}

async function resultsIn(trx: Knex, round: RoundRow): Promise<LetterResults> {
  const held = await heldOf(trx, round)
  return letterResultsOf(await letterStands(trx, round.id, [...held.keys()]), choiceOf(round))
}

async function before(list: number, number: number): Promise<LetterResultsPage['before']> {
  const rounds = await releasedRounds(db(), list, MOST_BEFORE, number)
  const kept = await closingsOf<LetterClosing>(
    db(),
    rounds.map(({ id }) => id),
  )
  const told: LetterResultsPage['before'] = []
  for (const own of rounds) {
    const closing = kept.get(own.id) ?? (await letterClosingOf(db(), own))
    told.push({ id: own.id, number: own.number, releasedAt: mustBeOut(own).toISOString(), ...closing })
  }
  return told
}

function isIn(letter: ReleasedLetter, { of, by, key }: LetterResultsView): boolean {
  if (by !== undefined && letterPart(letter, by) !== key) return false
  if (of === 'released') return true
  return of === 'posted' ? (POSTED_STANDS as readonly LetterStand[]).includes(letter.stand) : letter.stand === of
}
