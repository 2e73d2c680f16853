import type { Channel, Way } from '@/core/records/channels'
import { CHANNEL_NAME } from '@/core/records/channels'
import { costBy, oneChannelIn } from '@/core/screening/one-channel'
import {
  CONTACTED,
  type Outcome,
  outcomeBy,
  outcomeOf,
  partOf,
  type PartedBy,
  resultsOf,
  type RoundResults,
  type Worked,
} from '@/core/rounds/results'
import { OUTCOME_TEXT, RESULTS_HEADING, resultsRows } from '@/core/text/results-csv'
import { slugOf } from '@/core/text/slug'
import { dayText } from '@/core/text/written'
import type { PeoplePage } from '@/core/views/record-views'
import type { Closing, ResultsHead, ResultsPage, ResultsView } from '@/core/views/result-views'
import { allows } from '@/core/records/list-roles'
import { db, type Knex } from '@/db/connection'
import type { ListRow } from '@/db/lists/list-rows'
import { newestFitCheck } from '@/db/rounds/fit-rows'
import { closingsOf, releasedRounds, stillThere, workedIn } from '@/db/rounds/result-rows'
import { baseOf, type RoundRow, withSupplements } from '@/db/rounds/round-rows'
import { nameOf } from '@/db/team/colleagues'
import { peoplePage } from '@/usecases/directory/people-page'
import { writeCsv } from '@/formats/write-csv'
import { PAGE } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { calledOf, roundFor, roundSlug, stateOf } from './rounds'

/** So many rounds of the list stand beside it. */
const MOST_BEFORE = 6

/** What came of a released round as it is known now, beside what it had come to when it was closed and the rounds before it. */
export async function roundResults(actor: Actor, id: number): Promise<ResultsPage> {
  const { round, list } = await roundFor(actor, id)
  const head = await resultsHead(actor, round, list)
  const check = await newestFitCheck(db(), id)
  return {
    ...head,
    called: calledOf(round),
    results: await resultsIn(db(), round),
    closing: (await closingsOf<Closing>(db(), [id])).get(id) ?? null,
    before: await before(list.id, round.number),
    supplements: await partsTold(round),
    check: !check ? null : { passed: (check.outcome ?? (await tallyOf(db(), check)).outcome) === 'passes', ended: check.ended_at !== null },
    hasEarlier: round.number > 1 && round.supplement === 0,
  }
}

/** The people behind a figure of a round's results, each with what became of them and the contact that says so. */
export async function resultPeople(actor: Actor, id: number, view: ResultsView, offset = 0): Promise<PeoplePage> {
  const { round } = await roundFor(actor, id)
  const rows = (await workedOf(db(), round)).flat().filter((row) => isIn(row, view))
  const shown = rows.slice(offset, offset + PAGE)
  const views = new Map((await peoplePage(shown.map(({ person }) => person))).map(({ view: own }) => [own.id, own]))
  return {
    total: rows.length,
    behind: null,
    people: shown.flatMap((row) => {
      const person = views.get(row.person)
      const { outcome, by } = outcomeOf(row)
      const detail = by ? `${CHANNEL_NAME[by.channel]}${by.result ? ` · ${by.result}` : ''}, ${dayText(new Date(by.at))} · ${by.by}` : ''
      return person ? [{ ...person, because: { title: OUTCOME_TEXT[outcome], detail } }] : []
    }),
  }
}

/** Everybody behind a figure who is in the directory still, to make a list of, and what it would be called. */
export async function resultIds(actor: Actor, id: number, view: ResultsView): Promise<{ name: string; ids: number[] }> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  const ids = (await workedOf(db(), round))
    .flat()
    .filter((row) => isIn(row, view))
    .map(({ person }) => person)
  const what = view.of === 'released' ? 'Released' : view.of === 'contacted' ? 'Contacted' : OUTCOME_TEXT[view.of]
  return { name: `${what} in round ${calledOf(round)} of ${list.name}`, ids: await stillThere(db(), ids) }
}

/** The account as a CSV file to keep: figures alone, and nobody's name. */
export async function resultsFile(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  mustBeOut(round)
  const slug = slugOf(list.name, 'list')
  return {
    name: `${slug}-${roundSlug(round)}-results.csv`,
    bytes: await writeCsv(RESULTS_HEADING, resultsRows(await resultsIn(db(), round))),
  }
}

