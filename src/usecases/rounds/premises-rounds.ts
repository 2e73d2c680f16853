import { createHash } from 'node:crypto'
import { datePlusDays, localDate } from '@/core/calendar/local-day'
import { FIRST_CHOICE, type LetterChoice } from '@/core/rounds/letter-choice'
import { type LettersMade, lettersTo } from '@/core/rounds/premises-letters'
import type { ScreenedPremises } from '@/core/screening/premises'
import { db, type Knex } from '@/db/connection'
import { type EditionRow, latestEdition, type ListRow } from '@/db/lists/list-rows'
import type { RoundRow, UsedEditions } from '@/db/rounds/round-rows'
import { premisesToScreen } from '@/db/screening/premises-to-screen'
import { askEngine } from '@/engine/client'
import { unpackIds } from '@/engine/packed-ids'
import type { PageOfLines } from '@/engine/protocol'
import { region } from '@/runtime/settings'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import { momentNow } from '@/usecases/screening/screening-now'
import { type Actor, Refused } from '@/usecases/team/actor'
import { anyRoundFor } from './rounds'

const CHUNK = 5000

/** A round of a list of premises that this person may see; locked where it is to be changed. */
export async function premisesRoundFor(
  actor: Actor,
  id: number,
  trx: Knex = db(),
  lock = false,
): Promise<{ round: RoundRow; list: ListRow }> {
  const found = await anyRoundFor(actor, id, trx, lock)
  if (found.list.subject !== 'premises') throw new Refused('This round goes to people, not to premises.', 'not found')
  return found
}

/** Returns to whom the letters of a round go: what was chosen, else the usual choice. */
export const choiceOf = (round: Pick<RoundRow, 'letters'>): LetterChoice => ({ ...FIRST_CHOICE, ...round.letters })

/** What a round of premises that is being built goes by: the newest edition of its list, with what its lines name. */
export interface PremisesBasis {
  edition: EditionRow
  page: PageOfLines & { uses: UsedEditions }
  choice: LetterChoice
  /** Tells one basis from another. */
  print: string
}

/** Returns what a round of premises is worked out from: its edition, its choice and what the choice would change. */
export async function premisesBasis(trx: Knex, round: RoundRow, list: number): Promise<PremisesBasis> {
  const edition = await latestEdition(list, trx)
  const page = await expanded(edition.lines, {}, trx)
  const choice = choiceOf(round)
  // The database keeps the settings of a choice in another order than a form does.
  const plain = Object.entries(choice).sort(([a], [b]) => (a < b ? -1 : 1))
  const parts = [edition.number, Object.entries(page.uses).sort(), plain]
  return { edition, page, choice, print: createHash('sha256').update(JSON.stringify(parts)).digest('hex').slice(0, 24) }
}

/** Which premises are on the list of a round that is being built, in the order of their ids. */
export async function membersOf({ page }: PremisesBasis, zone: string): Promise<number[]> {
  const moment = await withLastRounds(momentNow(zone), [page])
  const { packed } = await askEngine('members', { lines: page.lines, named: page.named, moment })
  return unpackIds(Buffer.from(packed, 'base64')).sort((a, b) => a - b)
}

/** Those premises as they are screened for letters at an instant. */
export async function screenedAt(trx: Knex, ids: readonly number[], round: RoundRow, zone: string, at: Date): Promise<ScreenedPremises[]> {
  const all: ScreenedPremises[] = []
  for (let i = 0; i < ids.length; i += CHUNK)
    all.push(...(await premisesToScreen(trx, ids.slice(i, i + CHUNK), { at, round: round.id, list: round.list_id, zone, home: region() })))
  return all
}

/** The letters that go to some premises under a choice, at an instant. */
export function lettersAt(all: readonly ScreenedPremises[], choice: LetterChoice, zone: string, at: Date): LettersMade {
  const since = choice.restDays === null ? null : datePlusDays(localDate(at.getTime(), zone), -choice.restDays)
  return lettersTo(all, choice, since)
}
