import { contactedIn } from '@/core/rounds/results'
import type { TrendPage, TrendRow } from '@/core/views/result-views'
import { db } from '@/db/connection'
import { newestFitCheck } from '@/db/rounds/fit-rows'
import { releasedRounds } from '@/db/rounds/result-rows'
import { withSupplements } from '@/db/rounds/round-rows'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { closingsNow } from './round-results'
import { stateOf } from './rounds'

/** More rounds than this one does not look back over at once. */
const MOST = 24

/** The released rounds of a list, to see how it goes from one to the next. */
export async function roundsOfList(actor: Actor, id: number): Promise<TrendPage> {
  const list = await listFor(actor, id)
  if (list.subject !== 'person')
    throw new Refused('The rounds of this list send letters to premises. Each tells on its own page who joined and left.', 'not found')
  const found = await releasedRounds(db(), id, MOST + 1)
  const rounds: TrendRow[] = []
  for (const { round, closing } of (await closingsNow(found.slice(0, MOST))).reverse()) {
    const added = (await withSupplements(db(), round)).slice(1)
    const withAdded = (own: number, of: 'opening' | 'anyone') =>
      added.reduce((sum, { figures }) => sum + (figures?.screening[of] ?? 0), own)
    const joined = round.figures?.requalified?.listed.joined
    const check = await newestFitCheck(db(), round.id)
    rounds.push({
      id: round.id,
      number: round.number,
      releasedAt: (round.released_at as Date).toISOString(),
      state: stateOf(round),
      listed: withAdded(round.figures?.screening.opening ?? 0, 'opening'),
      clear: withAdded(round.figures?.screening.anyone ?? 0, 'anyone'),
      joined: joined === undefined ? null : withAdded(joined, 'opening'),
      left: round.figures?.requalified?.listed.left ?? null,
      fit: check ? (await tallyOf(db(), check)).whole.share : null,
      contacted: contactedIn(closing.counts),
      reached: closing.counts.answered + closing.counts.reached,
      answered: closing.counts.answered,
      optOuts: closing.optOuts,
    })
  }
  return { listId: id, list: list.name, rounds, more: found.length > MOST }
}
