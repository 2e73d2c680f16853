import { countryName } from '@/core/clean/country'
import { RECIPIENTS } from '@/core/rounds/letter-choice'
import type { LetterFigures } from '@/core/rounds/premises-letters'
import { REASON_NAME } from '@/core/records/suppression'
import { type HeldPremises, PREMISES_RULE_NAME, type ScreenedPremises } from '@/core/screening/premises'
import { placeText } from '@/core/text/place'
import { dateText } from '@/core/text/written'
import type { HeldPremisesRow, LetterRow, PremisesRoundAccount, PremisesRoundView } from '@/core/views/premises-round-views'
import { db, type Knex } from '@/db/connection'
import type { ListRow } from '@/db/lists/list-rows'
import { premisesNames } from '@/db/directory/premises-rows'
import { heldPage, type LetterRowOf, lettersHeld, lettersOf, premisesIn, standOf } from '@/db/rounds/premises-round-rows'
import { releasedBefore, type RoundRow } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import { PAGE } from '@/usecases/lists/list-account'
import { sentenceCase } from '@/usecases/screening/evidence'
import type { Actor } from '@/usecases/team/actor'
import { lettersAt, membersOf, premisesBasis, premisesRoundFor, screenedAt } from './premises-rounds'

type Page = Pick<PremisesRoundAccount, 'total' | 'letters' | 'held'>

/** The account of a round of premises and a page of its letters, or of what got none: worked out anew while it is built, frozen once released. */
export async function screenPremisesRound(actor: Actor, id: number, view: PremisesRoundView, offset = 0): Promise<PremisesRoundAccount> {
  const { round, list } = await premisesRoundFor(actor, id)
  return round.released_at ? frozen(round, view, offset) : building(round, list, view, offset)
}

async function building(round: RoundRow, list: ListRow, view: PremisesRoundView, offset: number): Promise<PremisesRoundAccount> {
  const basis = await premisesBasis(db(), round, list.id)
  const at = now()
  const ids = await membersOf(basis, list.zone)
  const all = await screenedAt(db(), ids, round, list.zone, at)
  const { figures, held, letters } = lettersAt(all, basis.choice, list.zone, at)
  const to = RECIPIENTS.find((other) => other !== basis.choice.to) as (typeof RECIPIENTS)[number]
  const other = lettersAt(all, { ...basis.choice, to }, list.zone, at).figures
  const names = new Map(all.map((own) => [own.id, own]))
  const heldNow = [...held].filter(([, why]) => view.tab !== 'rule' || why.rule === view.rule)
  const shown = view.tab === 'letters' ? letters.slice(offset, offset + PAGE) : []
  return {
    figures,
    other: { to, clear: other.clear, letters: other.letters, abroad: other.abroad, several: other.several },
    print: basis.print,
    ...(await comparedWith(round, ids, view, offset, {
      total: view.tab === 'letters' ? letters.length : heldNow.length,
      letters: shown.map((letter, i) => ({
        number: offset + i + 1,
        addressee: letter.addressee,
        place: placeText({ ...letter.postal, country: letter.country }),
        about: letter.about,
        premises: letter.premises[0],
        postedOn: null,
        outcome: null,
        stopped: null,
      })),
      held:
        view.tab === 'held' || view.tab === 'rule'
          ? heldNow
              .map(([id, why]) => heldRow(id, (names.get(id) as ScreenedPremises).name, why))
              .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.id - b.id))
              .slice(offset, offset + PAGE)
          : [],
    })),
    stand: null,
  }
}

/** The letters that must not leave, with the reason: as of now, or of a closed round as of its closing, after which none leaves. */
export const heldOf = (trx: Knex, round: RoundRow) => lettersHeld(trx, round.id, round.closed_at ?? now())

/** A released round, as it was frozen, and what became of its letters since. */
async function frozen(round: RoundRow, view: PremisesRoundView, offset: number): Promise<PremisesRoundAccount> {
  const figures = (round.figures as unknown as { letters: LetterFigures }).letters
  const heldNow = await heldOf(db(), round)
  const page: Page = { total: figures.letters, letters: [], held: [] }
  if (view.tab === 'letters')
    page.letters = (await lettersOf(db(), round.id, { offset, limit: PAGE })).map((letter) => letterRow(letter, heldNow))
  if (view.tab === 'held' || view.tab === 'rule') {
    const found = await heldPage(db(), round.id, view.tab === 'rule' ? view.rule : null, { offset, limit: PAGE })
    page.total = found.total
    page.held = found.rows.map((row) => heldRow(row.id, row.name, { rule: row.held_by, reason: row.reason, detail: row.detail }))
  }
  return {
    figures,
    other: null,
    print: null,
    ...(await comparedWith(round, await premisesIn(db(), round.id), view, offset, page)),
    stand: await standOf(db(), round.id, [...heldNow.keys()]),
  }
}

/** A round beside the one before: who joined and who left; with a page of these where they are asked for. */
async function comparedWith(
  round: RoundRow,
  ids: readonly number[],
  view: PremisesRoundView,
  offset: number,
  page: Page,
): Promise<Pick<PremisesRoundAccount, 'since'> & Page> {
  const earlier = await releasedBefore(db(), round)
  if (!earlier) return { since: null, ...page }
  const before = await premisesIn(db(), earlier.id)
  const [had, have] = [new Set(before), new Set(ids)]
  const joined = ids.filter((id) => !had.has(id))
  const left = before.filter((id) => !have.has(id))
  const since = { round: earlier.number, before: before.length, joined: joined.length, left: left.length, now: ids.length }
  if (view.tab !== 'joined' && view.tab !== 'left') return { since, ...page }
  const asked = view.tab === 'joined' ? joined : left
  const shown = asked.slice(offset, offset + PAGE)
  const names = new Map((await premisesNames(db(), shown)).map((own: { id: number; name: string }) => [own.id, own.name]))
  const rule = view.tab === 'joined' ? `Not on round ${earlier.number}` : 'No longer on the list'
  return { since, total: asked.length, letters: [], held: shown.map((id) => ({ id, name: names.get(id) ?? '', rule, detail: null })) }
}

/** A letter of a released round as its table shows it. */
export const letterRow = (letter: LetterRowOf, held: ReadonlyMap<number, keyof typeof REASON_NAME>): LetterRow => {
  const reason = held.get(letter.number)
  return {
    number: letter.number,
    addressee: letter.addressee,
    place: placeText(letter),
    about: letter.about,
    premises: letter.premises[0],
    postedOn: letter.posted_on,
    outcome: letter.outcome,
    stopped: reason === undefined ? null : sentenceCase(REASON_NAME[reason]),
  }
}

function heldRow(id: number, name: string, { rule, reason, detail }: HeldPremises): HeldPremisesRow {
  const told = reason ? sentenceCase(REASON_NAME[reason]) : rule === 'written' && detail ? `a letter on ${dateText(detail)}` : detail
  return { id, name, rule: PREMISES_RULE_NAME[rule], detail: rule === 'abroad' && detail ? countryName(detail) : told }
}
