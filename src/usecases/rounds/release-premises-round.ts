import { countText } from '@/core/text/written'
import { LETTERS_HEADING, lettersRows } from '@/core/text/letters-csv'
import { slugOf } from '@/core/text/slug'
import type { LettersMade } from '@/core/rounds/premises-letters'
import { localDate } from '@/core/calendar/local-day'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { shutGate, takeTurn } from '@/db/locks'
import { insertFile } from '@/db/rounds/round-files'
import { insertLetters, insertNamedToCome } from '@/db/rounds/premises-round-rows'
import { type RoundRow, updateLettersReleased } from '@/db/rounds/round-rows'
import { writeCsv } from '@/formats/write-csv'
import { now } from '@/runtime/clock'
import { log } from '@/runtime/log'
import { region } from '@/runtime/settings'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { entriesOfPremises } from './letter-entries'
import { Overtaken, unlessOvertaken } from './overtaken'
import { lettersAt, membersOf, premisesBasis, premisesRoundFor, screenedAt } from './premises-rounds'

/** What somebody saw when they released a round of premises. */
export interface ConfirmedLetters {
  print: string
  letters: number
}

/**
 * Releases a round of premises: freezes its letters, to whom and where each goes and which premises it is about, and why others get none;
 * makes their file. One release at a time. The letters are made first, while others go on working; then the gate is shut, which writers of
 * suppressions wait for, and all of them are made once more as of that moment. Where anything comes out otherwise, all of it is given up and
 * begun anew. More letters than somebody `confirmed`, or others, are refused.
 */
export async function releasePremisesRound(actor: Actor, id: number, confirmed: ConfirmedLetters): Promise<void> {
  mustCoordinate(actor, 'Releasing a round')
  await unlessOvertaken(id, 'letters', () => release(actor, id, confirmed))
}

async function release(actor: Actor, id: number, confirmed: ConfirmedLetters): Promise<void> {
  const { round, list } = await premisesRoundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (round.released_at) throw new Refused('The round is released already.')
  const basis = await premisesBasis(db(), round, list.id)
  if (confirmed.print !== basis.print)
    throw new Refused(
      'The list, or to whom the letters go, changed since you opened this page. Nothing was released. Load the page again and look at the letters.',
    )
  const ids = await membersOf(basis, list.zone)
  await db().transaction(async (trx) => {
    await takeTurn(trx)
    const held = await premisesRoundFor(actor, id, trx, true)
    if (held.round.released_at) throw new Refused('The round is released already.')
    const unchanged = async () => {
      const { round: again } = await premisesRoundFor(actor, id, trx)
      if ((await premisesBasis(trx, again, list.id)).print !== basis.print)
        throw new Refused('The list, or to whom the letters go, was changed just now. Nothing was released. Look at the letters once more.')
    }
    await unchanged()
    const begun = now()
    const made = async (at: Date) => {
      const all = await screenedAt(trx, ids, round, list.zone, at)
      if (all.length !== ids.length) throw new Overtaken('Premises on the list were withdrawn while the round was being released.')
      return { all, letters: lettersAt(all, basis.choice, list.zone, at) }
    }
    const { all, letters } = await made(begun)
    refuseOthers(letters, confirmed)
    await insertLetters(trx, id, all, letters)
    await insertNamedToCome(trx, id, letters.letters, begun)
    await writeFile(trx, round, list.name, letters)
    await writeReleased(trx, actor, round, letters, begun)
    const at = await shutGate(trx)
    await unchanged()
    if (localDate(at.getTime(), list.zone) !== localDate(begun.getTime(), list.zone))
      throw new Overtaken('A new day began while the round was being released.')
    if (printOf((await made(at)).letters) !== printOf(letters))
      throw new Overtaken('Premises, or people who are there, changed or were suppressed while the round was being released.')
    await updateLettersReleased(trx, {
      id,
      editionId: basis.edition.id,
      uses: basis.page.uses,
      choice: basis.choice,
      figures: { letters: letters.figures },
      at,
      actorId: actor.id,
    })
  })
  log.info({ round: id, premises: ids.length }, 'round of premises released')
}

function refuseOthers({ figures }: LettersMade, confirmed: ConfirmedLetters): void {
  if (figures.letters === 0) throw new Refused('No letter may go to any of these premises, so there is nothing to release.')
  if (figures.letters > confirmed.letters)
    throw new Refused(
      `The list, or what is held back, changed since you confirmed: ${countText(figures.letters)} letters can go, not ${countText(confirmed.letters)}. Nothing was released. Look at the letters once more, then release the round.`,
    )
}

const printOf = ({ held, letters }: LettersMade): string => JSON.stringify([[...held], letters])

async function writeFile(trx: Knex, round: RoundRow, list: string, { letters }: LettersMade): Promise<void> {
  const bytes = await writeCsv(LETTERS_HEADING, lettersRows(letters, region()))
  const name = `${slugOf(list, 'list')}-round-${round.number}-letters.csv`
  await insertFile(trx, { round_id: round.id, channel: 'post', name, bytes, rows: letters.length }, bytes)
}

async function writeReleased(trx: Knex, actor: Actor, round: RoundRow, { letters }: LettersMade, at: Date): Promise<void> {
  const premises = letters.flatMap((letter) => letter.premises)
  await writeEntries(trx, entriesOfPremises(actor, round, premises, { kind: 'released', at, result: 'post' }), at)
}