/** What a round has come to, to be kept when it is closed. */
export async function closingOf(trx: Knex, round: RoundRow): Promise<Closing> {
  const { counts, optOuts, ways } = await resultsIn(trx, round)
  return { counts, optOuts, ways }
}

/** A round with its released supplements; a supplement by itself. */
const partsOfResults = async (trx: Knex, round: RoundRow): Promise<RoundRow[]> =>
  round.supplement === 0 ? await withSupplements(trx, round) : [round]

/** Everybody who was released, part by part. */
async function workedOf(trx: Knex, round: RoundRow): Promise<Worked[][]> {
  mustBeOut(round)
  const worked: Worked[][] = []
  for (const part of await partsOfResults(trx, round)) worked.push(await workedIn(trx, part))
  return worked
}

async function resultsIn(trx: Knex, round: RoundRow): Promise<RoundResults> {
  const worked = await workedOf(trx, round)
  const parts = await partsOfResults(trx, round)
  // What a contact costs is said by the rules of the part that released it.
  const each = worked.map((rows, i) => {
    const rule = oneChannelIn(parts[i].rules)
    return resultsOf(rows, (channel: Channel) => (rule ? costBy(rule, channel) : null))
  })
  if (each.length === 1) return each[0]
  const whole = resultsOf(worked.flat(), () => null)
  return { ...whole, ways: whole.ways.map((own) => ({ ...own, cost: costTogether(each, own.way) })) }
}

/** What the contacts by a way cost in all parts, in minor units; null where it is known of none. */
function costTogether(each: readonly RoundResults[], way: Way): number | null {
  const known = each.flatMap(({ ways }) => ways.find((own) => own.way === way)?.cost ?? [])
  return known.length === 0 ? null : known.reduce((sum, cost) => sum + cost, 0)
}

/** What rounds had come to when they were closed; those of which that was not kept, and those still out, as they are known now. */
export async function closingsNow(rounds: readonly RoundRow[]): Promise<{ round: RoundRow; closing: Closing }[]> {
  const kept = await closingsOf<Closing>(
    db(),
    rounds.map((own) => own.id),
  )
  const told: { round: RoundRow; closing: Closing }[] = []
  for (const round of rounds) told.push({ round, closing: kept.get(round.id) ?? (await closingOf(db(), round)) })
  return told
}

/** The supplements that a round’s figures add up, or the round that a supplement belongs to. */
async function partsTold(round: RoundRow): Promise<ResultsPage['supplements']> {
  const others = round.supplement === 0 ? (await withSupplements(db(), round)).slice(1) : [await baseOf(db(), round)]
  return others.map((own) => ({ id: own.id, called: calledOf(own), people: own.figures?.screening.anyone ?? 0 }))
}

async function before(list: number, number: number): Promise<ResultsPage['before']> {
  return (await closingsNow(await releasedRounds(db(), list, MOST_BEFORE, number))).map(({ round, closing }) => ({
    id: round.id,
    number: round.number,
    releasedAt: mustBeOut(round).toISOString(),
    ...closing,
  }))
}

/** Returns when a round was released. Refuses one that was not. */
export function mustBeOut(round: RoundRow): Date {
  if (!round.released_at) throw new Refused('This round is not released yet, so nothing has come of it. Release it first.')
  return round.released_at
}

/** What a page of results says of a released round. A supplement closes with its round. */
export async function resultsHead(actor: Actor, round: RoundRow, list: ListRow): Promise<ResultsHead> {
  const releasedAt = mustBeOut(round)
  return {
    id: round.id,
    listId: list.id,
    list: list.name,
    state: stateOf(round),
    releasedAt: releasedAt.toISOString(),
    closedAt: round.closed_at?.toISOString() ?? null,
    by: (await nameOf(db(), round.released_by ?? round.started_by))?.name ?? '',
    mayClose: round.closed_at === null && round.supplement === 0 && mayCoordinate(actor) && allows(list.role, 'use'),
    mayTake: allows(list.role, 'use'),
  }
}

function isIn(row: Worked, { of, by, key }: ResultsView): boolean {
  const { outcome, by: decided } = outcomeOf(row)
  const own = by === 'way' ? outcomeBy(row, key as never) : outcome
  if (own === null || (by !== undefined && by !== 'way' && partOf(row, by as PartedBy, decided) !== key)) return false
  return of === 'released' || (of === 'contacted' ? (CONTACTED as readonly Outcome[]).includes(own) : own === of)
}
